"""An attempt is its seed and its acts: the same to the bit however it is asked, and nothing hidden told."""

from __future__ import annotations

import json

import custard
import numpy as np
import pytest
from custard import practice
from custard.practice import Act
from custard.process.heating import kernel
from hypothesis import given, settings
from hypothesis import strategies as st
from trainees import FOLLOWS, careful, debriefed, play

PANS = ("nappe", "turned-up", "called-away", "turn", "sabayon-hot", "rescue")


@pytest.mark.parametrize("key", PANS)
def test_the_same_acts_give_the_same_pan_to_the_bit(key):
    exercise, seed, acts, until_s = play(key, 3, FOLLOWS[key], longest_s=150.0)
    at_once = practice.replayed(exercise, seed, acts, until_s)
    often = practice.begin(exercise, seed)
    left = list(acts)
    for at_s in np.arange(0.0, until_s + 0.07, 0.07):
        while left and left[0].at_s <= at_s:
            often.take(left.pop(0))
        often.on(float(at_s))
        often.picture()
    often.on(until_s)
    assert np.array_equal(at_once.y, often.y)
    assert np.array_equal(at_once.spots, often.spots)
    assert np.array_equal(at_once.record(), often.record())
    assert at_once.picture() == often.picture()


def test_another_seed_is_another_hob():
    first, second = (practice.begin(practice.exercise("nappe"), seed) for seed in (1, 2))
    for attempt in (first, second):
        attempt.on(60.0)
    assert first.y[kernel.SAUCE_C] != second.y[kernel.SAUCE_C]


def test_nothing_hidden_is_in_a_picture():
    """No figure of a picture is the temperature, nor moves with it as closely."""
    exercise = practice.exercise("nappe")
    attempt = practice.begin(exercise, 1)
    attempt.on(100.0)
    shown = json.dumps(custard.plain(attempt.picture()))
    sauce_c = attempt.y[kernel.SAUCE_C]
    for decimals in (0, 1, 2):
        assert f"{sauce_c:.{decimals}f}" not in shown
    assert attempt.picture().probe_c is None
    attempt.take(Act(100.0, "probe"))
    assert attempt.picture().probe_c is not None


def test_a_probe_that_lags_reads_late():
    attempt = practice.begin(practice.exercise("lagging"), 1)
    attempt.on(120.0)
    assert attempt.picture().probe_c < attempt.y[kernel.SAUCE_C] - 1


def test_acts_after_the_end_and_while_away_change_nothing():
    exercise = practice.exercise("called-away")
    attempt = practice.begin(exercise, 1)
    away_s = attempt.hob.surprise_s
    attempt.take(Act(away_s + 1, "off"))
    assert attempt.lit
    assert attempt.picture().phase == "away"
    attempt.take(Act(away_s + 30, "out"))
    ended = attempt.y.copy()
    attempt.take(Act(away_s + 31, "flame", {"to": 10.0}))
    attempt.on(away_s + 60)
    assert np.array_equal(attempt.y, ended)


def test_left_alone_a_spot_shows_its_film_and_where_it_is():
    attempt = practice.begin(practice.exercise("nappe"), 1)
    at_s = 0.0
    while at_s < 230:
        at_s += 0.2
        attempt.take(Act(at_s, "stir", {"x": 0.5 + 0.3 * np.sin(5 * at_s), "y": 0.5 * np.cos(4 * at_s)}))
    attempt.on(at_s)
    picture = attempt.picture()
    films = [spot.film for spot in picture.pan.spots]
    assert films[9] > 0
    assert films[5] == 0
    assert any("film" in tell and "left" in tell for tell in picture.tells)


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ([{"at": 2, "do": "dip"}, {"at": 1, "do": "dip"}], "not be before"),
        ([{"at": 0, "do": "sing"}], "nothing one can do"),
        ([{"at": 0, "do": "stir", "x": 0.1}], "must be a number"),
        ([{"at": 0, "do": "flame", "to": 11}], "from 0 to 10"),
        ([{"at": float("nan"), "do": "dip"}], "must be a number"),
        ([{"at": -1, "do": "dip"}], "from 0 to"),
        ([{"at": 0, "do": "chill", "depth_mm": 30, "by": "the sea"}], "fridge, ice-bath"),
        ([{"at": 0, "do": "chill", "depth_mm": 30}], "fridge, ice-bath"),
    ],
)
def test_acts_that_cannot_be_are_refused_by_a_sentence(rows, says):
    with pytest.raises(custard.CustardError, match=says):
        practice.read_acts(rows)


def test_again_from_a_moment_is_the_same_up_to_there():
    exercise, seed, acts, _ = play("nappe", 3, careful)
    upto = tuple(act for act in acts if act.at_s < 90.0)
    whole = practice.replayed(exercise, seed, upto, 90.0)
    again = practice.replayed(exercise, seed, acts, acts[-1].at_s)
    rows = whole.record().shape[0]
    assert np.array_equal(whole.record(), again.record()[:rows])


def test_a_debrief_tells_the_whole_of_it():
    said = debriefed("nappe", 3, careful)
    assert len(said.curve.t_s) == len(said.curve.sauce_c) == len(said.curve.base_c)
    assert len(said.moments) == 5
    assert [moment.at_s for moment in said.moments] == sorted(moment.at_s for moment in said.moments)
    assert said.moments[-1].picture.phase == "ended"
    assert any(done.say == "spoon" for done in said.done)
    assert "%" in said.hidden
    assert said.best_curve.t_s


def test_given_up_goes_on_from_a_moment_before():
    exercise, seed, acts, until_s = play("nappe", 3, careful)
    threw = tuple(Act(act.at_s, "end") if act.do == "out" else act for act in acts)
    said = practice.debrief(exercise, seed, threw, until_s)
    assert not said.passed
    assert said.reason == "gave-up"
    assert 0 < said.again_s < until_s


def test_a_cream_that_never_boiled_is_told_so():
    acts = (Act(0.2, "flame", {"to": 1.0}), Act(40.0, "out"))
    said = practice.debrief(practice.exercise("turn"), 3, acts, 40.0)
    assert not said.passed
    assert said.reason == "starch-short"


def test_a_spoon_says_in_words_what_its_line_did():
    attempt = practice.begin(practice.exercise("nappe"), 3)
    attempt.take(Act(1.0, "dip"))
    assert attempt.picture().spoon.say == "It runs off; no line stays."


# Questions


def asked(key, seed):
    return practice.begin(practice.exercise(key), seed)


def answered(key, seed, **answer):
    figures = {name: value for name, value in answer.items() if not isinstance(value, str)}
    words = {name: value for name, value in answer.items() if isinstance(value, str)}
    return practice.debrief(practice.exercise(key), seed, (Act(5.0, "answer", figures, words),), 5.0)


@pytest.mark.parametrize("seed", range(12))
def test_a_slip_has_one_line_that_no_ratio_allows(seed):
    right = asked("slip", seed).right
    line, grams = float(right["line"]), float(right["grams"])
    shown = asked("slip", seed).question.lines[int(line)].grams
    assert not 0.4 < shown / grams < 2.5
    assert answered("slip", seed, line=line, grams=grams).passed
    other = answered("slip", seed, line=(line + 1) % 3, grams=grams)
    assert not other.passed
    assert other.reason == "wrong-line"


@pytest.mark.parametrize("seed", range(6))
def test_seven_yolks_are_the_formula_seven_sevenths(seed):
    question = asked("yolks", seed)
    yolk = next(line.grams for line in question.question.lines if line.name == "egg yolk")
    milk = next(line.grams for line in question.question.lines if line.name == "whole milk")
    yolks = yolk / custard.read_formula(ANGLAISE).egg_size.yolk_g
    right = {
        name: 7 / yolks * milk if name == "whole-milk" else grams for name, grams in question.right.items()
    }
    assert question.right["whole-milk"] == pytest.approx(right["whole-milk"], rel=0.01)
    assert answered("yolks", seed, **right).points == 100
    near = {name: 1.07 * grams for name, grams in question.right.items()}
    assert answered("yolks", seed, **near).points == 50
    assert (
        answered("yolks", seed, **{name: 2 * grams for name, grams in right.items()}).reason == "wrong-figure"
    )


ANGLAISE = {
    "format": "old-spoon/formula",
    "version": 1,
    "name": "one",
    "family": "anglaise",
    "lines": [{"ingredient": "egg-yolk", "amount": "1"}],
}


@pytest.mark.parametrize("seed", range(6))
def test_three_spoons_are_three_words(seed):
    right = asked("spoons", seed).right
    assert len(set(right.values())) == 3
    assert answered("spoons", seed, **right).passed
    wrong = dict.fromkeys(right, "pipeable")
    assert answered("spoons", seed, **wrong).reason == "wrong-word"


@pytest.mark.parametrize(
    "key", [key for key, one in practice.exercises().items() if one.kind in practice.ASKED]
)
def test_without_an_answer_nothing_is_passed(key):
    said = practice.debrief(practice.exercise(key), 1, (Act(3.0, "end"),), 3.0)
    assert not said.passed
    assert said.points == 0


# Whatever is done


any_act = st.one_of(
    st.builds(lambda x, y: ("stir", {"x": x, "y": y}, {}), st.floats(-1, 1), st.floats(-1, 1)),
    st.builds(lambda to: ("flame", {"to": to}, {}), st.floats(0, 10)),
    st.builds(lambda g: ("cream", {"g": g}, {}), st.floats(1, 2000)),
    st.builds(lambda g_s: ("pour", {"g_s": g_s}, {}), st.floats(1, 200)),
    st.builds(
        lambda by, mm, stirred: ("chill", {"depth_mm": mm}, {"by": by, "stirred": stirred}),
        st.sampled_from(("fridge", "counter", "ice-bath", "ice-only")),
        st.floats(10, 200),
        st.sampled_from(("yes", "")),
    ),
    st.builds(lambda s: ("wait", {"s": s}, {}), st.floats(10, 7200)),
    st.sampled_from(
        ("off", "on", "dip", "probe", "blend", "rest", "stop", "back", "out", "throw", "end")
    ).map(lambda do: (do, {}, {})),
)


@pytest.mark.parametrize("key", practice.exercises())
@settings(max_examples=4, deadline=None)
@given(steps=st.lists(st.tuples(st.floats(0.05, 40), any_act), max_size=12))
def test_whatever_is_done_a_debrief_can_be_read(key, steps):
    acts, at_s = [], 0.0
    for pause_s, (do, figures, words) in steps:
        at_s += pause_s
        acts.append(Act(at_s, do, figures, words))
    said = practice.debrief(practice.exercise(key), 7, tuple(acts), at_s + 5)
    assert 0 <= said.points <= 100
    assert said.most
    assert "{where}" not in said.most
    told = custard.plain(said)
    assert json.loads(json.dumps(told, allow_nan=False)) == told
