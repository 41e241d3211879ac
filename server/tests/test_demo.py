"""The demo kitchen: the rows that the application's own actions write, sensible by its own model."""

from __future__ import annotations

import json
import statistics
from dataclasses import replace
from datetime import UTC, datetime
from io import StringIO

import custard
import pytest
from book.models import Formula, FormulaVersion
from common import clock
from demo.day import HEAD_START, WANTED, begins
from demo.fortnight import FORTNIGHT, RINGS, cooked
from demo.seed import HERE, fill, seed
from demo.year import year
from devices.models import Device, Reading
from django.core.management import CommandError, call_command
from django.db import transaction
from kitchen.models import AuditEntry, Cooler, Hob, Kitchen, Membership, OwnIngredient, Pan, Vessel
from shelf.models import Movement, Promise, Tub
from stove.models import Batch, LiveState, Mark, ProbeUse

from tests import demo_by_actions
from tests.conftest import Api

FORMULAS = json.loads((HERE / "formulas.json").read_text(encoding="utf-8"))


@pytest.mark.django_db
def test_it_is_made_once_by_few_queries(django_assert_max_num_queries):
    with django_assert_max_num_queries(200):
        assert seed()
    assert not seed()
    assert Kitchen.objects.count() == 1
    assert Batch.objects.count() == len(FORTNIGHT)
    api = Api()
    assert api.log_in("pastry", "nappe-at-82").status_code == 200
    assert len(api("GET", "/api/k/tidemill-house/formulas").json()["lines"]) == 10
    assert len(api("GET", "/api/k/tidemill-house/log").json()["lines"]) == len(FORTNIGHT)
    for batch in Batch.objects.all():
        live = api("GET", f"/api/k/tidemill-house/batches/{batch.pk}/live").json()
        assert len(live["past"]["c"]) > 20
        lifted = batch.marks.get(kind="off-heat")
        assert live["past"]["ago_s"][0] < (lifted.at - batch.closed_at).total_seconds() < 0
        assert 70 < lifted.temperature_c < 101
    cups = next(
        one
        for one in api("GET", "/api/k/tidemill-house/log").json()["lines"]
        if one["family"] == "baked-custard"
    )
    assert (cups["coat"], cups["planned_coat"]) == ("wobbles like a coin", "wobbles like a coin")
    lifted = next(one for one in cups["temperatures"] if one["stage"] == "cook")
    assert lifted["left_c"] == pytest.approx(lifted["planned_c"], abs=1.5)
    front = Hob.objects.get(name="front ring")
    assert front.power_spread < custard.stove.UNKNOWN_POWER
    ring = next(ring for ring in RINGS if ring.name == front.name)
    taken = custard.process.Stove(power_w=ring.power_w)
    anglaise = custard.mix(custard.read_formula(FORMULAS[0]).in_the_pan())
    assert front.power_w == pytest.approx(
        custard.process.StoveRehearsal(anglaise, taken, 20, ring.seed).power_w, rel=0.15
    )


TALES = {
    "used up and thrown away": FORTNIGHT[5],
    "in cups": FORTNIGHT[6],
    "over steam, whites frozen": FORTNIGHT[4],
    "frozen": FORTNIGHT[7],
    "discarded": FORTNIGHT[0],
    "with film and label, promised": FORTNIGHT[15],
    "churned": replace(FORTNIGHT[3], takes=None),
}
TABLES = (
    Kitchen, Hob, Pan, Cooler, Vessel, OwnIngredient, Device, Formula, FormulaVersion, Batch, ProbeUse, Mark,
    Reading, Tub, Movement, Promise, AuditEntry, Membership, LiveState,
)  # fmt: skip
WITHOUT = {"id", "token_hash", "created_at", "revision", "content_sum"}
"""What is made by chance, or by the clock of the computer."""


def rows() -> dict[str, list[dict[str, str]]]:
    """All rows of the demo by table, each value as text, without their ids."""
    ids = {one.pk: one.name for one in Cooler.objects.all()}
    found = {}
    for table in TABLES:
        names = [field.name for field in table._meta.concrete_fields if field.name not in WITHOUT]
        told = []
        for row in table._default_manager.all():
            values = {name: getattr(row, name) for name in names}
            if values.get("cooling"):
                kept = dict(values["cooling"])
                values["cooling"] = {**kept, "cooler_ids": [ids.get(key) for key in kept["cooler_ids"]]}
            told.append({name: _plain(value) for name, value in values.items()})
        found[table.__name__] = sorted(told, key=lambda row: list(row.values()))
    return found


def _plain(value: object) -> str:
    return json.dumps(value, sort_keys=True) if isinstance(value, dict | list) else str(value)


@pytest.mark.django_db
@pytest.mark.parametrize("tale", TALES.values(), ids=TALES)
def test_a_batch_written_in_bulk_is_the_batch_that_actions_write(tale):
    both = []
    with clock.at(clock.now().replace(microsecond=0)):
        for make in (fill, demo_by_actions.fill):
            with transaction.atomic():
                make((tale,))
                both.append(rows())
                transaction.set_rollback(True)
    bulk, actions = both
    for table, written in actions.items():
        assert len(bulk[table]) == len(written), table
        differ = [
            (table, name, one[name], other[name])
            for one, other in zip(bulk[table], written, strict=True)
            for name in one
            if one[name] != other[name]
        ]
        assert not differ


def test_the_book_has_every_way_of_joining():
    assert {line["when"] for formula in FORMULAS for line in formula["lines"]} == set(custard.larder.JOINS)


def test_the_fortnight_teaches():
    """What went wrong is seen on spoon and sieve; what went well is as planned, most of the time."""
    came = {tale: cooked_as_told(tale) for tale in FORTNIGHT}
    for tale, one in came.items():
        assert (one.sieve == "many bits") == (tale.verdict == "discarded"), tale
    early = next(tale for tale in FORTNIGHT if tale.note.startswith("stopped too early"))
    assert came[early].coat in ("runs off", "thin coat")


def cooked_as_told(tale):
    formula = custard.read_formula(next(one for one in FORMULAS if one["name"] == tale.formula))
    result = custard.assess(formula, custard.Conditions(altitude_m=12))
    stages = custard.stove.stages(result)
    return cooked(tale, result, custard.stove.landing_of(stages))


@pytest.mark.parametrize("content", FORMULAS, ids=lambda content: content["name"])
def test_each_formula_stops_below_curdling(content):
    result = custard.assess(custard.read_formula(content), custard.Conditions(altitude_m=12))
    assert result.stop.curdled < 0.05
    assert result.hot.word in ("nappe", "heavy coat", "spoonable", "pipeable")
    if content["family"] in ("pastry-cream", "cold-start-pudding", "pouring-custard"):
        assert result.stop.boiled
    else:
        assert result.stop.at_c < result.window.curdles_c


@pytest.mark.django_db
def test_a_year_can_be_made_and_something_is_found_in_it():
    call_command("demo_year", "--batches", "14", stdout=StringIO())
    assert Batch.objects.count() == 14
    with pytest.raises(CommandError):
        call_command("demo_year", "--batches", "14")
    with pytest.raises(CommandError):
        call_command("demo_year", "--batches", "0")


@pytest.mark.parametrize("minute", range(0, 1440, 7))
def test_the_demos_service_is_far_enough_ahead_whenever_it_is_made(minute):
    """In less its ice base finds no place in the day; what is wanted after service is of the same day."""
    now = datetime(2026, 3, 5, minute // 60, minute % 60, tzinfo=UTC)
    when, service = begins(now)
    ahead = (when - now.date()).days * 1440 + service - minute
    assert ahead >= HEAD_START
    assert service + max(after for _, _, after, _, _ in WANTED) <= 1425


def test_the_year_hides_what_it_says():
    tales = year()
    assert len(tales) == 400
    assert [one.days_ago for one in tales] == sorted((one.days_ago for one in tales), reverse=True)
    late = [one.over_k for one in tales if one.by == "trainee"]
    others = [one.over_k for one in tales if one.by != "trainee"]
    assert statistics.mean(late) > statistics.mean(others) + 1
    weak = [one.turned for one in tales if one.ring == "front ring"]
    assert weak[0] == 1
    assert weak[-1] < 0.75
    before, since = tales[:100], tales[-100:]
    assert statistics.mean(one.set_k for one in since) > statistics.mean(one.set_k for one in before) + 1
    assert 3 <= sum(one.probe_k > 0 for one in tales) <= 15
