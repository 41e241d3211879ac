"""A batch cooked again from a moment of it: as it stood, and what would have saved it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from custard import practice
from custard.errors import Impossible, OutOfRange
from custard.formats.kept_batch import HappenedMark, KeptBatch
from custard.practice.pan import PanAttempt
from custard.process.heating import kernel
from validation.learning import pair

OUT = {"do": "out"}


def batch(cause: str = "stood") -> KeptBatch:
    return pair(cause, np.random.default_rng(5))[1]


def off_s(kept: KeptBatch) -> float:
    return next(mark.at_s for mark in kept.marks if mark.kind == "off-heat")


def begun(kept: KeptBatch, from_s: float) -> PanAttempt:
    attempt = practice.begin(practice.of_batch(kept, from_s), 1, practice.batch_conditions(kept))
    assert isinstance(attempt, PanAttempt)
    return attempt


def test_it_stands_as_the_probe_read_and_as_the_cook_had_set_it():
    kept = batch()
    at = off_s(kept) - 30
    read = np.interp(at, *np.array(kept.readings).T)
    attempt = begun(kept, at)
    assert float(attempt.y[kernel.SAUCE_C]) == pytest.approx(read, abs=1.0)
    assert 0 < attempt.y[kernel.THICKENED] < begun(kept, off_s(kept) + 20).y[kernel.THICKENED]
    assert attempt.probe_in, "the probe lay in it that day"


def test_cooked_on_as_that_day_it_goes_as_that_day():
    """On its own hob, at the flame at which it stood and stirred all over, it rises as fast as it did."""
    kept = batch()
    at = off_s(kept) - 40
    attempt = begun(kept, at)
    turns = np.linspace(0, 40 * 2 * np.pi, 400)
    radius = 0.15 + 0.75 * np.abs(np.sin(turns / 7))
    acts = [
        {"at": 30 * i / 400, "do": "stir", "x": r * np.cos(a), "y": r * np.sin(a)}
        for i, (a, r) in enumerate(zip(turns, radius, strict=True))
    ]
    for act in practice.read_acts(acts):
        attempt.take(act)
    attempt.on(30.0)
    read = np.interp([at, at + 30], *np.array(kept.readings).T)
    rose = float(attempt.y[kernel.SAUCE_C]) - begun(kept, at).y[kernel.SAUCE_C]
    assert rose == pytest.approx(read[1] - read[0], rel=0.35)


def test_what_was_left_in_its_pan_is_saved_by_pouring_it_out():
    kept = batch("stood")
    exercise = practice.of_batch(kept, off_s(kept) - 5)
    acts = practice.read_acts([{"at": 5.0, **OUT}])
    said = practice.debrief(exercise, 1, acts, 6.0, practice.batch_conditions(kept))
    real = exercise.begun
    assert real is not None
    assert real.real_bits_percent > 1, "it was spoiled that day"
    assert said.real.startswith("That day: off the heat after 0:05, at most")
    assert f"{real.real_bits_percent:.1f} % of the egg in bits" in said.real
    assert said.saved
    assert len(said.real_curve.t_s) == len(said.real_curve.sauce_c) > 20
    assert said.signs == (), "nothing is learned for the book by a part of a cook"


def test_where_nothing_saves_it_that_is_said():
    kept = batch("stood")
    last = kept.readings[-1][0] - 5
    exercise = practice.of_batch(kept, last)
    said = practice.debrief(
        exercise, 1, practice.read_acts([{"at": 0.2, **OUT}]), 1.0, practice.batch_conditions(kept)
    )
    assert said.saved.startswith("Nothing saves it from there")
    assert exercise.begun is not None
    assert not exercise.begun.lit


def test_played_again_it_is_the_same():
    kept = batch()
    exercise, conditions = practice.of_batch(kept, 100.0), practice.batch_conditions(kept)
    acts = practice.read_acts([{"at": 1.0, "do": "flame", "to": 7.0}, {"at": 20.0, **OUT}])
    one, other = (practice.replayed(exercise, 4, acts, 30.0, conditions) for _ in range(2))
    assert isinstance(one, PanAttempt)
    assert isinstance(other, PanAttempt)
    assert one.record().tobytes() == other.record().tobytes()


def test_a_weaker_hob_is_weaker_here_too():
    kept = batch()
    assert kept.hob.power_w is not None
    weak = replace(kept, hob=replace(kept.hob, power_w=kept.hob.power_w / 2))
    assert begun(weak, 60.0).hob.power == pytest.approx(begun(kept, 60.0).hob.power / 2)


@pytest.mark.parametrize(("from_s", "field"), [(-5.0, "from_s"), (1e6, "from_s")])
def test_a_moment_that_was_not_in_the_pan_is_refused(from_s, field):
    with pytest.raises(OutOfRange) as refused:
        practice.of_batch(batch(), from_s)
    assert refused.value.field == field


def test_what_nobody_read_cannot_be_cooked_again():
    spoon = HappenedMark(60.0, "spoon", coat="nappe", temperature_c=82.0)
    with pytest.raises(Impossible, match="no probe"):
        practice.of_batch(replace(batch(), readings=(), marks=(spoon,)), 10.0)
