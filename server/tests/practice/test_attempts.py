"""Attempts over the API: acts in order and once, nothing hidden told, nothing real touched."""

from __future__ import annotations

import json
import uuid

import pytest
from day.models import Day
from django.db import connection
from django.test.utils import CaptureQueriesContext
from kitchen.models import AuditEntry, Hob
from practice import actions, replaying
from practice.models import Acts, Attempt
from practice.schemas import Beginning
from shelf.models import Tub
from stove.models import Batch

from tests.conftest import logged_in, printed
from tests.practice.practising import K, acts, begun, whole


def test_an_attempt_is_begun_once_and_tells_only_what_a_cook_sees(trainee):
    key = str(uuid.uuid4())
    first, again = (trainee("POST", f"{K}/attempts", {"id": key, "key": "nappe"}).json() for _ in range(2))
    assert first["id"] == again["id"]
    text = json.dumps(first)
    kept = Attempt.objects.get()
    assert str(kept.seed) not in text
    for hidden in ("seed", "power", "sauce_c", "base_c", "lag", "surprise"):
        assert f'"{hidden}' not in text
    assert first["picture"]["probe_c"] is None
    assert first["picture"]["tells"][0] == "a wisp of steam"


def test_two_that_begin_the_same_at_once_begin_one(trainee, here, monkeypatch):
    """The second finds nothing yet when it looks, and the first's when it writes."""
    wanted = Beginning(id=uuid.uuid4(), key="nappe")
    first = actions.begin(here["viewer"], wanted)
    looked = iter([None])
    really = actions._known
    monkeypatch.setattr(actions, "_known", lambda *who: next(looked, really(*who)))
    assert actions.begin(here["viewer"], wanted).pk == first.pk
    assert Attempt.objects.count() == 1


def test_acts_come_in_order_and_once(trainee):
    attempt = begun(trainee)
    flame = {"at": 1.2, "do": "flame", "to": 8}
    first = acts(trainee, attempt, 0, 2, flame)
    assert first.json()["after"] == 1
    assert first.json()["picture"]["flame"] == 8
    same = acts(trainee, attempt, 0, 2, flame)
    assert same.status_code == 200
    assert same.json() == first.json()
    other = acts(trainee, attempt, 0, 2, {**flame, "to": 3})
    assert other.status_code == 409
    assert other.json()["type"] == "out-of-step"
    skipped = acts(trainee, attempt, 5, 9)
    assert skipped.status_code == 409
    late = acts(trainee, attempt, 1, 3, {"at": 1, "do": "dip"})
    assert late.status_code == 422
    assert "before" in late.json()["detail"]
    assert Acts.objects.count() == 1


@pytest.mark.parametrize(
    ("row", "field"),
    [
        ({"at": 1, "do": "sing"}, "do"),
        ({"at": 1, "do": "flame", "to": 99}, "to"),
        ({"at": 1, "do": "stir", "x": "left", "y": 0}, "x"),
        ({"at": -1, "do": "dip"}, "at"),
        ({"do": "dip"}, "at"),
    ],
)
def test_what_is_no_act_is_refused_by_its_field_and_loses_nothing(trainee, row, field):
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 2)
    wrong = acts(trainee, attempt, 1, 3, row)
    assert wrong.status_code == 422
    assert field.rpartition(".")[2] in wrong.json()["fields"][0]["field"]
    assert acts(trainee, attempt, 1, 3).json()["after"] == 2


def test_a_way_of_cooling_that_is_none_is_refused_and_the_attempt_goes_on(trainee):
    attempt = begun(trainee, key="chill")
    wrong = acts(trainee, attempt, 0, 1, {"at": 1, "do": "chill", "by": "a draught", "depth_mm": 40})
    assert wrong.status_code == 422
    assert wrong.json()["fields"][0]["field"] == "by"
    replaying.forget()
    right = acts(trainee, attempt, 0, 1, {"at": 1, "do": "chill", "by": "ice-bath", "depth_mm": 40})
    assert right.json()["picture"]["tub"]["by"] == "ice-bath"


def test_an_attempt_takes_only_so_many_messages(trainee, monkeypatch):
    monkeypatch.setattr(actions, "MOST_MESSAGES", 2)
    attempt = begun(trainee)
    assert [acts(trainee, attempt, n, n + 1).status_code for n in range(3)] == [200, 200, 422]
    assert Acts.objects.count() == 2


def test_somebody_else_does_not_play_nor_see_it(trainee, here):
    attempt = begun(trainee)
    other = logged_in("here-cook")
    assert other("GET", f"{K}/attempts/{attempt['id']}").status_code == 404
    chef = logged_in("here-chef")
    assert chef("GET", f"{K}/attempts/{attempt['id']}").json()["mine"] is False
    assert acts(chef, attempt, 0, 1).status_code == 403


def test_a_picture_costs_few_queries(trainee):
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 1)
    with CaptureQueriesContext(
        connection,
    ) as asked:
        acts(trainee, attempt, 1, 2, {"at": 1.5, "do": "stir", "x": 0, "y": 0})
    assert len(asked) <= 10, [query["sql"] for query in asked]


def test_again_from_a_moment_keeps_what_was_before_and_the_hob(trainee):
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 30, {"at": 5, "do": "flame", "to": 9}, {"at": 25, "do": "off"})
    body = {"id": str(uuid.uuid4()), "from_s": 20}
    made = trainee("POST", f"{K}/attempts/{attempt['id']}/again", body).json()
    assert made["id"] != attempt["id"]
    assert made["again_of"] == attempt["id"]
    assert made["picture"]["at_s"] == 20
    assert made["picture"]["flame"] == 9
    assert "off" in made["picture"]["can"]
    seeds = set(Attempt.objects.values_list("seed", flat=True))
    assert len(seeds) == 1
    assert trainee("POST", f"{K}/attempts/{attempt['id']}/again", body).json()["id"] == made["id"]
    assert acts(trainee, made, made["after"], 21).status_code == 200
    beyond = {"id": str(uuid.uuid4()), "from_s": 31}
    assert trainee("POST", f"{K}/attempts/{attempt['id']}/again", beyond).status_code == 422


def test_on_another_hob_is_the_same_exercise_with_another_seed(trainee, version):
    attempt = begun(trainee, formula_id=version.formula_id, difficulty="hard", pan="thin")
    other = begun(trainee, like=attempt["id"])
    first, second = Attempt.objects.order_by("pk")
    assert other["name"] == attempt["name"]
    assert first.spec == second.spec
    assert first.seed != second.seed
    assert second.again_of is None
    stranger = logged_in("here-cook")
    body = {"id": str(uuid.uuid4()), "like": attempt["id"]}
    assert stranger("POST", f"{K}/attempts", body).status_code == 404


def test_what_an_older_program_said_is_said_anew(trainee):
    attempt = whole(trainee)
    Attempt.objects.update(debrief={"points": 12, "told": "in words of another time"})
    url = f"{K}/attempts/{attempt['id']}"
    assert trainee("GET", url).json()["debrief"] is None
    assert trainee("POST", f"{url}/debrief").json()["debrief"] == attempt["debrief"]
    assert trainee("GET", url).json()["debrief"] == attempt["debrief"]


def test_once_it_is_over_it_is_told_and_kept_as_it_was_told(trainee):
    attempt = begun(trainee)
    assert trainee("POST", f"{K}/attempts/{attempt['id']}/debrief").status_code == 409
    acts(trainee, attempt, 0, 30, {"at": 30, "do": "out"})
    told = trainee("POST", f"{K}/attempts/{attempt['id']}/debrief").json()
    said = told["debrief"]
    assert said["passed"] is False
    assert said["reason"] in ("early", "unstirred")
    assert said["curve"]["sauce_c"]
    assert {item["key"] for item in said["items"]} >= {"landing", "coat", "bits", "caught", "gaps"}
    kept = Attempt.objects.get()
    assert (kept.points, kept.passed, kept.ended) == (said["points"], False, True)
    assert trainee("GET", f"{K}/attempts/{attempt['id']}").json()["debrief"] == said
    assert acts(trainee, attempt, 1, 40, {"at": 40, "do": "dip"}).json()["after"] == 1
    assert AuditEntry.objects.filter(action="practice.end").count() == 1


def test_attempts_touch_nothing_real(trainee, here, batch):
    before = [list(model.objects.order_by("pk").values()) for model in (Batch, Tub, Day, Hob)]
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 200, {"at": 199, "do": "out"})
    trainee("POST", f"{K}/attempts/{attempt['id']}/debrief")
    assert before == [list(model.objects.order_by("pk").values()) for model in (Batch, Tub, Day, Hob)]
    cook = logged_in("here-cook")
    assert "Nappe by eye" not in cook("GET", "/api/k/here/log").content.decode()
    assert "Nappe by eye" not in printed(cook, "/api/k/here/day/record.json").content.decode()
