"""After the cook: plan and fact in words, and what the curve teaches about hob and pan."""

from __future__ import annotations

import uuid
from datetime import timedelta

import custard
import pytest
from common import clock
from devices import actions as devices
from devices.models import Reading
from kitchen import actions as larder
from kitchen.models import Hob, Pan
from stove import actions as stove
from stove import marking, setting_up
from stove.models import Batch
from stove.schemas import EquipmentWanted, NewMark

from tests.conftest import ANGLAISE, close, formula_of, rewrite, work_off

COOKED_S, PROMISED_W = 400.0, 300.0


@pytest.fixture
def hob(here):
    return larder.add_hob(here["chef"], "front ring", PROMISED_W, over_steam=False)


@pytest.fixture
def pan(here):
    return larder.add_pan(here["chef"], "small pan", "clad")


def cooked(here, version, hob, pan, *, power=420.0, pace=1.0, lifted=True) -> Batch:
    """A batch cooked on a hob that really gives `power`, its probe read every two seconds."""
    actor = here["cook"]
    batch = stove.start(actor, version.formula_id, 1, formula_of(ANGLAISE), pace)
    probe = devices.register(here["chef"], "probe", devices.new_token(), "probe")
    setting_up.set_up(actor, batch.pk, EquipmentWanted(probe_id=probe.pk, hob_id=hob.pk, pan_id=pan.pk))
    result = custard.assess(formula_of(ANGLAISE))
    stove_ = custard.process.Stove(power_w=power)
    curve = custard.process.cook(result.pan, 68, 81, stove_, left_in_pan_s=12)
    rows = {float(t): float(c) for t, c in zip(curve.column(0), curve.column(1), strict=True)}
    # What is still on the heat was read just now.
    began = clock.now() - timedelta(seconds=(COOKED_S if lifted else max(rows)) / pace)
    rewrite(batch.probes.all(), since=began)

    def mark(kind, stage, at_s, **more):
        at = began + timedelta(seconds=at_s / pace)
        marking.mark(actor, batch.pk, NewMark(id=uuid.uuid4(), kind=kind, stage=stage, at=at, **more))

    for stage in ("weigh", "warm", "temper"):
        mark("done", stage, 0)
    Reading.objects.bulk_create(
        Reading(device=probe, at=began + timedelta(seconds=t / pace), celsius=round(c, 1))
        for t, c in rows.items()
    )
    if lifted:
        mark("off-heat", "cook", curve.lift_s)
        mark("spoon", "test", curve.lift_s + 8, coat="nappe", finger_line="holds")
        mark("into-ice", "chill", curve.lift_s + 12)
    return batch


def closed(here, batch, verdict="good") -> Batch:
    """Closed, and looked back on by a worker."""
    close(here["cook"], batch, verdict=verdict)
    work_off()
    batch.refresh_from_db()
    return batch


def test_the_curve_teaches_the_hob(here, version, hob, pan):
    batch = cooked(here, version, hob, pan)
    told = closed(here, batch)
    assert "front ring gave" in told.after[0]
    assert "more than planned" in told.after[0]
    hob.refresh_from_db()
    assert PROMISED_W < hob.power_w < 440
    assert hob.power_spread < 0.2
    assert hob.batches == 1
    pan.refresh_from_db()
    assert pan.batches == 1
    assert 0.7 < pan.heat_share < 1.3


def test_a_curve_that_contradicts_what_is_known_of_a_pan_is_doubted_and_said(here, version, hob, pan):
    """A cast-iron heat in what is kept as a thin pan."""
    Pan.objects.filter(pk=pan.pk).update(heat_share=0.15, heat_spread=0.05, batches=9)
    pan.refresh_from_db()
    batch = closed(here, cooked(here, version, hob, pan))
    assert batch.fitted_pan_share > 0.3
    known = Pan.objects.get()
    assert known.heat_share < 0.25
    assert any("One batch is not believed so far" in said and pan.name in said for said in batch.after)


def test_what_was_taught_is_used_next_time(here, chef, version, hob, pan):
    for _ in range(2):
        closed(here, cooked(here, version, hob, pan))
    told = chef("GET", "/api/k/here/hearth").json()["hobs"][0]
    assert told["power_w"] == pytest.approx(420, rel=0.06)
    assert told["batches"] == 2
    batch = cooked(here, version, hob, pan)
    work_off()
    opened = chef("GET", f"/api/k/here/batches/{batch.pk}/live").json()
    assert opened["pan"]["promised_w"] == pytest.approx(420, rel=0.06)
    told = closed(here, batch)
    assert "what was planned" in told.after[0]


def test_a_batch_closed_twice_teaches_once(here, version, hob, pan):
    batch = cooked(here, version, hob, pan)
    closed(here, batch)
    stove.reopen(here["cook"], batch.pk)
    closed(here, batch, "usable")
    assert Hob.objects.get().batches == 1


def test_a_rehearsal_teaches_nothing(here, version, hob, pan):
    told = closed(here, cooked(here, version, hob, pan, pace=10))
    assert told.after
    assert Hob.objects.get().batches == Pan.objects.get().batches == 0


def test_a_batch_without_a_probe_closes_as_ever(here, version):
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert closed(here, batch).after == []


def test_a_hob_taken_off_the_list_leaves_its_batches(here, chef, version, hob, pan):
    batch = cooked(here, version, hob, pan)
    assert chef("DELETE", f"/api/k/here/hobs/{hob.pk}").status_code == 200
    assert chef("GET", f"/api/k/here/batches/{batch.pk}").json()["hob"] == ""
    assert closed(here, batch).after[0].startswith("the hob gave")


def test_two_hobs_do_not_share_a_name(chef, hob):
    answer = chef("POST", "/api/k/here/hobs", {"name": "Front Ring"})
    assert answer.status_code == 409


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"name": ""}, "name"),
        ({"name": "x", "power_w": -3}, "power_w"),
        ({"name": "x", "power_w": "hot"}, "power_w"),
    ],
)
def test_a_hob_that_cannot_be_is_refused_by_its_field(chef, body, field):
    answer = chef("POST", "/api/k/here/hobs", body)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == field


def test_the_strip_puts_the_most_urgent_first(here, cook, version, hob, pan):
    """Of all that is open, however much was begun since."""
    hot = cooked(here, version, hob, pan, lifted=False)
    for _ in range(8):
        stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    work_off()
    rows = cook("GET", "/api/k/here/urgent").json()
    assert len(rows) == 6
    assert rows[0]["id"] == hot.pk
    assert rows[0]["urgency"] > rows[1]["urgency"] == 0
