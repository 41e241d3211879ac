"""A book of what was learned, the section, exercises that are made and set, assessment sheets."""

from __future__ import annotations

import uuid

import pypdfium2
from custard import practice
from practice.models import Attempt

from tests.conftest import logged_in, printed
from tests.practice.practising import K, acts, begun, right, whole


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
    answer = practice.begin(practice.exercise("spoons"), 9).right
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
    own, theirs = f"{K}/exercises/{made['id']}", f"{K}/set/{book['set'][0]['id']}"
    for path in (theirs, own):
        assert chef("POST", f"{path}/back").status_code == 404
        assert chef("DELETE", path).status_code == 204
        assert trainee("GET", K).json()["book"]["set"] == []
        assert chef("POST", f"{path}/back").status_code == 204
        assert trainee("GET", K).json()["book"]["set"] == book["set"]
    chef("DELETE", theirs)
    chef("DELETE", own)
    assert chef("POST", f"{theirs}/back").status_code == 404, "it is set again with its exercise only"
    chef("POST", f"{own}/back")
    assert trainee("GET", K).json()["book"]["set"] == [], "it was taken back before"
    assert chef("POST", f"{K}/set", wanted).status_code == 201
    assert chef("POST", f"{theirs}/back").status_code == 409
    assert begun(trainee, formula_id=version.formula_id)["name"] == "Bay leaf anglaise"
    unknown = {"id": str(uuid.uuid4()), "key": "juggling"}
    assert trainee("POST", f"{K}/attempts", unknown).status_code == 422


def test_what_is_set_twice_stands_once_and_is_to_be_done_anew(trainee, here):
    chef, person = logged_in("here-chef"), here["viewer"].user.pk
    chef("POST", f"{K}/set", {"key": "spoons", "person_id": person, "note": "today"})
    right(trainee)
    assert chef("POST", f"{K}/set", {"key": "spoons", "person_id": person, "note": "once more"}).json()["id"]
    (line,) = trainee("GET", K).json()["book"]["set"]
    assert (line["note"], line["passed"]) == ("once more", False)


def test_what_is_set_counts_as_done_once_it_was_passed_since(trainee, here):
    right(trainee)
    chef = logged_in("here-chef")
    chef("POST", f"{K}/set", {"key": "spoons", "person_id": here["viewer"].user.pk})
    assert trainee("GET", K).json()["book"]["set"][0]["passed"] is False
    right(trainee)
    assert trainee("GET", K).json()["book"]["set"][0]["passed"] is True


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
    paper = pypdfium2.PdfDocument(printed(trainee, f"{url}/sheet.pdf").content)
    text = paper[0].get_textpage().get_text_range()
    assert len(paper) == 1
    for words in ("viewer there", "Clean plate", "not yet", "Wipe the rim.", "Bay leaf anglaise"):
        assert words in text
    assert logged_in("here-cook")("GET", url).status_code == 404
    book = trainee("GET", K).json()["book"]
    assert [(line["over"], line["marked"]) for line in book["sheets"]] == [(sheet["over"], 2)]
