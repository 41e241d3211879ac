"""Something has gone wrong: what is said of it, the remedy in its batch, and what is done next time."""

from __future__ import annotations

import uuid
from datetime import timedelta

import custard
import pytest
from common import clock
from django.db import connection
from oldspoon import verifying
from shelf.models import Movement, Tub
from stove import actions as stove
from stove import reads
from stove.after import keeping
from stove.models import Batch, Mark, Remedy

from tests.conftest import ANGLAISE, close, formula_of, mark, printed, put
from tests.test_after import cooked, hob, pan  # noqa: F401

SABAYON = {
    **ANGLAISE,
    "name": "Marsh sabayon",
    "family": "sabayon",
    "lines": [
        {"ingredient": "egg-yolk", "amount": "6 yolks"},
        {"ingredient": "white-sugar", "amount": "100 g"},
        {"ingredient": "fortified-wine-sweet", "amount": "120 ml"},
    ],
}


def ask(api, **body):
    return api("POST", "/api/k/here/trouble", body)


def take(api, key=None, **body):
    return api("POST", "/api/k/here/trouble/take", {"id": str(key or uuid.uuid4()), **body})


def opened(api, batch):
    return api("GET", f"/api/k/here/batches/{batch.pk}").json()


def test_what_its_curve_tells_is_filled_in(here, cook, version, hob, pan):  # noqa: F811
    batch = cooked(here, version, hob, pan)
    told = ask(cook, batch_id=batch.pk, fault="bits").json()
    assert told["sauce"]["read"]
    assert told["curve"]["read"]
    assert len(told["curve"]["c"]) > 20
    assert 1 <= len(told["questions"]) <= 2
    # How many bits its curve tells; whether the whisk rested nobody marked, so nothing is guessed of it.
    assert {one["question"]: one["guess"] is not None for one in told["questions"]} == {
        "curdled": True,
        "gap_s": False,
    }
    assert sum(one["sure"] for one in told["causes"]) == pytest.approx(1, abs=0.02)


def test_an_answer_moves_the_causes(cook, batch):
    before = ask(cook, batch_id=batch.pk, fault="bits").json()
    after = ask(cook, batch_id=batch.pk, fault="bits", said={"curdled": 0.02, "gap_s": 40}).json()
    assert (after["causes"][0]["cause"], after["causes"][0]["sure"] > 0.5) == ("gap", True)
    assert before["causes"][0]["sure"] < 0.5
    assert not before["curve"]["read"]


def test_a_formula_has_answers_too_and_nothing_to_write_into(cook, version):
    told = ask(cook, formula_id=version.formula_id, fault="too-thick").json()
    assert not told["takes"]
    assert told["now"]["add"]
    assert take(cook, formula_id=version.formula_id, fault="too-thick").status_code == 409


def test_what_can_be_met_in_it_is_told_apart(cook, batch):
    found = {
        one["fault"]: one["met"] for one in cook("GET", f"/api/k/here/troubles?batch_id={batch.pk}").json()
    }
    assert set(found) == set(custard.trouble.faults())
    assert found["bits"]
    assert not found["cups"]
    every = cook("GET", "/api/k/here/troubles").json()
    assert {one["fault"] for one in every if one["met"]} == set(custard.trouble.faults())


def test_a_sauce_of_which_only_the_family_is_known_has_answers_too(cook, version):
    met = {
        one["fault"]: one["met"] for one in cook("GET", "/api/k/here/troubles?family=baked-custard").json()
    }
    assert met["cups"]
    assert not met["lumps"]
    told = ask(cook, family="pastry-cream", fault="too-thick", have_g=400).json()
    assert told["sauce"]["formula_id"] is None
    assert told["sauce"]["name"] == "pastry cream"
    assert (told["have_g"], told["takes"]) == (400, False)
    assert told["now"]["add"]
    assert take(cook, family="pastry-cream", fault="too-thick").status_code == 409
    assert ask(cook, fault="too-thick").status_code == 422
    assert ask(cook, family="soup", fault="too-thick").json()["fields"][0]["field"] == "family"


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"fault": "sadness"}, "seen"),
        ({"fault": "bits", "said": {"mood": 1}}, "told"),
        ({"fault": "bits", "said": {"gap_s": -4}}, "told.gap_s"),
        ({"fault": "bits", "have_g": 0}, "have_g"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(cook, batch, body, field):
    answer = ask(cook, batch_id=batch.pk, **body)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == field


def test_a_remedy_goes_into_its_batch(here, cook, batch):
    said = {"over_stop_k": 3.0}
    advised = ask(cook, batch_id=batch.pk, fault="too-thick", said=said).json()
    key = uuid.uuid4()
    assert take(cook, key, batch_id=batch.pk, fault="too-thick", said=said).status_code == 200
    found = opened(cook, batch)
    (remedy,) = found["remedies"]
    cream_g = advised["now"]["add"][0]["grams"]
    assert remedy["add"][0]["grams"] == cream_g
    assert remedy["after"]["yield_g"] == pytest.approx(remedy["before"]["yield_g"] + cream_g, abs=0.2)
    assert remedy["after"]["days"] <= remedy["before"]["days"]
    row = reads.batch(here["cook"], batch.pk)
    assert keeping.put_away(row, clock.now()).yield_g == pytest.approx(
        found["plan"]["yield_g"] + cream_g, abs=0.2
    )
    # The plan it was begun with stays as it was; sent again nothing is added.
    assert len(found["draft"]["lines"]) == 3
    assert take(cook, key, batch_id=batch.pk, fault="too-thick", said=said).status_code == 200
    assert Remedy.objects.count() == 1


def test_its_steps_are_ticked(cook, batch):
    take(cook, batch_id=batch.pk, fault="too-thick")
    (remedy,) = opened(cook, batch)["remedies"]
    url = f"/api/k/here/batches/{batch.pk}/marks"
    step = mark("remedy-step", batch.stage, line=1, what=str(remedy["id"]))
    assert cook("POST", url, step).status_code == 200
    assert opened(cook, batch)["remedies"][0]["done"] == [1]
    beyond = mark("remedy-step", batch.stage, line=9, what=str(remedy["id"]))
    assert cook("POST", url, beyond).json()["fields"][0]["field"] == "line"
    nobody = mark("remedy-step", batch.stage, line=0, what="999999")
    assert cook("POST", url, nobody).json()["fields"][0]["field"] == "what"


def test_label_and_shelf_follow(here, cook, version):
    """A sauce without milk that is saved with cream has milk on its label."""
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(SABAYON))
    assert "milk" not in batch.allergens
    said = {"over_stop_k": 7.0, "stood_min": 0.0}
    told = ask(cook, batch_id=batch.pk, fault="collapsed", said=said).json()
    assert told["new_allergens"] == ["milk"]
    take(cook, batch_id=batch.pk, fault="collapsed", said=said)
    batch.refresh_from_db()
    assert "milk" in batch.allergens
    tub = put(cook, batch, kept_g=200)
    assert "milk" in tub.allergens


def test_a_remedy_is_taken_back_with_what_it_added(here, cook, version):
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(SABAYON))
    key = uuid.uuid4()
    take(cook, key, batch_id=batch.pk, fault="collapsed", said={"over_stop_k": 7.0})
    withdrawn = cook("POST", f"/api/k/here/batches/{batch.pk}/marks/{key}/withdraw")
    assert withdrawn.status_code == 409
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/remedies/{key}/take-back")
    assert answer.json()["remedies"] == []
    assert "milk" not in answer.json()["allergens"]
    row = reads.batch(here["cook"], batch.pk)
    assert keeping.yield_now_g(row) == pytest.approx(answer.json()["plan"]["yield_g"])
    again = cook("POST", f"/api/k/here/batches/{batch.pk}/remedies/{uuid.uuid4()}/take-back")
    assert again.status_code == 404
    # Sent once more it stays taken back.
    take(cook, key, batch_id=batch.pk, fault="collapsed")
    assert opened(cook, batch)["remedies"] == []


def test_two_who_mend_it_at_once_do_not_mend_it_twice(here, batch, monkeypatch):
    from trouble import actions, schemas  # noqa: PLC0415

    def wanted():
        return schemas.Taking(id=uuid.uuid4(), batch_id=batch.pk, fault="too-thick")

    answered = actions.reads.answered
    others: list[bool] = []

    def meanwhile(found, asked):
        if not others:
            others.append(True)
            actions.take(here["chef"], wanted())
        return answered(found, asked)

    monkeypatch.setattr(actions.reads, "answered", meanwhile)
    with pytest.raises(actions.Conflict, match="meanwhile"):
        actions.take(here["cook"], wanted())
    assert Remedy.objects.count() == 1


def test_a_tub_is_mended_and_keeps_no_longer_for_it(here, cook, tub):
    batch = tub.batch
    assert take(cook, batch_id=batch.pk, fault="too-thick").status_code == 409
    before, use_by = tub.left_g, tub.use_by
    said = {"over_stop_k": 3.0}
    key = uuid.uuid4()
    told = ask(cook, tub_id=tub.pk, fault="too-thick", said=said).json()
    assert told["sauce"]["left_g"] == float(before)
    assert take(cook, key, tub_id=tub.pk, fault="too-thick", said=said).status_code == 200
    tub.refresh_from_db()
    assert float(tub.left_g) == pytest.approx(float(before) + told["now"]["add"][0]["grams"], abs=0.2)
    assert tub.use_by <= use_by
    (remedy,) = opened(cook, batch)["remedies"]
    assert remedy["tub"] == tub.part
    cook("POST", f"/api/k/here/batches/{batch.pk}/remedies/{key}/take-back")
    tub.refresh_from_db()
    assert (tub.left_g, tub.use_by) == (before, use_by)
    assert Movement.objects.filter(tub=tub).count() == 3


def test_what_is_warmed_again_is_for_that_day(here, cook, version):
    pastry = {**ANGLAISE, "name": "Slate cream", "family": "pastry-cream"}
    pastry["lines"] = [*ANGLAISE["lines"], {"ingredient": "cornstarch", "amount": "40 g"}]
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(pastry))
    tub = put(cook, batch, kept_g=400)
    Batch.objects.filter(pk=batch.pk).update(
        done_at={"chill": (clock.now() - timedelta(hours=20)).isoformat()}
    )
    told = ask(cook, tub_id=tub.pk, fault="thin-next-day", said={"boiled_s": 6.0, "whisked_cold": 0.0}).json()
    assert "right through" in told["now"]["warmed_again"]
    assert told["life"]["chilled_h"] <= 24
    assert told["life"]["freezes_days"] == 0


def test_of_a_tub_the_later_remedy_is_taken_back_first(here, cook, tub):
    first, second = uuid.uuid4(), uuid.uuid4()
    said = {"over_stop_k": 3.0}
    assert take(cook, first, tub_id=tub.pk, fault="too-thick", said=said).status_code == 200
    again = ask(cook, tub_id=tub.pk, fault="too-thick", said=said).json()
    assert "Something was done about it since" in again["unknown"]
    assert take(cook, second, tub_id=tub.pk, fault="too-thick", said=said).status_code == 200
    back = f"/api/k/here/batches/{tub.batch.pk}/remedies/{{}}/take-back"
    assert cook("POST", back.format(first)).status_code == 409
    assert cook("POST", back.format(second)).status_code == 200
    assert cook("POST", back.format(first)).status_code == 200


def test_a_batch_warmed_again_is_put_away_for_that_day(here, cook, version):
    """Its tub is no better for the warming than a tub that was warmed itself."""
    pastry = {**ANGLAISE, "name": "Slate cream", "family": "pastry-cream"}
    pastry["lines"] = [*ANGLAISE["lines"], {"ingredient": "cornstarch", "amount": "40 g"}]
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(pastry))
    said = {"boiled_s": 6.0, "whisked_cold": 0.0}
    assert take(cook, batch_id=batch.pk, fault="thin-next-day", said=said).status_code == 200
    (remedy,) = opened(cook, batch)["remedies"]
    assert "right through" in remedy["warmed_again"]
    tub = put(cook, batch, kept_g=400)
    assert tub.life["chilled_h"] <= 24
    assert tub.life["freezes_days"] == 0


def test_of_a_tub_that_was_drawn_from_meanwhile_nothing_is_written(here, cook, tub, monkeypatch):
    from trouble import actions  # noqa: PLC0415

    answered = actions.reads.answered

    def meanwhile(found, asked):
        Tub.objects.filter(pk=tub.pk).update(left_g=tub.left_g - 50)
        return answered(found, asked)

    monkeypatch.setattr(actions.reads, "answered", meanwhile)
    answer = take(cook, tub_id=tub.pk, fault="too-thick")
    assert answer.status_code == 409
    assert Remedy.objects.count() == Mark.objects.filter(kind="remedy").count() == 0


def test_a_chef_changes_the_formula_and_a_cook_leaves_a_word(here, cook, chef, version):
    url = f"/api/k/here/formulas/{version.formula_id}/next-time"
    change = {"kind": "line", "say": "egg yolk", "ingredient": "egg-yolk", "from_g": 50, "to_g": 75}
    change |= {"question": "", "answer": ""}
    body = {"say": "Take more yolk.", "change": change, "of_g": 700, "batch": 4}
    assert cook("POST", url, body).json() == {"wrote": "reminder", "version": 1}
    assert cook("POST", url, body).status_code == 200
    formula = cook("GET", f"/api/k/here/formulas/{version.formula_id}").json()
    (reminder,) = formula["reminders"]
    assert (reminder["say"], reminder["batch"]) == ("Take more yolk.", 4)
    assert chef("POST", url, body).json() == {"wrote": "line", "version": 2}
    changed = chef("GET", f"/api/k/here/formulas/{version.formula_id}").json()
    assert changed["draft"]["lines"][1]["amount"] == "152.1 g"
    school = {**change, "kind": "school", "question": "temper", "answer": "ladle"}
    assert chef("POST", url, {**body, "change": school}).json()["wrote"] == "school"
    done = f"/api/k/here/formulas/{version.formula_id}/reminders/{reminder['id']}/done"
    assert cook("POST", done).json()["reminders"] == []
    assert cook("POST", done).status_code == 404


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        ({"to_g": 0}, "to_g"),
        ({"to_g": 9e9}, "to_g"),
        ({"ingredient": "moon-dust"}, "change.ingredient"),
        ({"from_g": 0, "ingredient": "moon-dust"}, "ingredient"),
        ({"kind": "oven"}, "kind"),
    ],
)
def test_a_change_that_cannot_be_is_refused_by_its_field(chef, version, bad, field):
    change = {"kind": "line", "say": "egg yolk", "ingredient": "egg-yolk", "from_g": 50, "to_g": 75, **bad}
    url = f"/api/k/here/formulas/{version.formula_id}/next-time"
    answer = chef("POST", url, {"say": "Take more yolk.", "change": change})
    assert answer.status_code in {400, 404, 422}
    assert field in answer.content.decode()
    assert chef("GET", f"/api/k/here/formulas/{version.formula_id}").json()["latest"] == 1


def test_what_was_learned_stands_at_the_next_batch(here, cook, version):
    url = f"/api/k/here/formulas/{version.formula_id}/next-time"
    cook("POST", url, {"say": "Lift it at 79."})
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert [one["say"] for one in opened(cook, batch)["reminders"]] == ["Lift it at 79."]


def test_a_remedy_is_a_record(here, cook, batch):
    take(cook, batch_id=batch.pk, fault="too-thick")
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("ALTER TABLE stove_remedy DISABLE TRIGGER USER")
        assert verifying.verify().wrong == ()
        cursor.execute("UPDATE stove_remedy SET takes_g = 3")
        assert "remedy" in verifying.verify().wrong[0]
    record = cook("GET", f"/api/k/here/batches/{batch.pk}/record.json").json()
    marks = record["batches"][0]["marks"]
    assert [one["what"] for one in marks if one["kind"] == "remedy"] == ["too-thick"]
    (remedy,) = record["batches"][0]["remedies"]
    assert "{" not in remedy["say"] + remedy["cause"] + " ".join(remedy["steps"])
    assert printed(cook, f"/api/k/here/batches/{batch.pk}/record.pdf").content[:4] == b"%PDF"


def test_a_closed_batch_is_put_away_with_what_was_added(here, cook, batch):
    take(cook, batch_id=batch.pk, fault="too-thick", said={"over_stop_k": 3.0})
    (remedy,) = opened(cook, batch)["remedies"]
    close(here["cook"], batch)
    tub = Tub.objects.get(batch=batch, what="sauce")
    assert float(tub.left_g) == pytest.approx(remedy["after"]["yield_g"], abs=0.2)


def test_what_is_past_its_day_is_thrown_away_whatever_is_seen(here, cook, tub):
    with clock.at(clock.now() + timedelta(days=3, hours=2)):
        told = ask(cook, tub_id=tub.pk, fault="too-thick").json()
        assert (told["now"]["say"], told["takes"]) == ("Throw it away", False)
        assert "was to be used within" in told["unsafe"]
        answer = take(cook, tub_id=tub.pk, fault="too-thick")
        assert (answer.status_code, answer.json()["type"]) == (409, "unsafe")
    assert Remedy.objects.count() == 0


def test_a_batch_as_a_file_is_what_the_command_reads(here, cook, version, hob, pan):  # noqa: F811
    batch = cooked(here, version, hob, pan)
    answer = cook("GET", f"/api/k/here/batches/{batch.pk}/batch.json")
    assert "attachment" in answer["Content-Disposition"]
    read = custard.formats.read_batch(answer.json())
    assert len(read.readings) > 20
    assert {"off-heat", "into-ice"} <= {one.kind for one in read.marks}
    result = custard.assess(read.formula, custard.Conditions(altitude_m=read.altitude_m))
    story = custard.trouble.story_of_batch(result, read)
    told = ask(cook, batch_id=batch.pk, fault="too-thick").json()
    assert max(c for _, c in story.curve) == pytest.approx(max(told["curve"]["c"]), abs=0.1)
