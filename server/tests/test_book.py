"""The Book and the Bench."""

from __future__ import annotations

import custard
import pytest
from book import actions as book
from book import tasks
from book.models import Formula, FormulaVersion, KeptLine
from django.db import connection
from django.test.utils import CaptureQueriesContext
from kitchen.models import AuditEntry

from tests.conftest import ANGLAISE, draft, formula_of, logged_in, with_line, work_off

HALF_KNOWN = {"name": "mine", "composition": {"water": 40}}


def test_the_book_shows_what_each_formula_becomes(chef, version):
    [line] = chef("GET", "/api/k/here/formulas").json()["lines"]
    assert line["name"] == "Bay leaf anglaise"
    assert line["hot"]["word"] == "nappe"
    assert 78 < line["window"]["nappe_c"] < line["stop_c"] < line["window"]["curdles_c"] < line["boiling_c"]


def test_the_book_takes_no_more_queries_for_more_formulas(chef, version, django_assert_num_queries):
    chef("GET", "/api/k/here/formulas")
    with CaptureQueriesContext(connection) as asked:
        chef("GET", "/api/k/here/formulas")
    count = len(asked)
    for name in ("One", "Two", "Three"):
        chef("POST", "/api/k/here/formulas", {"draft": draft(name=name)})
    # What was never computed is computed once, and kept.
    chef("GET", "/api/k/here/formulas")
    with django_assert_num_queries(count):
        assert len(chef("GET", "/api/k/here/formulas").json()["lines"]) == 4


def test_assess_says_all_the_bench_shows(cook):
    answer = cook("POST", "/api/k/here/assess", ANGLAISE).json()
    slip = [(line["name"], line["laid"], line["mass_g"], line["tare_g"]) for line in answer["slip"]]
    assert slip == [
        ("whole milk", "pan", 515.5, 515.5),
        ("white sugar", "pan", 45.0, 560.5),
        ("egg yolk", "yolk bowl", 101.4, 101.4),
        ("white sugar", "yolk bowl", 45.0, 146.4),
    ]
    assert answer["mass_g"] == pytest.approx(706.9)
    assert (answer["infusing"], answer["shared"], answer["finish"]["additions"]) == (None, None, [])
    assert [stage["stage"] for stage in answer["stages"]] == [
        "weigh",
        "warm",
        "temper",
        "cook",
        "test",
        "chill",
        "keep",
    ]
    assert answer["allergens"] == ["milk", "egg"]
    assert answer["whites_left_g"] == 210


def test_altitude_of_the_kitchen_lowers_the_boil(chef):
    low = chef("POST", "/api/k/here/assess", ANGLAISE).json()["boiling_c"]
    chef("PATCH", "/api/k/here", {"altitude_m": 2000})
    assert chef("POST", "/api/k/here/assess", ANGLAISE).json()["boiling_c"] == pytest.approx(
        low - 6.5, abs=0.4
    )


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        (with_line(0, amount="3 blobs"), "lines[0].amount"),
        (with_line(0, amount="-5 g"), "lines[0].amount"),
        (with_line(1, amount="10000"), "lines[1].amount"),
        (with_line(1, amount="\x00"), "lines[1].amount"),
        (with_line(1, amount="\ud800"), "lines[1].amount"),
        (with_line(2, ingredient="gravel"), "lines[2].ingredient"),
        (with_line(2, ingredient=HALF_KNOWN), "lines[2].ingredient.composition"),
        (with_line(2, note="x" * 501), "lines[2].note"),
        (draft(name="🥚"), "name"),
        (draft(name=""), "name"),
        (draft(name="a\x00b"), "name"),
        (draft(family="soup"), "family"),
        (draft(eggs="goose"), "eggs"),
        (draft(lines=[]), "lines"),
        (draft(lines=[ANGLAISE["lines"][0]] * 101), "lines"),
        (draft(colour="red"), "colour"),
    ],
)  # fmt: skip
def test_bad_input_is_a_sentence_by_the_field(cook, bad, field):
    answer = cook("POST", "/api/k/here/assess", bad)
    assert answer.status_code == 422
    problem = answer.json()
    assert problem["fields"][0]["field"] == field
    assert problem["fields"][0]["message"]
    assert problem["status"] == 422


def test_every_bad_line_is_named_at_once(cook):
    bad = with_line(0, amount="some")
    bad["lines"][2]["amount"] = "2-3 g"
    fields = cook("POST", "/api/k/here/assess", bad).json()["fields"]
    assert [f["field"] for f in fields] == ["lines[0].amount", "lines[2].amount"]


@pytest.mark.parametrize("body", ["", "{", "[]", "null", "3", '"x"', "{" * 2000])
def test_what_is_not_a_draft_is_refused(cook, body):
    assert cook("POST", "/api/k/here/assess", body or " ").status_code in (400, 422)


@pytest.mark.parametrize(
    ("by", "amount", "more", "first"),
    [
        ("yolks", 9, {}, "750 ml"),
        ("dairy", 1031, {}, "1000 ml"),
        ("mass", 1413.8, {}, "1000 ml"),
    ],
)
def test_scaling(cook, by, amount, more, first):
    answer = cook("POST", "/api/k/here/scale", {"draft": ANGLAISE, "by": by, "amount": amount, **more}).json()
    assert answer["lines"][0]["amount"] == first
    assert answer["lines"][0]["note"] == "two bay leaves"


def test_scaling_to_portions_needs_their_weight(cook):
    body = {"draft": ANGLAISE, "by": "portions", "amount": 10}
    assert cook("POST", "/api/k/here/scale", body).json()["fields"][0]["field"] == "portion_g"
    scaled = cook("POST", "/api/k/here/scale", {**body, "portion_g": 60}).json()
    made = cook("POST", "/api/k/here/assess", scaled).json()
    assert made["yield_g"] == pytest.approx(600, rel=2e-3)


def test_versions_stay_readable(chef, version):
    path = f"/api/k/here/formulas/{version.formula_id}"
    saved = chef("POST", f"{path}/versions", {"draft": with_line(1, amount="7"), "base": 1, "note": "richer"})
    assert saved.status_code == 201
    assert saved.json()["latest"] == 2
    assert chef("GET", f"{path}/versions/1").json()["draft"]["lines"][1]["amount"] == "6 yolks"
    assert [v["note"] for v in saved.json()["versions"]] == ["richer", ""]
    assert AuditEntry.objects.filter(action="formula.save", user__username="here-chef").count() == 1


def test_the_second_of_two_editors_is_told_and_loses_nothing(here, chef, version):
    path = f"/api/k/here/formulas/{version.formula_id}/versions"
    other = logged_in("here-chef")
    assert other("POST", path, {"draft": with_line(1, amount="5"), "base": 1}).status_code == 201
    mine = chef("POST", path, {"draft": with_line(1, amount="8"), "base": 1})
    assert mine.status_code == 409
    assert mine.json()["type"] == "newer-version:2"
    assert "still here" in mine.json()["detail"]
    assert FormulaVersion.objects.count() == 2
    assert chef("POST", path, {"draft": with_line(1, amount="8"), "base": 2}).json()["latest"] == 3


def test_a_new_formula_is_in_the_book(chef):
    added = chef("POST", "/api/k/here/formulas", {"draft": draft(name="Fig leaf anglaise")})
    assert added.status_code == 201
    assert [row["name"] for row in chef("GET", "/api/k/here/formulas").json()["lines"]] == [
        "Fig leaf anglaise"
    ]


def test_what_is_written_into_the_book_is_computed_by_a_worker_at_once(here, chef, version):
    assert KeptLine.objects.count() == 0
    work_off()
    assert KeptLine.objects.count() == 1
    word = KeptLine.objects.get().word
    assert chef("GET", f"/api/k/here/formulas?word={word}").json()["found"] == 1


def test_a_cook_takes_back_their_own_proposal_and_no_other(here, version):
    cook = logged_in("here-cook")
    mine = cook("POST", "/api/k/here/formulas", {"draft": draft(name="Mine")}).json()["id"]
    assert cook("POST", f"/api/k/here/formulas/{version.formula_id}/archive").status_code == 403
    assert cook("POST", f"/api/k/here/formulas/{mine}/archive").json()["archived"]
    other = cook("POST", "/api/k/here/formulas", {"draft": draft(name="Taken in")}).json()["id"]
    logged_in("here-chef")("POST", f"/api/k/here/formulas/{other}/take-in")
    assert cook("POST", f"/api/k/here/formulas/{other}/archive").status_code == 403


def test_archived_formulas_leave_the_list(chef, version):
    Formula.objects.update(archived_at="2026-01-01T00:00Z")
    assert chef("GET", "/api/k/here/formulas").json()["lines"] == []


def names(page):
    return [line["name"] for line in page["lines"]]


@pytest.fixture
def many(here):
    """Sixty formulas, three of one name, every tenth a pastry cream."""
    starch = {"ingredient": "cornstarch", "amount": "45 g"}
    for number in range(60):
        cream = number % 10 == 0
        name = "The same" if number in (7, 8, 9) else f"Sauce {number:02}"
        lines = [*ANGLAISE["lines"], starch] if cream else ANGLAISE["lines"]
        family = "pastry-cream" if cream else "anglaise"
        book.add(here["chef"], formula_of(draft(name=name, family=family, lines=lines)))


def test_the_book_is_read_page_by_page_and_holds_each_formula_once(chef, many):
    first = chef("GET", "/api/k/here/formulas").json()
    assert (len(first["lines"]), first["total"], first["found"]) == (50, 60, 60)
    second = chef("GET", f"/api/k/here/formulas?after={first['after']}").json()
    assert second["after"] is None
    assert names(first) + names(second) == sorted(names(first) + names(second))
    ids = [line["id"] for line in first["lines"] + second["lines"]]
    assert len(set(ids)) == 60


def test_the_book_is_searched_where_it_lies(chef, many):
    assert names(chef("GET", "/api/k/here/formulas?words=same").json()) == ["The same"] * 3
    assert chef("GET", "/api/k/here/formulas?words=Pastry").json()["found"] == 6
    tasks.fill_books(0)
    found = chef("GET", "/api/k/here/formulas?family=pastry-cream").json()
    by_word = [
        chef("GET", f"/api/k/here/formulas?family=pastry-cream&word={word}").json()["found"]
        for word in found["words"]
    ]
    # Six of one mix have one word, and none of the others.
    assert sorted(by_word) == [0] * (len(by_word) - 1) + [6]
    assert set(found["families"]) == {"anglaise", "pastry-cream"}
    assert "nappe" in found["words"]


def test_what_the_book_shows_is_computed_once_for_everyone(here, chef, many):
    tasks.fill_books(0)
    kept = KeptLine.objects.count()
    assert kept == 2, "sixty formulas of two mixes are two computations"
    with CaptureQueriesContext(connection) as asked:
        chef("GET", "/api/k/here/formulas")
    assert not [query for query in asked.captured_queries if "INSERT" in query["sql"]]
    chef("PATCH", "/api/k/here", {"altitude_m": 1500})
    [line, *_] = chef("GET", "/api/k/here/formulas").json()["lines"]
    assert line["boiling_c"] < 96
    assert KeptLine.objects.count() == 2 * kept


def test_what_is_usual_here_comes_first(here, chef):
    for name, cream in (("One", "half-and-half"), ("Two", "half-and-half"), ("Three", "double-cream-48")):
        lines = [{"ingredient": cream, "amount": "100 g"}, {"ingredient": "egg-yolk", "amount": "2"}]
        made = chef("POST", "/api/k/here/formulas", {"draft": draft(name=name, lines=lines)})
        assert made.status_code == 201
    assert chef("GET", "/api/k/here/usual").json() == ["egg-yolk", "half-and-half", "double-cream-48"]


def test_every_family_has_a_pattern_that_can_be_made(here, chef):
    patterns = chef("GET", "/api/k/here/patterns").json()
    assert {one["family"] for one in patterns} == set(custard.larder.all_families())
    for pattern in patterns:
        found = chef("POST", "/api/k/here/assess", pattern)
        assert found.status_code == 200, found.json()


def test_a_cook_s_recipe_is_a_proposal_until_a_chef_takes_it_in(chef, cook):
    draft = {**ANGLAISE, "name": "Fig leaf anglaise"}
    made = cook("POST", "/api/k/here/formulas", {"draft": draft})
    assert made.status_code == 201
    assert made.json()["proposed_by"] == "cook there"
    url = f"/api/k/here/formulas/{made.json()['id']}"
    line = next(
        one for one in chef("GET", "/api/k/here/formulas").json()["lines"] if one["name"] == draft["name"]
    )
    assert line["proposed_by"] == "cook there"
    # It can be cooked meanwhile, and its cook cannot take it in.
    taken = cook(
        "POST", "/api/k/here/batches", {"formula_id": made.json()["id"], "version": 1, "draft": draft}
    )
    assert taken.status_code == 201
    assert cook("POST", f"{url}/take-in").status_code == 403
    assert chef("POST", f"{url}/take-in").json()["proposed_by"] == ""
    assert (
        chef("POST", "/api/k/here/formulas", {"draft": {**draft, "name": "Mine"}}).json()["proposed_by"] == ""
    )
