"""What the record does not hold up is given no life until somebody decides, by name and with a reason."""

from __future__ import annotations

from datetime import timedelta

import pytest
from common import clock
from shelf.models import Tub
from stove.after import keeping
from stove.models import Batch, Mark

from tests.conftest import do, rewrite
from tests.test_cooling import FRIDGE, mark, put_away, spot

REASON = "the chef read 4 degrees on the thermometer of the chiller"


@pytest.fixture
def path(batch):
    return f"/api/k/here/batches/{batch.pk}"


def close(api, batch, **more):
    answer = api("POST", f"/api/k/here/batches/{batch.pk}/close", {"verdict": "good", **more})
    assert answer.status_code == 200, answer.content
    return Tub.objects.filter(batch=batch, what="sauce").first()


def line(api, tub):
    found = api("GET", "/api/k/here/shelf").json()["tubs"]
    return next(one for one in found if one["id"] == tub.pk)


def test_closed_out_of_the_blue_it_is_not_to_be_used(cook, batch):
    """From Weigh straight to good and Close."""
    tub = close(cook, batch)
    assert tub.life["missing"] == [keeping.NO_HEAT, keeping.NO_COOLING]
    shown = line(cook, tub)
    assert shown["undecided"]
    assert shown["past"]
    label = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()[0]
    assert label["throw_away"].startswith("Not to be used until somebody decides: No temperature")
    tasks = cook("GET", "/api/k/here/closing").json()["tasks"]
    assert [one["kind"] for one in tasks if one["tub_id"] == tub.pk] == ["decide"]


@pytest.mark.parametrize("kind", ["used", "frozen", "warm", "split"])
def test_nothing_is_done_with_it_before_that_whatever_is_said(cook, batch, kind):
    tub = close(cook, batch)
    more = {"used": {"grams": 10, "to": "x"}, "split": {"grams": 10}, "warm": {"celsius": 65}}.get(kind, {})
    answer = do(cook, tub, kind, anyway=True, note="it looks good", **more)
    assert answer.status_code == 409
    assert answer.json()["detail"].startswith("Not to be used until somebody decides")


def test_a_decision_gives_its_tubs_a_life_and_stands_in_the_record(cook, batch):
    tub = close(cook, batch)
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/decision", {"reason": REASON})
    assert answer.status_code == 200
    shown = line(cook, Tub.objects.get(pk=tub.pk))
    assert not shown["undecided"]
    assert not shown["past"]
    assert f"decided by cook there: {REASON}"[:60] in shown["use_by_why"]
    decided = Mark.objects.get(batch=batch, kind="decided")
    assert (decided.note, decided.by.username) == (REASON, "here-cook")


def test_a_decision_says_why(cook, batch):
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/decision", {"reason": " "})
    assert answer.status_code == 422
    assert "reason" in answer.json()["fields"][0]["field"]


def cooked(cook, path):
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=81.5))


def test_read_in_time_it_needs_no_decision(cook, path, batch):
    began = put_away(cook, path, batch, 80)
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=82, at=began.isoformat()))
    cook("PUT", f"{path}/cooling", {**FRIDGE, "ways": [{"by": "ice-bath", "stirred": True}]})
    for minutes, celsius in ((5, 60), (15, 38), (40, 12), (60, 6)):
        spot(cook, path, began + timedelta(minutes=minutes), celsius)
    assert close(cook, batch).life["missing"] == []


def test_a_slow_plan_that_nobody_read_asks_for_a_decision(cook, path, batch):
    """Two and a half kilograms in one bowl in the fridge, chosen, and never read."""
    cooked(cook, path)
    cook("PUT", f"{path}/cooling", FRIDGE)
    began = clock.now() - timedelta(minutes=5)
    rewrite(Batch.objects.filter(pk=batch.pk), started_at=began - timedelta(hours=1))
    cook("POST", f"{path}/marks", mark("into-ice", "chill", at=began.isoformat()))
    assert close(cook, batch).life["missing"] == [keeping.SLOW_PLAN]


def test_what_was_read_too_slow_is_thrown_away_whoever_decides(cook, path, batch):
    began = put_away(cook, path, batch, 60 * 8)
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=82, at=began.isoformat()))
    spot(cook, path, began + timedelta(minutes=150), 40)
    spot(cook, path, began + timedelta(minutes=400), 25)
    cook("POST", f"/api/k/here/batches/{batch.pk}/decision", {"reason": REASON})
    tub = close(cook, batch, kept_g=300)
    assert tub.life["chilled_h"] == 0
    assert line(cook, tub)["past"]


def test_forty_degrees_are_not_cold(cook, path):
    answer = cook("POST", f"{path}/marks", mark("done", "chill", temperature_c=40))
    assert answer.status_code == 422
    assert "is not cold yet" in answer.json()["detail"]
    assert cook("POST", f"{path}/marks", mark("done", "chill", temperature_c=5)).status_code in (200, 201)


SHOWN = (mark("spoon", "test", coat="nappe", finger_line="holds"), mark("bubbles", "cook"))


@pytest.mark.parametrize("shown", SHOWN, ids=["spoon", "bubbles"])
def test_a_coated_spoon_and_bubbles_show_heat_as_a_probe_does(cook, path, batch, shown):
    cook("POST", f"{path}/marks", {**shown, "at": clock.now().isoformat()})
    assert close(cook, batch).life["missing"] == [keeping.NO_COOLING]


def test_another_decision_of_its_cooling_lets_nothing_be_used(cook, path, batch):
    """What is written down at a missed limit, "thrown away", is a decision too."""
    cook("POST", f"{path}/marks", mark("decided", "chill", note="thrown away, the chef was told"))
    assert close(cook, batch).life["missing"]


def test_the_decision_itself_is_not_taken_back(cook, path, batch):
    cook("POST", f"{path}/decision", {"reason": REASON})
    found = Mark.objects.get(batch=batch, kind="decided")
    assert cook("POST", f"{path}/marks/{found.pk}/withdraw").status_code == 409


def test_nothing_of_it_is_promised(cook, batch):
    tub = close(cook, batch)
    answer = cook("POST", f"/api/k/here/tubs/{tub.pk}/promises", {"grams": 50, "dish": "tart"})
    assert answer.status_code == 409


@pytest.mark.parametrize(("read", "later_h", "kept"), [(16, 1, True), (16, 30, False), (5, 30, True)])
def test_a_typed_reading_holds_for_the_limits_whose_time_is_over(cook, path, batch, read, later_h, kept):
    """21 degrees after 2 h and 5 after 6: what was read at 16 holds until the second is due."""
    rewrite(Batch.objects.filter(pk=batch.pk), conditions={**batch.conditions, "rule": "us"})
    began = clock.now() - timedelta(hours=1.5)
    rewrite(Batch.objects.filter(pk=batch.pk), started_at=began - timedelta(hours=1))
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=82, at=began.isoformat()))
    cook("POST", f"{path}/marks", mark("spot", "chill", temperature_c=read))
    with clock.at(clock.now() + timedelta(hours=later_h)):
        assert (close(cook, batch).life["missing"] == []) == kept
