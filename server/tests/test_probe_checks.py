"""A probe is checked in ice and boiling water; from then on what it reads is put right, everywhere alike."""

from __future__ import annotations

from datetime import timedelta

import custard.learning
import pytest
from common import clock
from devices import actions as devices
from devices.actions import take_readings
from devices.models import ProbeCheck
from devices.schemas import NewReading
from kitchen.models import LearnedSauce
from log.templatetags.printing import taken_off
from stove import actions as stove
from stove import reads
from stove.batch.cooking import cooking, read_by_probes
from stove.models import Batch, ProbeUse

from tests.conftest import ANGLAISE, formula_of, mark, rewrite, work_off
from tests.test_learning import cooked

CHECKS = "/api/k/here/devices/checks"


@pytest.fixture
def probe(here):
    return devices.register(here["chef"], "stick probe", devices.new_token(), "probe")


def checked(api, probe, **read):
    return api("POST", f"/api/k/here/devices/{probe.pk}/checks", read)


def lies_in(api, batch, probe):
    answer = api("PUT", f"/api/k/here/batches/{batch.pk}/setup", {"probe_id": probe.pk})
    assert answer.status_code == 200, answer.content


def test_a_check_says_how_far_it_reads_too_high(cook, probe):
    made = checked(cook, probe, ice_c=0.6, boil_c=101.2).json()
    assert made["boils_c"] == pytest.approx(100, abs=0.1)
    assert made["reads_high_k"] == pytest.approx(0.6 + 0.82 * 0.64, abs=0.06)
    [known] = [one for one in cook("GET", "/api/k/here/devices").json() if one["id"] == probe.pk]
    assert known["reads_high_k"] == made["reads_high_k"]
    assert [one["id"] for one in cook("GET", CHECKS).json()] == [made["id"]]
    checked(cook, probe, boil_c=100.2)
    assert cook("DELETE", f"{CHECKS}/{made['id']}").status_code == 409, "a later one counts"
    assert ProbeCheck.objects.count() == 2


@pytest.mark.parametrize(
    ("read", "status", "field"),
    [({}, 422, None), ({"ice_c": 9.0}, 422, "ice_c"), ({"boil_c": 400}, 422, "boil_c")],
)
def test_what_is_no_check_is_refused(cook, probe, read, status, field):
    answer = checked(cook, probe, **read)
    assert answer.status_code == status
    assert field is None or field in [one["field"] for one in answer.json()["fields"]]
    assert not ProbeCheck.objects.exists()


def test_what_it_reads_now_is_shown_while_it_is_checked(cook, probe):
    now = f"/api/k/here/devices/{probe.pk}/now"
    assert cook("GET", now).json() == {"celsius": None, "spread_k": None}
    at = clock.now()
    read = [NewReading(at=at - timedelta(seconds=s), celsius=0.4 + 0.1 * s) for s in range(3)]
    take_readings(probe, read)
    assert cook("GET", now).json() == {"celsius": 0.5, "spread_k": 0.2}


def test_readings_are_put_right_in_the_batch_and_its_file_replays_as_it_was(cook, batch, probe):
    checked(cook, probe, ice_c=1.0, boil_c=101.0)
    began = clock.now() - timedelta(minutes=10)
    rewrite(Batch.objects.filter(pk=batch.pk), started_at=began - timedelta(minutes=5))
    for stage in ("weigh", "warm", "temper"):
        at = {"at": began.isoformat()}
        assert (
            cook("POST", f"/api/k/here/batches/{batch.pk}/marks", mark("done", stage) | at).status_code == 200
        )
    lies_in(cook, batch, probe)
    rewrite(ProbeUse.objects.all(), since=began)
    seconds = range(0, 400, 2)
    read = [NewReading(at=began + timedelta(seconds=s), celsius=62 + 0.05 * s) for s in seconds]
    take_readings(probe, read)
    row = reads.standing().get(pk=batch.pk)
    off = ProbeUse.objects.get().reads_high_k
    assert off == pytest.approx(1.0, abs=0.06)
    assert read_by_probes(row, began, None)[0][1] == pytest.approx(62 - off)
    record = cook("GET", f"/api/k/here/batches/{batch.pk}/record").json()
    probed = [one for one in record["batches"][0]["temperatures"] if one["read_by"] == "probe"]
    assert {one["taken_off_k"] for one in probed} == {round(off, 2)}
    assert taken_off(1.0, "metric") == "1.0 °C taken off after its check"
    assert taken_off(-1.0, "us") == "1.8 °F added after its check"
    kept = reads.as_file(row)
    assert kept.readings[0][1] == pytest.approx(62), "a file has them as the probe gave them"
    assert (kept.probe.reads_high_k, kept.probe.checked_on) == (off, f"{clock.now():%Y-%m-%d}")
    cook_of = cooking(row, began + timedelta(seconds=300))
    assert cook_of is not None
    last = cook_of.history.readings[-1]
    [state] = custard.learning.replayed(kept, (300.0,))["states"]
    assert state["state"]["sauce_c"] == pytest.approx(last[1], abs=0.6)
    # What is found later changes nothing of a batch that was begun before.
    checked(cook, probe, ice_c=0.0, boil_c=100.0)
    assert ProbeUse.objects.get().reads_high_k == off


def test_whose_eggs_there_were_is_kept_with_the_batch(chef, cook, here, version):

    answer = chef("PATCH", "/api/k/here", {"egg_source": "the hens by the mill"})
    assert answer.json()["egg_source"] == "the hens by the mill"
    here["cook"].kitchen.refresh_from_db()
    made = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert reads.as_file(reads.standing().get(pk=made.pk)).egg_source == "the hens by the mill"


def test_other_eggs_are_in_part_a_new_beginning(here, chef, version):
    for day in range(4):
        cooked(here, version, ago_min=200 - 40 * day)
    work_off()
    before = LearnedSauce.objects.get(formula=ANGLAISE["name"]).figures["set_k"]
    chef("PATCH", "/api/k/here", {"egg_source": "the hens by the mill"})
    work_off()
    after = LearnedSauce.objects.get(formula=ANGLAISE["name"]).figures["set_k"]
    assert 0 < after["mean"] < 0.9 * before["mean"]
    chef("PATCH", "/api/k/here", {"egg_source": ""})
    work_off()
    again = LearnedSauce.objects.get(formula=ANGLAISE["name"]).figures["set_k"]
    assert again["mean"] == pytest.approx(before["mean"], abs=0.02), "the old hens are back"
