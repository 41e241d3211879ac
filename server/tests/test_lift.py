"""The number to lift at follows the hob and the pan that are chosen, with no probe in the sauce."""

from __future__ import annotations

from kitchen import actions as kitchen
from stove.live.moment import planned_say
from stove.models import Batch

from tests.conftest import mark


def test_another_pan_is_another_number(here, cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    before = cook("GET", path).json()["lift"]
    iron = kitchen.add_pan(here["chef"], "the iron one", "cast-iron")
    assert cook("PUT", f"{path}/setup", {"pan_id": iron.pk}).status_code == 200
    opened = cook("GET", path).json()
    after = opened["lift"]
    assert after["at_c"] < before["at_c"] - 0.5
    # One number wherever it is told: the stage, its sentence, the record.
    stage = next(one for one in opened["plan"]["stages"] if one["stage"] == "cook")
    assert stage["at_c"] == after["at_c"]
    assert f"{{{after['at_c']:.1f} C}}" in stage["say"]
    record = cook("GET", f"{path}/record").json()["batches"][0]
    assert after["at_c"] in [one["at_c"] for one in record["targets"]]
    assert after["lands_c"] > after["at_c"]


def test_over_steam_what_cannot_boil_says_so(here, cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    bath = kitchen.add_hob(here["chef"], "bain-marie", 1500, over_steam=True)
    assert cook("PUT", f"{path}/setup", {"hob_id": bath.pk}).status_code == 200
    assert cook("GET", path).json()["lift"]["cannot"] == ""


def test_the_page_and_what_is_said_have_one_number(here, cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    iron = kitchen.add_pan(here["chef"], "the iron one", "cast-iron")
    cook("PUT", f"{path}/setup", {"pan_id": iron.pk})
    for stage in ("weigh", "warm", "temper"):
        cook("POST", f"{path}/marks", mark("done", stage))
    found = Batch.objects.get(pk=batch.pk)
    assert found.stage == "cook"
    assert f"{{{found.lift['at_c']:.1f} C}}" in planned_say(found)


def test_trouble_says_the_same_number_for_next_time(here, cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    iron = kitchen.add_pan(here["chef"], "the iron one", "cast-iron")
    cook("PUT", f"{path}/setup", {"pan_id": iron.pk})
    for stage in ("weigh", "warm", "temper", "cook"):
        cook("POST", f"{path}/marks", mark("done", stage))
    lift = cook("GET", path).json()["lift"]
    found = cook("POST", "/api/k/here/trouble", {"batch_id": batch.pk, "fault": "too-thin"}).json()
    said = [cause["next"] for cause in found["causes"]]
    assert f"Lift it at {{{lift['at_c']:.1f} C}}, or where the finger line holds." in said
