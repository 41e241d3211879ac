"""A batch is frozen when it is taken: nothing done elsewhere changes what was told, or what it came to."""

from __future__ import annotations

import json
import re
from datetime import UTC, datetime
from pathlib import Path

import custard
import pytest
from bench import reads as bench
from book import actions as book
from common import clock
from custard.vocabulary import StageName
from django.db import connection
from kitchen import actions as larder
from stove import actions as stove
from stove import setting_up
from stove.batch import plans
from stove.batch.cooking import assessed, conditions_of, equipment_of
from stove.live import follow
from stove.models import Batch, ParameterSet
from stove.schemas import EquipmentWanted

from tests.conftest import ANGLAISE, close, formula_of, logged_in, make_kitchen, mark, rewrite, work_off

HERE = Path(__file__).parent
SERVER = HERE.parent


@pytest.fixture
def hob(here):
    return larder.add_hob(here["chef"], "front ring", 400, over_steam=False)


def told(api, batch) -> dict:
    return api("GET", f"/api/k/here/batches/{batch.pk}").json()


def test_changing_the_kitchen_changes_nothing_in_an_open_batch(here, chef, batch):
    before, stop = told(chef, batch), assessed(batch).stop.at_c
    assert chef("PATCH", "/api/k/here", {"altitude_m": 3000, "cooling_rule": "fr"}).status_code == 200
    batch = Batch.objects.select_related("parameters").get(pk=batch.pk)
    assert told(chef, batch) == before
    assert conditions_of(batch).altitude_m == 12
    assert assessed(batch).stop.at_c == stop
    found = chef("POST", "/api/k/here/trouble", {"batch_id": batch.pk, "fault": "too-thin"}).json()
    assert f"{stop:.1f}" in " ".join(found["now"]["steps"])
    taken = {"formula_id": batch.version.formula_id, "version": 1, "draft": ANGLAISE}
    later = chef("POST", "/api/k/here/batches", taken).json()
    assert later["plan"]["boiling_c"] < before["plan"]["boiling_c"] - 8


def test_what_is_learned_of_a_hob_changes_only_batches_that_choose_it_then(here, chef, batch, hob):
    setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(hob_id=hob.pk))
    larder.learn_hob(here["cook"], hob.pk, 900, 5)
    batch.refresh_from_db()
    assert equipment_of(batch).stove.power_w == 400
    larder.remove_hob(here["chef"], hob.pk)
    batch.refresh_from_db()
    assert equipment_of(batch).stove.power_w == 400
    # Chosen again, as the cook asks for it, it is what is known now.
    other = larder.add_hob(here["chef"], "back ring", 650, over_steam=False)
    setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(hob_id=other.pk))
    batch.refresh_from_db()
    assert equipment_of(batch).stove.power_w == 650


def test_a_model_that_was_changed_since_is_not_asked(here, batch):
    """An upgrade brings other parameters; an open batch goes on by its own."""
    own = batch.parameters.values | {"coagulation.set_base_c": 78.0}
    changed = custard.larder.read_parameters(own)
    kept = ParameterSet.objects.create(version=changed.version, values=own)
    rewrite(Batch.objects.filter(pk=batch.pk), parameters=kept)
    batch = Batch.objects.select_related("parameters").get(pk=batch.pk)
    today = custard.assess(formula_of(ANGLAISE), custard.Conditions(altitude_m=12))
    assert assessed(batch).stop.at_c > today.stop.at_c + 1


def test_a_boil_that_its_recipe_says_is_held_and_leaves_the_parameters_the_kitchens(here):
    starch = {"ingredient": "cornstarch", "amount": "40 g"}
    lines = [*ANGLAISE["lines"], starch]
    content = {**ANGLAISE, "version": 2, "family": "pastry-cream", "lines": lines}
    usual, long = (formula_of({**content, **card}) for card in ({}, {"card": {"boil_s": 180}}))
    version = book.add(here["chef"], usual)
    first, second = (stove.start(here["cook"], version.formula_id, 1, one) for one in (usual, long))
    assert first.parameters == second.parameters
    kept = Batch.objects.select_related("parameters").get(pk=second.pk)
    assert equipment_of(kept).hold_s == 180
    assert assessed(kept).conditions.parameters.cook.boil_hold_s == 180


def test_facts_are_written_when_they_happen_and_taken_back_with_their_marks(cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    for stage in ("weigh", "warm", "temper"):
        cook("POST", f"{path}/marks", mark("done", stage, temperature_c=70.5))
    spoon = mark("spoon", "test", coat="nappe", finger_line="holds")
    cook("POST", f"{path}/marks", spoon)
    batch.refresh_from_db()
    assert (batch.stage, batch.coat, batch.finger_line) == ("cook", "nappe", "holds")
    assert batch.left_c["temper"] == 70.5
    assert batch.when_done(StageName.WEIGH) is not None
    assert batch.when_done(StageName.COOK) is None
    cook("POST", f"{path}/marks/{spoon['id']}/withdraw")
    batch.refresh_from_db()
    assert (batch.coat, batch.finger_line) == ("", "")


@pytest.mark.parametrize("path", sorted((HERE / "plans").glob("plan-*.json")), ids=lambda path: path.stem)
def test_a_plan_kept_in_any_version_is_read(path):
    kept = json.loads(path.read_text(encoding="utf-8"))
    plan = plans.read(kept)
    # Where something joins late, and whether there is anything to temper, is the formula's.
    free = {"finish", "temper"}
    assert [stage.stage for stage in plan.stages if stage.stage not in free] == [
        stage for stage in StageName if stage not in free
    ]
    assert not plan.served_at_once
    assert all(sign.sign and sign.text for stage in plan.stages for sign in stage.signs)
    assert plans.read(plans.write(plan)) == plan


def test_every_version_of_a_plan_has_a_kept_file():
    kept = {path.stem for path in (HERE / "plans").glob("plan-*.json")}
    assert kept == {f"plan-{version}" for version in range(1, plans.VERSION + 1)}


def test_a_plan_of_a_version_to_come_is_refused():
    with pytest.raises(plans.UnknownPlan):
        plans.read({"format": plans.FORMAT, "version": plans.VERSION + 1})


def test_the_log_reads_no_documents(here, batch, django_assert_num_queries, cook):
    with django_assert_num_queries(4):
        [line] = cook("GET", "/api/k/here/log").json()["lines"]
    assert line["planned_coat"] == "nappe"
    sql = str(stove_lines(here["cook"]).query)
    for document in ("content", "plan", "equipment", "conditions"):
        assert not re.search(rf'"{document}"', sql)


def stove_lines(actor):
    from stove import reads  # noqa: PLC0415

    return reads.lines(actor)


CLOCKS = re.compile(r"timezone\.now|datetime\.now|datetime\.utcnow|auto_now|time\.time\(")


def test_nothing_but_the_clock_asks_what_time_it_is():
    places = [path for path in SERVER.rglob("*.py") if not {"tests", "migrations"} & set(path.parts)]
    asked = {str(path.relative_to(SERVER)) for path in places if CLOCKS.search(path.read_text())}
    assert asked == {"common/clock.py"}


def test_a_batch_can_be_dated(here, version):
    then = datetime(2024, 2, 3, 4, 5, tzinfo=UTC)
    with clock.at(then):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert batch.started_at == then


@pytest.mark.django_db(transaction=True)
def test_no_connection_is_held_while_a_map_or_a_batch_is_computed(monkeypatch):
    held = []

    def looked_at(name, of):
        real = getattr(of, name)

        def look(*args, **kwargs):
            held.append((name, connection.connection is not None and connection.in_atomic_block))
            held.append((name, connection.connection is not None))
            return real(*args, **kwargs)

        monkeypatch.setattr(of, name, look)

    make_kitchen("here", "The kitchen here")
    api = logged_in("here-cook")
    # Bands that another test asked for are kept.
    bench._band.cache_clear()
    looked_at("ratio_map", custard.bench)
    looked_at("window_band", custard.bands)
    looked_at("sensitivities", custard.bench)
    for path, body in (("map", {"draft": ANGLAISE}), ("band", ANGLAISE), ("details", ANGLAISE)):
        assert api("POST", f"/api/k/here/{path}", body).status_code == 200
    assert {name for name, _ in held} == {"ratio_map", "window_band", "sensitivities"}
    assert not any(was for _, was in held)


@pytest.mark.django_db(transaction=True)
def test_no_transaction_is_open_while_a_batch_is_followed_or_looked_back_on(monkeypatch):
    from book import actions as book  # noqa: PLC0415

    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    open_ = []
    real = custard.assess

    def assess(*args, **kwargs):
        open_.append(connection.in_atomic_block)
        return real(*args, **kwargs)

    for stage in ("weigh", "warm", "temper"):
        api = logged_in("here-cook")
        api("POST", f"/api/k/here/batches/{batch.pk}/marks", mark("done", stage))
    monkeypatch.setattr(custard, "assess", assess)
    follow.compute(batch.pk)
    close(actors["cook"], batch)
    open_.clear()
    work_off()
    assert not any(open_)
