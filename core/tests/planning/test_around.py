"""Around the plan: what comes off the shelf, lists, chances, what goes on, what days teach, the file."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import custard
import jsonschema_rs
import pytest
from custard import cli, errors, planning
from custard.larder import egg_size
from custard.planning import Begun, Day, Minutes, Price, Step, Took, Tub, Want
from days import NINE, NOON, day, one, room
from hypothesis import given
from hypothesis import strategies as st


def test_the_shelf_goes_first_and_what_is_past_its_time_soonest():
    tubs = [Tub("old", "anglaise", 300, 0, NOON + 60), Tub("new", "anglaise", 1000, 0, 3 * 1440)]
    tubs.append(Tub("past", "anglaise", 1000, 0, NOON - 60))
    tubs.append(Tub("resting", "anglaise", 1000, NOON + 1, 3 * 1440))
    tubs.append(Tub("other", "sabayon", 1000, 0, 3 * 1440))
    wants = [Want("quince", "anglaise", 1200, NOON), Want("pie", "anglaise", 400, NOON + 60)]
    drawn, missing = planning.shared_out(wants, tubs, {"anglaise": 3 * 1440})
    assert [(one.want, one.tub, one.grams) for one in drawn] == [
        ("quince", "old", 300), ("quince", "new", 900), ("pie", "new", 100), ("pie", "resting", 300),
    ]  # fmt: skip
    assert missing == ()


def test_what_is_missing_of_one_sauce_is_one_batch_while_it_is_good_for_all():
    wants = [Want("a", "foam", 100, NOON), Want("b", "foam", 50, NOON + 8), Want("c", "foam", 70, NOON + 60)]
    _, missing = planning.shared_out(wants, [], {"foam": 10})
    assert [(one.wants, one.grams, one.due) for one in missing] == [
        (("a", "b"), 150, NOON), (("c",), 70, NOON + 60),
    ]  # fmt: skip


@given(
    st.lists(st.tuples(st.floats(1, 2000), st.integers(0, 1440)), max_size=6),
    st.lists(st.tuples(st.floats(1, 2000), st.integers(0, 700), st.integers(700, 3000)), max_size=6),
)
def test_nothing_is_drawn_twice_and_nothing_is_lost(wanted, there):
    wants = [Want(f"w{n}", "a", grams, due) for n, (grams, due) in enumerate(wanted)]
    tubs = [Tub(f"t{n}", "a", grams, ready, by) for n, (grams, ready, by) in enumerate(there)]
    drawn, missing = planning.shared_out(wants, tubs, {"a": 1440})
    for tub in tubs:
        assert sum(one.grams for one in drawn if one.tub == tub.key) <= tub.grams + 1e-6
    wanted_g, got = sum(one.grams for one in wants), sum(one.grams for one in drawn)
    made = sum(one.grams for one in missing)
    assert got + made == pytest.approx(wanted_g, abs=len(wants))


def test_a_dish_is_made_as_large_as_its_covers_take(anglaise):
    want = planning.Wanted("q", "quince", "anglaise", anglaise, NOON, 20, "60 g")
    found = planning.work([want])
    assert found.batches[0].grams == pytest.approx(20 * 60, rel=0.1)
    assert found.batches[0].grams > 20 * 60
    assert found.batches[0].result.yield_g == pytest.approx(found.batches[0].grams, rel=0.005)
    whole = planning.work([replace(want, each="")])
    assert whole.batches[0].result.weighed_g == pytest.approx(sum(anglaise.weights_g()))


def test_a_batch_on_the_stove_is_as_it_was_weighed_and_is_for_all_its_dishes(anglaise):
    wants = [
        planning.Wanted("a", "quince", "s", anglaise, NOON, 20, "60 g", batch="7"),
        planning.Wanted("b", "pie", "s", anglaise, NOON - 30, 5, "60 g", batch="7"),
    ]
    found = planning.work(wants)
    assert [batch.wants for batch in found.batches] == [("b", "a")]
    assert found.batches[0].job.due == NOON - 30
    assert found.batches[0].result.weighed_g == pytest.approx(sum(anglaise.weights_g()))


def test_a_want_that_cannot_be_names_itself(anglaise):
    with pytest.raises(errors.CustardError) as refused:
        planning.Wanted("q", "quince", "s", anglaise, NOON, 20, "sixty")
    assert refused.value.field == "each"
    with pytest.raises(errors.OutOfRange, match="0"):
        planning.Wanted("q", "quince", "s", anglaise, NOON, 0)


def test_steps_of_an_anglaise_are_those_of_the_work(anglaise):
    steps = {step.step: step for step in planning.steps_of(custard.assess(anglaise))}
    assert list(steps) == ["weigh", "warm", "cook", "chill"]
    assert steps["cook"].hands == 1
    assert steps["chill"].hands == 0
    assert 0 < steps["warm"].hands < 0.5
    assert steps["cook"].rigid, "what is tempered does not wait"
    assert 6 <= steps["cook"].minutes.usual <= 16
    assert steps["chill"].needs["ice"] >= 500


def test_steps_of_the_other_ways(make):
    base = make("ice-base", ("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "100 g"))
    steps = {step.step: step for step in planning.steps_of(custard.assess(base))}
    assert steps["rest"].long == 240
    assert "bowl" in steps["churn"].needs
    own = planning.steps_of(custard.assess(base), planning.Made({}, own_cold=True))
    assert all("bowl" not in step.needs for step in own)
    foam = make("sabayon", ("egg-yolk", "6"), ("white-sugar", "90 g"), ("fortified-wine-sweet", "120 ml"))
    result = custard.assess(foam)
    assert planning.life_min(result) <= 20
    assert "steam" in {step.step: step for step in planning.steps_of(result)}["cook"].needs
    cups = make("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", "3"), ("white-sugar", "80 g"))
    baked = {step.step: step for step in planning.steps_of(custard.assess(cups))}
    assert baked["bake"].oven_c == 160
    assert 25 <= baked["bake"].minutes.usual <= 60
    assert baked["rest"].long == 120
    more = planning.steps_of(custard.assess(cups), planning.Made({}, custard.process.Cups(20, 120)))
    assert {step.step: step for step in more}["bake"].needs["oven"] > baked["bake"].needs["oven"]


def test_more_of_it_takes_longer_but_not_as_many_times_as_long(anglaise):
    def minutes(times: float) -> float:
        steps = planning.steps_of(custard.assess(anglaise.times(times)))
        return sum(step.minutes.usual for step in steps)

    assert minutes(1) < minutes(4) < 4 * minutes(1)


def test_days_teach_a_kitchen_its_own_minutes(anglaise):
    slow = [Took("cook", 10, 15)] * 30
    known = planning.learned(slow)
    assert known["cook"].times == pytest.approx(1.5, rel=0.05)
    assert planning.learned(slow[:2]) == {}
    assert planning.learned([Took("cook", 10, 200)] * 30) == {}, "left and come back to"
    result = custard.assess(anglaise)
    before = {step.step: step.minutes for step in planning.steps_of(result)}
    after = {step.step: step.minutes for step in planning.steps_of(result, planning.Made({}, learned=known))}
    assert after["cook"].usual == pytest.approx(before["cook"].usual * known["cook"].times)
    assert after["cook"].batches == 30
    assert after["weigh"] == before["weigh"]
    assert planning.lessons(slow)[0].usual_min == pytest.approx(10 * known["cook"].times)


def test_chances_are_those_of_the_minutes():
    """Median ten, twelve minutes: in time when its luck is below ln(1.2)/0.2 of a spread, 0.82."""
    job = planning.Job("a", "a", (Step("s", "s", Minutes(10, 0.2), 1.0),), NINE + 12, open=NINE)
    problem = Day(room(1), (job,))
    plan = planning.greedy(problem)
    pushed = replace(plan, steps=(replace(plan.steps[0], start=NINE, end=NINE + 12),))
    found = planning.risks(problem, pushed, days=20_000)[0]
    assert found.chance == pytest.approx(0.819, abs=0.01)
    assert found.brittle
    assert "in time on 82 days of 100" in found.say


def test_who_overran_is_named():
    """The first takes as long as it likes; the second only waits for the hands."""
    first = planning.Job("a", "first", (Step("s", "stir it", Minutes(30, 0.6), 1.0),), None)
    second = planning.Job("b", "second", (Step("s", "stir that", Minutes(10), 1.0),), NINE + 55)
    problem = Day(room(1), (first, second))
    plan = planning.Plan(
        (planning.Placed("a", 0, NINE, NINE + 41, 0), planning.Placed("b", 0, NINE + 41, NINE + 51, 0))
    )
    found = planning.risks(problem, plan)[0]
    assert found.because[0] == ("a", 0)
    assert "“stir it”, that of first, runs over" in found.say


def test_what_is_late_endangers_what_waits_for_it():
    problem = day(one("a", NINE + 30, 30), one("b", NINE + 62, 30))
    plan = planning.solve(problem)
    assert planning.outlook(problem, plan).endangered == ()
    late = Day(problem.room, problem.jobs, now=NINE + 20)
    seen = planning.outlook(late, plan)
    assert {one.job: one.late_min for one in seen.endangered} == {"a": 20, "b": 18}
    assert seen.endangered[1].because == ("a", 0)
    assert seen.of("a", 0).late
    assert not seen.of("b", 0).late
    begun = replace(problem.jobs[0], begun={0: Begun(NINE, None, 0)})
    running = Day(problem.room, (begun, problem.jobs[1]), now=NINE + 20)
    assert planning.outlook(running, plan).endangered == ()
    at, then = planning.next_for(running, plan, 0)
    assert at is not None
    assert at.job == "a"
    assert then is not None
    assert then.job == "b"


def test_lists_subtract_what_is_in_the_house(anglaise):
    result = custard.assess(anglaise)
    problem = Day(room(1), (planning.work([planning.Wanted("k", "a", "a", anglaise, NOON)]).batches[0].job,))
    plan = planning.solve(problem)
    prices = {"whole-milk": Price(1.25, 1030, "1 l"), "white-sugar": Price(1.35, 1000, "1 kg")}
    found = planning.lists(problem, plan, {"k": result}, {"white-sugar": 40.0}, prices, egg_size("EU-M"))
    milk = next(one for one in found.pull if one.ingredient == "whole-milk")
    assert (milk.packages, milk.cost) == (1, 1.25)
    sugar = next(one for one in found.pull if one.ingredient == "white-sugar")
    assert (sugar.grams, sugar.missing_g) == (pytest.approx(90), pytest.approx(50))
    assert found.cost is None, "yolks have no price"
    assert found.eggs is not None
    assert (found.eggs.yolks, found.eggs.to_break) == (pytest.approx(6), 6)
    assert found.eggs.whites_left_g == pytest.approx(6 * egg_size("EU-M").white_g)
    assert found.allergens == {"egg": ("test",), "milk": ("test",)}
    assert found.bowls == 0
    assert found.ice_g > 0
    assert [label.name for label in found.labels] == ["test"]


def file_of(anglaise) -> dict[str, object]:
    return {
        "format": "old-spoon/day", "version": 1, "date": "2026-11-26", "name": "Thursday",
        "hands": [{"name": "cook", "there": [["8:00", "15:00"]]}],
        "room": {"rings": 2, "ice_bath": 1, "ovens": 1, "ice_g": 5000, "ice_g_h": 500, "bowls": 1,
                 "steam": 0, "churns": 0},
        "wanted": [{"name": "quince", "formula": custard.write_formula(anglaise), "at": "12:30",
                    "covers": 20.0, "each": "60 g"}],
        "other_work": [{"name": "caramel", "minutes": 15.0, "hands": True, "needs": "ring", "by": "+1 7:15"}],
        "plan": [{"of": "quince", "step": "cook", "start": "11:00", "end": "11:11", "hands": "cook"}],
    }  # fmt: skip


def test_a_day_goes_through_its_file_unchanged_and_fits_its_schema(anglaise):
    data = file_of(anglaise)
    written = planning.write_day(planning.read_day(data))
    assert written == data
    schema = planning.day_schema(custard.formats.formula_schema())
    published = Path(__file__).parents[3] / "docs" / "formats" / "day-1.schema.json"
    assert json.loads(published.read_text(encoding="utf-8")) == schema
    assert jsonschema_rs.is_valid(schema, written)
    assert not jsonschema_rs.is_valid(schema, {**written, "lamp": 1})


@pytest.mark.parametrize(
    ("path", "value", "field"),
    [
        (("format",), "x", "format"),
        (("version",), 2, "version"),
        (("date",), "26.11.", "date"),
        (("hands", 0, "there"), [["8:00", "7:00"]], "hands[0].there"),
        (("room", "rings"), 1.5, "room.rings"),
        (("wanted", 0, "at"), "half past", "wanted[0].at"),
        (("wanted", 0, "each"), "sixty", "wanted[0].each"),
        (("wanted", 0, "formula"), {}, "wanted[0].formula.format"),
        (("other_work", 0, "minutes"), 0, "other_work[0].minutes"),
        (("lamp",), 1, "lamp"),
    ],
)
def test_a_bad_file_is_refused_by_its_field(anglaise, path, value, field):
    data = file_of(anglaise)
    at = data
    for part in path[:-1]:
        at = at[part]
    at[path[-1]] = value
    with pytest.raises(errors.CustardError) as refused:
        planning.read_day(data)
    assert refused.value.field == field


def test_the_command_plans_a_day(anglaise, tmp_path, capsys):
    path = tmp_path / "day.json"
    path.write_text(json.dumps(file_of(anglaise)))
    assert cli.main(["plan", str(path), "--seconds", "2"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["late_min"] == 0
    assert told["why"] is None
    assert {step["step"] for step in told["steps"]} >= {"weigh", "cook", "chill", "work"}
    in_a_hurry = file_of(anglaise)
    in_a_hurry["wanted"][0]["at"] = "8:05"
    path.write_text(json.dumps(in_a_hurry))
    assert cli.main(["plan", str(path), "--seconds", "2"]) == 0
    late = json.loads(capsys.readouterr().out)
    assert "8:05" in late["why"]
    assert late["helps"]
    assert not any("{" in text for text in [late["why"], *late["helps"]])
    path.write_text("{}")
    assert cli.main(["plan", str(path)]) == 2
