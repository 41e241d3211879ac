"""Practice over the API: acts in order and once, nothing hidden told, a book of what was learned, sheets."""

from __future__ import annotations

import asyncio
import json
import os
import subprocess
import sys
import time
import uuid
from pathlib import Path

import pypdfium2
import pytest
from custard import training
from day.models import Day
from django.conf import settings
from django.db import connection, connections
from django.test.utils import CaptureQueriesContext
from kitchen.models import AuditEntry, Hob
from practice import actions, passes, replaying
from practice.lane import Lane
from practice.models import Acts, Attempt
from practice.schemas import Beginning
from shelf.models import Tub
from stove.models import Batch

from tests.conftest import logged_in

K = "/api/k/here/practice"
SERVER = Path(__file__).parents[1]


@pytest.fixture
def trainee(here):
    return logged_in("here-viewer")


def begun(api, **what):
    answer = api("POST", f"{K}/attempts", {"id": str(uuid.uuid4()), **(what or {"key": "nappe"})})
    assert answer.status_code == 200, answer.content
    return answer.json()


def acts(api, attempt, after, until, *rows):
    return api(
        "POST", f"{K}/attempts/{attempt['id']}/acts", {"after": after, "acts": list(rows), "until": until}
    )


def whole(api, key="spoons", **answer):
    """A question begun and answered; what was said of it."""
    attempt = begun(api, key=key)
    done = acts(api, attempt, 0, 4, {"at": 4, "do": "answer", **answer})
    assert done.json()["ended"], done.content
    return api("POST", f"{K}/attempts/{attempt['id']}/debrief").json()


def right(api, key="spoons", seed=7):
    """A question answered as it should be: its seed is known to the test alone."""
    attempt = begun(api, key=key)
    Attempt.objects.filter(pk=attempt["id"]).update(seed=seed)
    replaying.forget()
    answer = training.begin(training.exercise(key), seed).right
    acts(api, attempt, 0, 4, {"at": 4, "do": "answer", **answer})
    return api("POST", f"{K}/attempts/{attempt['id']}/debrief").json()


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


def test_somebody_else_does_not_play_nor_see_it(trainee, here):
    attempt = begun(trainee)
    other = logged_in("here-cook")
    assert other("GET", f"{K}/attempts/{attempt['id']}").status_code == 404
    chef = logged_in("here-chef")
    assert chef("GET", f"{K}/attempts/{attempt['id']}").json()["mine"] is False
    assert acts(chef, attempt, 0, 1).status_code == 403


CHILD = """
import json, sys, django
django.setup()
from practice import replaying
from practice.models import Attempt
shown = replaying.shown(Attempt.objects.get(pk=int(sys.argv[1])))
state = replaying._kept[int(sys.argv[1])].state
print(json.dumps([state.y.tobytes().hex(), state.spots.tobytes().hex(), state.record().tobytes().hex()]))
"""


@pytest.mark.django_db(transaction=True)
def test_two_processes_say_the_same_to_the_bit(trainee):
    """One that took in every message as it came, and one that starts with nothing but the rows."""
    attempt = begun(trainee, key="turned-up")
    for message in range(60):
        at = message * 0.5
        rows = [{"at": at + 0.1 * n, "do": "stir", "x": 0.2 * n - 0.5, "y": 0.3} for n in range(4)]
        if message == 30:
            rows.append({"at": at + 0.4, "do": "flame", "to": 9})
        assert acts(trainee, attempt, message, at + 0.5, *rows).status_code == 200
    state = replaying._kept[attempt["id"]].state
    ours = [state.y.tobytes().hex(), state.spots.tobytes().hex(), state.record().tobytes().hex()]
    known = connection.settings_dict
    environment = {
        **os.environ,
        "DJANGO_SETTINGS_MODULE": "oldspoon.settings",
        "OLDSPOON_DB_NAME": known["NAME"],
        "OLDSPOON_DB_HOST": known["HOST"],
        "OLDSPOON_DB_PORT": str(known["PORT"]),
        "OLDSPOON_DB_USER": known["USER"],
        "OLDSPOON_DB_PASSWORD": known["PASSWORD"],
        "OLDSPOON_SECRET_KEY": settings.SECRET_KEY,
    }
    command = [sys.executable, "-c", CHILD, str(attempt["id"])]
    told = subprocess.run(command, cwd=SERVER, env=environment, capture_output=True, text=True, check=True)
    assert json.loads(told.stdout) == ours
    assert state.ticks == 150


def test_a_process_that_forgot_goes_on_where_it_stood(trainee):
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 20, {"at": 3, "do": "flame", "to": 9})
    replaying.forget()
    forgot = acts(trainee, attempt, 1, 40).json()
    fresh = training.replayed(
        training.exercise("nappe"), Attempt.objects.get().seed, (training.Act(3, "flame", {"to": 9.0}),), 40
    )
    assert forgot["picture"]["at_s"] == 40
    assert forgot["picture"]["tells"] == list(fresh.picture().tells)


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


def test_what_is_learned_stands_in_the_book(trainee):
    assert whole(trainee)["debrief"]["passed"] is False
    assert right(trainee)["debrief"]["passed"] is True
    book = trainee("GET", K).json()["book"]
    spoons = next(one for one in book["exercises"] if one["key"] == "spoons")
    assert (spoons["tries"], spoons["best"], spoons["passed"]) == (2, 100, True)
    assert {one["sign"] for one in book["signs"] if one["known"]} == {"coat"}
    assert [line["points"] for line in book["lately"]] == [100, 0]
    assert book["open"] is None
    begun(trainee)
    assert trainee("GET", K).json()["book"]["open"]["name"] == "Nappe by eye"


def test_a_run_from_the_middle_is_told_but_does_not_count(trainee):
    before = right(trainee, seed=9)
    Attempt.objects.all().update(passed=False, signs=[])
    body = {"id": str(uuid.uuid4()), "from_s": 2}
    made = trainee("POST", f"{K}/attempts/{before['id']}/again", body).json()
    answer = training.begin(training.exercise("spoons"), 9).right
    acts(trainee, made, 1, 5, {"at": 5, "do": "answer", **answer})
    said = trainee("POST", f"{K}/attempts/{made['id']}/debrief").json()["debrief"]
    assert said["passed"] is True
    book = trainee("GET", K).json()["book"]
    assert not any(one["passed"] for one in book["exercises"])
    assert not any(one["known"] for one in book["signs"])


def test_the_chef_sees_the_section_and_nobody_else_does(trainee, here):
    right(trainee)
    chef = logged_in("here-chef")
    section = chef("GET", f"{K}/section").json()
    viewer = next(line for line in section["people"] if line["person"]["id"] == here["viewer"].user.pk)
    assert viewer["passed"] == ["spoons"]
    assert viewer["signs"] == ["coat"]
    assert len(section["people"]) == 3
    assert chef("GET", f"{K}/people/{here['viewer'].user.pk}").json()["exercises"]
    assert trainee("GET", f"{K}/people/{here['cook'].user.pk}").status_code == 403
    assert trainee("GET", K).json()["people"] == []


def test_a_chef_makes_an_exercise_and_sets_it(trainee, here, version):
    chef, person = logged_in("here-chef"), here["viewer"].user.pk
    how = {"difficulty": "hard", "pan": "cast-iron", "surprise": "turned-up"}
    body = {"formula_id": version.formula_id, "name": "Ours, in iron", "tell": "Mind the iron.", **how}
    made = chef("POST", f"{K}/exercises", body).json()
    wanted = {"exercise_id": made["id"], "person_id": person, "note": "before Friday"}
    assert chef("POST", f"{K}/set", wanted).status_code == 201
    book = trainee("GET", K).json()["book"]
    assert [(one["name"], one["note"], one["passed"]) for one in book["set"]] == [
        ("Ours, in iron", "before Friday", False)
    ]
    attempt = begun(trainee, exercise_id=made["id"])
    assert attempt["name"] == "Ours, in iron"
    assert attempt["tell"] == "Mind the iron."
    assert attempt["formula"] == "Bay leaf anglaise"
    spec = Attempt.objects.get().spec
    assert {name: spec[name] for name in how} == how
    assert chef("DELETE", f"{K}/set/{book['set'][0]['id']}").status_code == 204
    assert chef("DELETE", f"{K}/exercises/{made['id']}").status_code == 204
    assert trainee("GET", K).json()["book"]["set"] == []
    assert begun(trainee, formula_id=version.formula_id)["name"] == "Bay leaf anglaise"
    unknown = {"id": str(uuid.uuid4()), "key": "juggling"}
    assert trainee("POST", f"{K}/attempts", unknown).status_code == 422


def test_what_is_set_counts_as_done_once_it_was_passed_since(trainee, here):
    right(trainee)
    chef = logged_in("here-chef")
    chef("POST", f"{K}/set", {"key": "spoons", "person_id": here["viewer"].user.pk})
    assert trainee("GET", K).json()["book"]["set"][0]["passed"] is False
    right(trainee)
    assert trainee("GET", K).json()["book"]["set"][0]["passed"] is True


def test_attempts_touch_nothing_real(trainee, here, batch):
    before = [list(model.objects.order_by("pk").values()) for model in (Batch, Tub, Day, Hob)]
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 200, {"at": 199, "do": "out"})
    trainee("POST", f"{K}/attempts/{attempt['id']}/debrief")
    assert before == [list(model.objects.order_by("pk").values()) for model in (Batch, Tub, Day, Hob)]
    cook = logged_in("here-cook")
    assert "Nappe by eye" not in cook("GET", "/api/k/here/log").content.decode()
    assert "Nappe by eye" not in cook("GET", "/api/k/here/day/record.json").content.decode()


def test_a_sheet_is_filled_in_for_a_real_batch_and_printed(here, batch, trainee):
    chef, person = logged_in("here-chef"), here["viewer"].user.pk
    sheet = chef("POST", f"{K}/sheets", {"person_id": person, "batch_id": batch.pk}).json()
    assert sheet["over"] == f"Bay leaf anglaise, batch {batch.number}"
    assert [one["name"] for one in sheet["criteria"]] == [
        "Mise en place", "Hygiene", "Tempering", "Consistency", "Cooling", "Clean plate",
    ]  # fmt: skip
    url = f"{K}/sheets/{sheet['id']}"
    marks = {"hygiene": "well", "plate": "not yet"}
    marked = chef("PUT", url, {"marks": marks, "note": "Wipe the rim.", "revision": 1}).json()
    assert {one["key"]: one["mark"] for one in marked["criteria"] if one["mark"]} == marks
    stale = chef("PUT", url, {"marks": {}, "revision": 1})
    assert stale.status_code == 409
    wrong = chef("PUT", url, {"marks": {"charm": "well"}, "revision": 2})
    assert wrong.status_code == 422
    assert trainee("GET", url).json()["note"] == "Wipe the rim."
    assert trainee("PUT", url, {"marks": {}, "revision": 2}).status_code == 403
    paper = pypdfium2.PdfDocument(trainee("GET", f"{url}/sheet.pdf").content)
    text = paper[0].get_textpage().get_text_range()
    assert len(paper) == 1
    for words in ("viewer there", "Clean plate", "not yet", "Wipe the rim.", "Bay leaf anglaise"):
        assert words in text
    assert logged_in("here-cook")("GET", url).status_code == 404
    book = trainee("GET", K).json()["book"]
    assert [(line["over"], line["marked"]) for line in book["sheets"]] == [(sheet["over"], 2)]


# The lane beside the usual way


async def sent(application, api, path, body, token=None):
    """A request as an ASGI server would make it; status and answer."""
    cookies = "; ".join(f"{name}={morsel.value}" for name, morsel in api.client.cookies.items())
    scope = {
        "type": "http",
        "method": "POST",
        "path": path,
        "query_string": b"",
        "headers": [
            (b"host", b"localhost"),
            (b"cookie", cookies.encode()),
            (b"content-type", b"application/json"),
            (b"x-csrftoken", (token or api.client.cookies["csrftoken"].value).encode()),
        ],
    }
    said = []
    received = iter([{"type": "http.request", "body": json.dumps(body).encode(), "more_body": False}])

    async def receive():
        return next(received)

    async def send(message):
        said.append(message)

    await application(scope, receive, send)
    return said[0]["status"], json.loads(said[1]["body"])


async def usual(scope, receive, send):
    """Stands for Django: says that it was asked, and with what."""
    body = (await receive())["body"]
    await send({"type": "http.response.start", "status": 299, "headers": []})
    await send({"type": "http.response.body", "body": body})


@pytest.fixture
def lane(transactional_db):
    passes.forget()
    made = Lane(usual, threads=1)
    yield made
    made.threads.submit(connections.close_all).result()
    made.threads.shutdown()


def test_the_lane_answers_those_with_a_pass_and_hands_everything_else_on(lane, trainee):
    attempt = begun(trainee)
    path = f"{K}/attempts/{attempt['id']}/acts"
    body = {"after": 0, "acts": [{"at": 0.1, "do": "flame", "to": 7}], "until": 0.2}

    def ask(body, **how):
        return asyncio.run(sent(lane, trainee, path, body, **how))

    assert ask(body) == (299, body)
    assert acts(trainee, attempt, 0, 0.2, *body["acts"]).status_code == 200
    status, shown = ask({"after": 1, "acts": [{"at": 0.3, "do": "flame", "to": 5}], "until": 0.4})
    assert (status, shown["after"], shown["picture"]["flame"]) == (200, 2, 5)
    assert acts(trainee, attempt, 2, 0.6).json()["after"] == 3
    assert ask({"after": 3, "acts": [], "until": 0.8}, token="x" * 32)[0] == 299
    assert ask({"after": 3, "acts": [{"at": 0.7, "do": "sing"}], "until": 0.8})[0] == 299
    assert ask({"after": 9, "acts": [], "until": 0.8})[0] == 299
    assert ask({"after": "many"})[0] == 299
    assert ask({"after": 3, "acts": [], "until": 0.8})[0] == 200
    kept = list(Acts.objects.values_list("number", "until_s"))
    assert kept == [(1, 0.2), (2, 0.4), (3, 0.6), (4, 0.8)]


def test_a_pass_is_one_persons_for_one_attempt_and_not_for_long(lane, trainee, monkeypatch):
    attempt, other = begun(trainee), logged_in("here-cook")
    acts(trainee, attempt, 0, 0.2)
    path = f"{K}/attempts/{attempt['id']}/acts"
    body = {"after": 1, "acts": [], "until": 0.4}
    assert asyncio.run(sent(lane, other, path, body))[0] == 299
    now = time.monotonic()
    monkeypatch.setattr(passes.time, "monotonic", lambda: now + passes.GOOD_FOR_S + 1)
    assert asyncio.run(sent(lane, trainee, path, body))[0] == 299
