"""What an attack found in the live stove: odd curves, mixes and batches. None hides or stops another."""

from __future__ import annotations

import uuid
from datetime import timedelta

import custard
import numpy as np
import pytest
from common import clock
from devices import actions as devices
from devices.models import Reading
from django.db import OperationalError
from kitchen import actions as larder
from kitchen.models import Hob
from stove import actions as stove
from stove import marking, reads, setting_up
from stove.after import learning
from stove.live import follow
from stove.models import Batch, LiveState
from stove.schemas import EquipmentWanted, NewMark

from tests.conftest import ANGLAISE, close, formula_of, rewrite, work_off

PROMISED_W = 350.0


@pytest.fixture
def hob(here):
    return larder.add_hob(here["chef"], "front ring", PROMISED_W, over_steam=False)


def read_as(here, version, hob, curve, *, lifted=True) -> Batch:
    """A batch whose probe read a curve of (seconds, degrees) on a hob."""
    actor = here["cook"]
    last = curve[-1][0]
    began = clock.now() - timedelta(seconds=last + 5)
    with clock.at(began):
        batch = stove.start(actor, version.formula_id, 1, formula_of(ANGLAISE))
        probe = devices.register(here["chef"], f"probe {batch.number}", devices.new_token(), "probe")
        setting_up.set_up(actor, batch.pk, EquipmentWanted(probe_id=probe.pk, hob_id=hob.pk))
        for stage in ("weigh", "warm", "temper"):
            mark = NewMark(id=uuid.uuid4(), kind="done", stage=stage, at=began)
            marking.mark(actor, batch.pk, mark)
    Reading.objects.bulk_create(
        Reading(device=probe, at=began + timedelta(seconds=t), celsius=c) for t, c in curve
    )
    if lifted:
        at = began + timedelta(seconds=last + 1)
        marking.mark(actor, batch.pk, NewMark(id=uuid.uuid4(), kind="off-heat", stage="cook", at=at))
    return batch


def closed(here, batch) -> Batch:
    close(here["cook"], batch)
    work_off()
    batch.refresh_from_db()
    return batch


DULL = {
    "cold for 100 s": [(t, 5.0 + 0.01 * (t % 3)) for t in range(0, 100, 2)],
    "falling from 22 to 20": [(t, 22.0 - t / 50) for t in range(0, 100, 2)],
    "warm, then pulled out of the pan": [(t, 62.0 + t / 10 if t < 60 else 24.0) for t in range(0, 120, 2)],
    "two readings": [(0, 60.0), (2, 61.0)],
    "all at once": [(0.001 * t, 60.0 + t) for t in range(12)],
    "up and down without end": [(t, 60.0 + (20 if t % 4 else 0)) for t in range(0, 200, 2)],
}


@pytest.mark.parametrize("curve", DULL.values(), ids=DULL)
def test_a_curve_that_says_nothing_teaches_nothing_and_stops_nobody(here, version, hob, cook, curve):
    batch = closed(here, read_as(here, version, hob, curve))
    assert batch.closed_at is not None
    assert batch.taught_at is None
    assert batch.fitted_w is None
    hob.refresh_from_db()
    assert (hob.power_w, hob.batches) == (PROMISED_W, 0)
    # The next batch on that hob is followed, told of and closed like any other.
    sound = [(t, 60.0 + 6.2 * t / 100) for t in range(0, 300, 2)]
    later = read_as(here, version, hob, sound, lifted=False)
    work_off()
    live = cook("GET", f"/api/k/here/batches/{later.pk}/live").json()
    assert live["pan"]["promised_w"] == PROMISED_W
    assert cook("GET", "/api/k/here/urgent").json()[0]["id"] == later.pk
    assert closed(here, later).after


def test_a_curve_that_says_nothing_says_why(here, version, hob):
    batch = closed(here, read_as(here, version, hob, DULL["cold for 100 s"]))
    assert "says nothing of the hob: it warmed by less than 5 K" in " ".join(batch.after)


def test_four_hours_of_readings_are_looked_back_on_by_a_thinned_curve_of_their_first_hour(here, version, hob):
    """A weak flame under a big pan, never lifted: its first hour, thinned, tells what it gave."""
    power_w = 60.0
    stove_ = custard.process.Stove(power_w=power_w)
    real = custard.process.cook(
        custard.assess(formula_of(ANGLAISE)).pan, 20.0, 129.0, stove_, longest_s=4 * 3600.0
    )
    every = np.arange(0.0, 4 * 3600.0, 2.0)
    curve = list(zip(every, np.interp(every, real.column(0), real.column(1)).round(1), strict=True))
    batch = read_as(here, version, hob, curve, lifted=False)
    lesson = learning.look_back(reads.batch(here["cook"], batch.pk))
    assert lesson.measured.power_w == pytest.approx(power_w, rel=0.1)
    assert lesson.measured.readings <= 240
    assert closed(here, batch).fitted_w == pytest.approx(power_w, rel=0.1)


STARCHY_SABAYON = {
    **ANGLAISE,
    "name": "Sabayon with starch",
    "family": "sabayon",
    "lines": [
        {"ingredient": "egg-yolk", "amount": "6"},
        {"ingredient": "white-sugar", "amount": "90 g"},
        {"ingredient": "white-wine-12", "amount": "200 ml"},
        {"ingredient": "cornstarch", "amount": "14 g"},
    ],
}


def test_a_sabayon_with_starch_is_followed_to_its_boil(here, hob):
    """It mounds like any sabayon; it is never held at the boil, and no phase is without its words."""
    result = custard.assess(formula_of(STARCHY_SABAYON))
    assert result.way.name == "mounds"
    assert not result.stop.boiled
    equipment = custard.stove.Equipment(custard.process.Stove(power_w=1500, over_steam=True))
    real = custard.process.rehearse(result.way, result.pan, equipment.stove, 20.0, 1)
    readings = []
    while real.t_s < 1500:
        real.on(30.0)
        readings.append((real.t_s, round(real.probe_c, 1)))
        history = custard.stove.History(readings=readings, bubbles_s=600.0)
        seen = custard.stove.live(result, equipment, history, real.t_s)
        assert custard.stove.coach(result, equipment, history, seen, 1.0).say


def test_one_batch_that_cannot_be_followed_hides_no_other(here, version, hob, cook):
    broken = read_as(here, version, hob, DULL["two readings"], lifted=False)
    sound = read_as(here, version, hob, [(t, 60.0 + t / 20) for t in range(0, 120, 2)], lifted=False)
    content = {**broken.content, "lines": [{"ingredient": "no-longer-in-the-larder", "amount": "1 l"}]}
    rewrite(Batch.objects.filter(pk=broken.pk), content=content)
    work_off()
    rows = {row["id"]: row for row in cook("GET", "/api/k/here/urgent").json()}
    assert set(rows) == {broken.pk, sound.pk}
    assert "go by the spoon" in rows[broken.pk]["say"]
    answer = cook("GET", f"/api/k/here/batches/{broken.pk}/live")
    assert answer.json()["say"] == follow.SILENT
    assert cook("GET", f"/api/k/here/batches/{sound.pk}/live").json()["pan"] is not None
    # And it can be closed.
    assert cook("POST", f"/api/k/here/batches/{broken.pk}/close", {"verdict": "usable"}).status_code == 200
    work_off()
    assert Batch.objects.get(pk=broken.pk).closed_at is not None


def test_what_is_closed_is_followed_no_longer(here, version, hob):
    batch = closed(here, read_as(here, version, hob, DULL["two readings"]))
    assert not LiveState.objects.filter(batch=batch).exists()
    stove.reopen(here["cook"], batch.pk)
    assert LiveState.objects.filter(batch=batch).exists()


def test_a_job_done_twice_does_it_once(here, version, hob):
    sound = [(t, 60.0 + 7.5 * t / 100) for t in range(0, 280, 2)]
    batch = closed(here, read_as(here, version, hob, sound))
    assert batch.taught_at is not None
    learning.learn(batch.pk, here["cook"].user.pk)
    assert Hob.objects.get().batches == 1


def test_a_curve_that_contradicts_what_is_known_of_a_hob_is_doubted_and_said(here, version, hob):
    """A cook on a dying gas bottle turned a ring of 1500 W into one of 232."""
    Hob.objects.filter(pk=hob.pk).update(power_w=3000.0, power_spread=0.1)
    hob.refresh_from_db()
    batch = closed(here, read_as(here, version, hob, [(t, 60.0 + 7.5 * t / 100) for t in range(0, 280, 2)]))
    assert batch.fitted_w < 1000
    known = Hob.objects.get()
    assert known.power_w > 2500
    assert known.power_spread > 0.1
    assert any("One batch is not believed so far" in said and hob.name in said for said in batch.after)


@pytest.mark.parametrize("way", custard.larder.WAYS)
def test_every_phase_of_every_way_has_its_words(way):
    from custard.advice.stove.coach import _texts  # noqa: PLC0415 the table, which the door does not show
    from custard.advice.stove.doing import doing_of  # noqa: PLC0415

    texts = _texts()
    for phase in doing_of(custard.larder.WAYS[way]).phases:
        words = texts[phase] if phase in texts else texts[way][phase]
        assert words["say"]
        assert words["then"]


def test_a_state_kept_by_an_earlier_version_hides_no_batch_and_is_computed_anew(here, version, hob, cook):
    curve = [(t, 60.0 + 6.2 * t / 100) for t in range(0, 60, 2)]
    batch = read_as(here, version, hob, curve, lifted=False)
    work_off()
    state = LiveState.objects.get(batch=batch)
    state.document = {"at": state.document["at"], "pan": {"sauce_c": 70.0}}
    state.save(update_fields=["document"])
    path = f"/api/k/here/batches/{batch.pk}/live"
    assert cook("GET", path).json()["phase"] == "waiting"
    follow.want_all()
    work_off()
    assert cook("GET", path).json()["pan"]["sauce_c"] > 60


def test_a_database_that_goes_away_is_no_fault_of_the_batch_that_is_followed(here, version, hob):
    """It is computed again when the database is back, and not shown as one that nothing is known of."""
    batch = read_as(here, version, hob, [(t, 60.0 + t / 20) for t in range(0, 120, 2)], lifted=False)
    work_off()

    def gone(*asked):
        raise OperationalError("terminating connection")

    with pytest.raises(OperationalError):
        follow.compute(batch.pk, read=gone)
    assert LiveState.objects.get(batch=batch).say != follow.SILENT
