"""A kitchen learns of its closed batches; the Log finds, lays over one another and compares them."""

from __future__ import annotations

import csv
import io
import uuid
from dataclasses import replace
from datetime import timedelta

import custard
import custard.learning
import pytest
from book import actions as book
from common import clock
from kitchen import learned
from kitchen.models import AuditEntry, LearnedSauce
from kitchen.reads import conditions_of
from stove import actions as stove
from stove import reads
from stove.after import sauces
from stove.batch.cooking import cooking
from stove.models import Batch, BatchLesson

from tests.conftest import ANGLAISE, close, formula_of, logged_in, mark, rewrite, work_off

SET_LATE = ((70.0, ""), (76.0, ""), (80.0, "runs off"), (83.0, "thin coat"), (86.0, "nappe"))
"""What a spoon showed at what was read: later than is computed for this sauce."""


def cooked(actors, version, seen=SET_LATE, *, ago_min=40, name=None, **closing) -> Batch:
    """A batch cooked and tested by hand, lifted at what was read last, and closed."""
    content = ANGLAISE if name is None else {**ANGLAISE, "name": name}
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(content))
    began = clock.now() - timedelta(minutes=ago_min)
    rewrite(Batch.objects.filter(pk=batch.pk), started_at=began - timedelta(minutes=5))
    api, path = logged_in("here-cook"), f"/api/k/here/batches/{batch.pk}/marks/several"

    def at(seconds: float) -> str:
        return (began + timedelta(seconds=seconds)).isoformat()

    made = [mark("done", stage) | {"at": at(0)} for stage in ("weigh", "warm", "temper")]
    made[-1]["temperature_c"] = 62.0
    for place, (celsius, coat) in enumerate(seen, start=1):
        more = {"coat": coat, "finger_line": "closes"} if coat else {}
        kind = "spoon" if coat else "moment"
        made.append(mark(kind, "cook", temperature_c=celsius, **more) | {"at": at(60 * place)})
    made.append(mark("off-heat", "cook") | {"at": at(60 * len(seen) + 5)})
    made.append(mark("sieve", "test", sieve="clean") | {"at": at(60 * len(seen) + 30)})
    assert api("POST", path, {"marks": made}).status_code == 200
    close(actors["cook"], Batch.objects.get(pk=batch.pk), **({"kept_g": 600} | closing))
    return batch


@pytest.fixture
def taught(here, version) -> list[Batch]:
    batches = [cooked(here, version, ago_min=200 - 40 * day) for day in range(4)]
    work_off()
    return batches


def test_a_closed_batch_teaches_and_everything_says_the_same(here, version, taught, cook):
    known = cook("GET", "/api/k/here/learned").json()
    [sauce] = known["sauces"]
    assert (sauce["formula"], sauce["set_k"]["batches"]) == (ANGLAISE["name"], 4)
    assert sauce["set_k"]["mean"] > 0.3
    formula, conditions = formula_of(ANGLAISE), conditions_of(here["cook"].kitchen)
    plain = custard.assess(formula, custard.Conditions(altitude_m=12))
    shown = cook("POST", "/api/k/here/assess", ANGLAISE).json()
    set_k = shown["learned"]["set_k"]
    assert set_k == pytest.approx(sauce["set_k"]["mean"], abs=0.03)
    assert shown["window"]["nappe_c"] == pytest.approx(plain.window.nappe_c + set_k, abs=0.15)
    assert custard.assess(formula, conditions).stop.at_c == pytest.approx(shown["stop_c"], abs=0.005)
    band = cook("POST", "/api/k/here/band", ANGLAISE).json()
    assert band["nappe_c"][0] <= shown["window"]["nappe_c"] <= band["nappe_c"][1]
    # A batch keeps what was known when it began, whatever is learned or left out later.
    batch = stove.start(here["cook"], version.formula_id, 1, formula)
    assert batch.planned_c["cook"] == pytest.approx(shown["stop_c"], abs=0.01)
    assert batch.parameters.version == custard.larder.standard().version
    learned.use(here["chef"], "", used=False)
    result = cooking_result(batch)
    assert result.stop.at_c == pytest.approx(shown["stop_c"], abs=0.005)


def cooking_result(batch: Batch) -> custard.Assessment:
    from stove.batch.cooking import assessed  # noqa: PLC0415

    return assessed(reads.standing().get(pk=batch.pk))


def test_it_is_left_out_for_a_sauce_for_good_or_for_one_batch(here, version, taught, cook, chef):
    def set_k():
        shown = cook("POST", "/api/k/here/assess", ANGLAISE).json()["learned"]
        return None if shown is None else shown["set_k"]

    assert set_k() > 0
    assert cook("PUT", "/api/k/here/learned", {"formula": ANGLAISE["name"], "used": False}).status_code == 403
    assert chef("PUT", "/api/k/here/learned", {"formula": ANGLAISE["name"], "used": False}).status_code == 200
    assert set_k() is None
    chef("PUT", "/api/k/here/learned", {"formula": ANGLAISE["name"], "used": True})
    assert set_k() > 0
    body = {"draft": ANGLAISE, "formula_id": version.formula_id, "version": 1}
    here_set = cook("POST", "/api/k/here/batches", body).json()["plan"]
    computed = cook("POST", "/api/k/here/batches", {**body, "as_computed": True}).json()["plan"]
    assert here_set["learned"]["set_k"] > 0
    assert computed["learned"] is None
    assert computed["stop_c"] < here_set["stop_c"]
    chef("PUT", "/api/k/here/learned", {"used": False})
    assert set_k() is None
    assert chef("PUT", "/api/k/here/learned", {"formula": "none such", "used": False}).status_code == 404


def test_what_is_kept_is_what_is_computed_again_from_the_record(here, taught):
    kept = {row.formula: row.figures for row in LearnedSauce.objects.all()}
    BatchLesson.objects.update(document={"version": 0})
    again = sauces.learned(here["cook"].kitchen.pk)
    for name, figures in kept.items():
        rebuilt = again.of(name or None).as_json()
        for figure, known in rebuilt.items():
            assert known["mean"] == pytest.approx(figures[figure]["mean"], abs=1e-3)
            assert known["batches"] == figures[figure]["batches"]


def test_an_odd_batch_teaches_nothing_until_it_is_not_odd(here, taught, cook):
    def count():
        work_off()
        return cook("GET", "/api/k/here/learned").json()["sauces"][0]["set_k"]["batches"]

    path = f"/api/k/here/batches/{taught[0].pk}/odd"
    answer = cook("POST", path, {"odd": True, "reason": "the pan boiled over"})
    assert answer.json()["odd"]
    assert [one["what"] for one in answer.json()["marks"] if one["kind"] == "odd"] == ["odd"]
    assert count() == 3
    assert [one["odd"] for one in cook("GET", "/api/k/here/log?odd=true").json()["lines"]] == [True]
    assert not cook("POST", path, {"odd": False}).json()["odd"]
    assert count() == 4
    assert cook("GET", "/api/k/here/log?odd=true").json()["lines"] == []
    stove.reopen(here["cook"], taught[0].pk)
    assert cook("POST", path, {"odd": True}).status_code == 409


def test_a_rehearsal_teaches_nothing(here, version, cook):
    batch = cooked(here, version)
    rewrite(Batch.objects.filter(pk=batch.pk), pace=20)
    work_off()
    assert [row.document.get("nothing") for row in BatchLesson.objects.all()] == [True]


def test_a_batch_that_cannot_be_computed_closes_all_the_same(here, version, monkeypatch):
    def broken(kept):
        raise ZeroDivisionError

    monkeypatch.setattr(custard.learning, "cooked", broken)
    batch = cooked(here, version)
    work_off()
    assert Batch.objects.get(pk=batch.pk).closed_at is not None
    assert [row.document.get("nothing") for row in BatchLesson.objects.all()] == [True]


def test_its_file_replays_as_its_screens_showed_it(here, version, taught):
    row = reads.standing().get(pk=taught[0].pk)
    found = cooking(row)
    at_s = found.history.off_s - 10
    shown = custard.stove.live(
        found.result,
        found.equipment,
        custard.stove.History(
            readings=[one for one in found.history.readings if one[0] <= at_s],
            spoons=[one for one in found.history.spoons if one.t_s <= at_s],
            hands=found.history.hands,
        ),
        at_s,
    )
    kept = custard.formats.read_batch(custard.formats.write_batch(reads.as_file(row)))
    assert kept.marks[-1].kind == "closed"
    assert custard.learning.replayed(kept, (at_s,))["states"][0]["state"] == custard.plain(shown)


def test_the_log_is_searched(here, version, cook, taught):
    ended = {"verdict": "discarded", "note": "Caught on the base"}
    wrong = cooked(here, version, name="Crème with a long name", **ended)
    work_off()

    def found(**asked):
        query = "&".join(f"{name}={value}" for name, value in asked.items())
        answer = cook("GET", f"/api/k/here/log?{query}")
        assert answer.status_code == 200, answer.content
        return [one["id"] for one in answer.json()["lines"]]

    every = [wrong.pk, *(one.pk for one in reversed(taught))]
    assert found() == every
    assert found(words="caught") == [wrong.pk]
    assert found(number=wrong.number) == [wrong.pk]
    assert found(number=99) == []
    assert found(words="crème lon") == [wrong.pk]
    assert found(words="CAUGHT nothing") == []
    assert found(words="%27%3B--") == every
    assert found(verdict="discarded") == [wrong.pk]
    assert found(verdict="good", person="here-cook") == every[1:]
    assert found(person="here-chef") == []
    assert found(formula_id=version.formula_id) == every
    assert found(family="pastry-cream") == []
    # They were begun some hours ago: that may have been yesterday.
    today = clock.now()
    assert found(since=f"{today - timedelta(days=1):%Y-%m-%d}", until=f"{today:%Y-%m-%d}") == every
    assert found(since=f"{today + timedelta(days=1):%Y-%m-%d}") == []
    assert found(until="2020-01-01") == []
    assert found(wrong="true") == []
    for wrong_one in ("verdict=lovely", "until=9999-12-31", "since=0001-01-01", "since=soon"):
        assert cook("GET", f"/api/k/here/log?{wrong_one}").status_code == 422, wrong_one
    noted = {"marks": [mark("wrong", "cook", note="smelled of onions")]}
    stove.reopen(here["cook"], taught[0].pk)
    assert cook("POST", f"/api/k/here/batches/{taught[0].pk}/marks/several", noted).status_code == 200
    assert found(words="onion") == [taught[0].pk]
    assert found(wrong="true") == [taught[0].pk]
    assert found(fault="curdled") == []
    taken = {"id": str(uuid.uuid4()), "batch_id": taught[0].pk, "fault": "too-thick"}
    assert cook("POST", "/api/k/here/trouble/take", taken).status_code in (200, 201)
    assert found(fault="too-thick") == [taught[0].pk]
    choices = cook("GET", "/api/k/here/log/choices").json()
    assert [one["fault"] for one in choices["faults"]] == ["too-thick"]
    assert [one["id"] for one in choices["formulas"]] == [version.formula_id]


def test_batches_are_laid_over_one_another_and_compared(here, there, version, cook, taught):
    late = cooked(here, version, (*SET_LATE[:-1], (89.0, "heavy coat")))
    ids = f"{taught[0].pk},{late.pk}"
    answer = cook("GET", f"/api/k/here/log/overlay?batches={ids}")
    assert answer.status_code == 200, answer.content
    one, other = answer.json()
    assert [one["id"], other["id"]] == [taught[0].pk, late.pk]
    assert len(one["laid"]["t_s"]) == len(one["laid"]["celsius"]) > 10
    assert 0 < one["laid"]["thickens_s"] < one["laid"]["lifted_s"]
    assert other["laid"]["figures"]["lift_c"] == pytest.approx(89.0, abs=0.6)
    why = cook("GET", f"/api/k/here/log/compare?a={taught[0].pk}&b={late.pk}").json()
    assert why["cannot"] == ""
    differences = why["comparison"]["differences"]
    assert differences[0]["what"] in ("lift", "rate")
    explained = sum(part["film_mm"] for part in differences)
    change = why["comparison"]["film_mm"]["b"] - why["comparison"]["film_mm"]["a"]
    assert change == pytest.approx(explained + why["comparison"]["unexplained_film_mm"], abs=0.01)
    for query in ("", "1,x", ",".join(str(key) for key in range(9)), str(2**70)):
        assert cook("GET", f"/api/k/here/log/overlay?batches={query}").status_code == 422
    stranger = logged_in("there-cook")
    assert stranger("GET", f"/api/k/there/log/overlay?batches={ids}").status_code == 404
    assert stranger("GET", f"/api/k/there/log/compare?a={taught[0].pk}&b={late.pk}").status_code == 404
    bare = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    nothing = cook("GET", f"/api/k/here/log/compare?a={bare.pk}&b={late.pk}").json()
    assert nothing["comparison"] is None
    assert "Too little was read" in nothing["cannot"]
    assert cook("GET", f"/api/k/here/log/overlay?batches={bare.pk}").json()[0]["laid"]["t_s"] == []


def test_the_log_as_a_table(here, version, cook, taught):
    ended = {"verdict": "discarded", "note": "=HYPERLINK(1)"}
    cooked(here, version, **ended)
    answer = cook("GET", "/api/k/here/log.csv?verdict=discarded")
    [row] = csv.DictReader(io.StringIO(answer.content.decode()))
    assert (row["verdict"], row["note"], row["coat"]) == ("discarded", "'=HYPERLINK(1)", "nappe")
    assert float(row["lifted_c"]) == 86.0
    every = list(csv.DictReader(io.StringIO(cook("GET", "/api/k/here/log.csv").content.decode())))
    assert [one["verdict"] for one in every] == ["discarded", "good", "good", "good", "good"]


def test_by_whom_and_on_what(here, cook, taught, chef):
    chef("POST", "/api/k/here/hobs", {"name": "left ring"})
    choices = cook("GET", "/api/k/here/log/choices").json()
    assert choices["people"] == ["here-cook"]
    assert [one["name"] for one in choices["hobs"]] == ["left ring"]


def test_nothing_of_another_kitchen_is_learned(here, there, taught):
    assert learned.house_of(there["cook"].kitchen) == ()


def test_what_was_learned_fades_at_night_though_nothing_is_closed(here, taught, cook, monkeypatch):
    [before] = cook("GET", "/api/k/here/learned").json()["sauces"]
    later = clock.now() + timedelta(days=200)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert sauces.age() == 1
    row = LearnedSauce.objects.get(formula=before["formula"])
    assert row.at == later
    assert 0 < row.figures["set_k"]["mean"] < 0.8 * before["set_k"]["mean"]


def test_a_next_version_is_proposed_with_its_reason_and_left_with_what_was_learned(here, version, cook, chef):
    path = f"/api/k/here/formulas/{version.formula_id}/proposed"
    assert cook("GET", path).json() is None, "nothing was learned yet"
    known = custard.learning.learn([]).of()
    surely = custard.learning.Estimate(1.1, 0.2, 9)
    found = {learned.HOUSE: known, ANGLAISE["name"]: replace(known, set_k=surely)}
    learned.learn_sauces(here["cook"], found)
    proposed = cook("GET", path).json()
    assert (proposed["version"], proposed["batches"]) == (2, 9)
    assert "coats {1.1 K} later" in proposed["why"]
    yolk = next(line for line in proposed["draft"]["lines"] if line["ingredient"] == "egg-yolk")
    assert float(yolk["amount"].split()[0]) > 6
    learned.use(here["chef"], ANGLAISE["name"], used=False)
    assert cook("GET", path).json() is None


def test_a_kitchen_that_cannot_be_worked_out_leaves_the_others_theirs(
    here, there, taught, monkeypatch, caplog
):
    """At night one goes after the other: a lesson that nothing can read is one kitchen's own trouble."""
    batch = taught[0]
    BatchLesson.objects.create(
        batch=Batch.objects.get(pk=made_there(there).pk),
        kitchen=there["cook"].kitchen,
        started_at=batch.started_at,
        document={"version": custard.learning.SPOKE_VERSION, "odd": 1},
    )
    entries = AuditEntry.objects.count()
    assert sauces.age() == 1
    assert "cannot be worked out" in caplog.text
    assert AuditEntry.objects.count() == entries, "nobody did anything"


def made_there(there) -> Batch:
    version = book.add(there["chef"], formula_of(ANGLAISE))
    batch = stove.start(there["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    rewrite(Batch.objects.filter(pk=batch.pk), closed_at=clock.now())
    return batch
