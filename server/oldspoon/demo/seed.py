"""Filling the demo kitchen through the same actions the application uses."""

from __future__ import annotations

import json
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any

import custard
from book import actions as book
from book.models import FormulaVersion
from book.schemas import AssessmentOut
from common import clock
from devices import actions as devices
from devices.models import Device
from devices.schemas import NewReading
from django.db import transaction
from kitchen import actions as larder
from kitchen.access import Actor
from kitchen.models import Cooler, Hob, Kitchen, Membership, Pan, Role
from people.models import User
from people.published import PASSWORD
from shelf import actions as shelf
from shelf.schemas import Closing
from stove import actions as stove
from stove import learning, plans
from stove.cooking import assessed
from stove.schemas import CoolingWanted, EquipmentWanted, NewMark

from oldspoon.demo import day, practice, stock
from oldspoon.demo.fortnight import FORTNIGHT, RINGS, Cooked, Tale, cooked

PEOPLE = (
    ("pastry", "pastry cook", Role.CHEF),
    ("section", "section chef", Role.CHEF),
    ("trainee", "trainee", Role.COOK),
    ("guest", "front of house", Role.VIEWER),
)
HERE = Path(__file__).parent
PANS = (("20 cm clad pan", "clad"), ("16 cm milk pan", "thin"), ("24 cm iron pan", "cast-iron"))
COOKED_IN = PANS[0][0]
COOLERS = (
    ("walk-in fridge", "fan-fridge", 2.5),
    ("bench fridge", "fridge-covered", 3.0),
    ("ice bath", "ice-bath", None),
)
VESSELS: tuple[tuple[str, dict[str, Any]], ...] = (
    ("steel bowl, 24 cm", {"kind": "bowl", "length_cm": 24, "height_cm": 12}),
    ("shallow tray", {"kind": "tray", "length_cm": 50, "width_cm": 30, "height_cm": 4}),
    ("two-litre tub", {"kind": "tub", "length_cm": 18, "width_cm": 13, "height_cm": 9}),
)


@dataclass(frozen=True)
class Fitted:
    """What the demo's batches are cooked on and in, and the probe in them."""

    hobs: dict[str, Hob]
    pans: dict[str, Pan]
    probe: Device


@transaction.atomic
def seed() -> bool:
    """Make the demo kitchen, unless it is there; returns whether it was made."""
    if Kitchen.objects.filter(slug="tidemill-house").exists():
        return False
    kitchen = Kitchen.objects.create(slug="tidemill-house", name="Tidemill House", altitude_m=12, demo=True)
    actors = {}
    for username, title, role in PEOPLE:
        user = User.objects.create_user(username, password=PASSWORD, title=title)
        Membership.objects.create(user=user, kitchen=kitchen, role=role)
        actors[username] = Actor(user, kitchen, role)
    fitted = Fitted(
        {
            ring.name: larder.add_hob(actors["pastry"], ring.name, ring.power_w, over_steam=ring.over_steam)
            for ring in RINGS
        },
        {name: larder.add_pan(actors["pastry"], name, kind) for name, kind in PANS},
        devices.register(actors["pastry"], "silver probe", devices.new_token(), "probe"),
    )
    for name, by, medium_c in COOLERS:
        larder.add_cooler(actors["pastry"], name, by, medium_c)
    for name, measures in VESSELS:
        larder.add_vessel(actors["pastry"], name, **measures)
    formulas = {}
    for content in json.loads((HERE / "formulas.json").read_text(encoding="utf-8")):
        formula = custard.read_formula(content)
        formulas[formula.name] = (book.add(actors["pastry"], formula), formula)
    _stock(actors["pastry"], [formula for _, formula in formulas.values()])
    _an_earlier_anglaise(actors["pastry"], formulas)
    made: list[stock.Told] = []
    for tale in FORTNIGHT:
        version, formula = formulas[tale.formula]
        made.append(_tell(actors[tale.by], tale, version, formula, fitted, made))
    stock.tell(actors, made)
    ids = {name: version.formula_id for name, (version, _) in formulas.items()}
    day.plan(actors, ids)
    practice.practise(actors, ids)
    return True


def _stock(actor: Actor, formulas: list[custard.Formula]) -> None:
    """The kitchen's own ingredients, as its formulas have them, and what everything costs."""
    for line in (line for formula in formulas for line in custard.write_formula(formula)["lines"]):
        own = line["ingredient"]
        if isinstance(own, dict):
            allergens, density = own.get("allergens", []), own.get("density_g_per_ml")
            larder.add_ingredient(
                actor,
                name=own["name"],
                composition=own["composition"],
                allergens=allergens,
                density_g_per_ml=density,
            )
    for ingredient, price, per in json.loads((HERE / "prices.json").read_text(encoding="utf-8")):
        larder.set_price(actor, ingredient, price, per)


def _an_earlier_anglaise(actor: Actor, formulas: dict[str, tuple[FormulaVersion, custard.Formula]]) -> None:
    """The anglaise got richer once: the book keeps both."""
    version, formula = formulas["Bay leaf anglaise"]
    richer = custard.write_formula(formula)
    richer["lines"][1]["amount"] = "6 yolks"
    saved = book.save_version(
        actor,
        version.formula_id,
        custard.read_formula(richer),
        version.number,
        "one yolk more, for the cold months",
    )
    formulas["Bay leaf anglaise"] = (saved, custard.read_formula(richer))


def _tell(
    actor: Actor,
    tale: Tale,
    version: FormulaVersion,
    formula: custard.Formula,
    fitted: Fitted,
    earlier: Sequence[stock.Told],
) -> stock.Told:
    """One batch of the fortnight: set up, cooked, marked and closed as its tale has it."""
    started = (clock.now() - timedelta(days=tale.days_ago)).replace(second=0, microsecond=0)
    with clock.at(started):
        batch = stove.start(actor, version.formula_id, version.number, formula)
    on = fitted.hobs.get(tale.ring)
    in_ = fitted.pans[COOKED_IN] if on and not on.over_steam else None
    wanted = EquipmentWanted(
        hob_id=on.pk if on else None, pan_id=in_.pk if in_ else None, probe_id=fitted.probe.pk
    )
    with clock.at(started):
        stove.set_up(actor, batch.pk, wanted)
    plan = plans.read(batch.plan)
    if on and not on.over_steam:
        with clock.at(started):
            stove.cool(actor, batch.pk, _cooling(actor))
    targets = {stage.stage: stage.at_c for stage in plan.stages}
    came = cooked(tale, assessed(batch), targets["temper"])
    before = _before(plan, targets, came.start_c)
    cooks = started + timedelta(seconds=before[-1][0])
    ends = cooks + timedelta(seconds=came.end_s + 60)
    with clock.at(ends):
        devices.take_readings(
            fitted.probe, [NewReading(at=cooks + timedelta(seconds=t), celsius=c) for t, c in came.readings]
        )
    moments = [(started + timedelta(seconds=t), words) for t, words in before]
    moments += [(cooks + timedelta(seconds=t), words) for t, words in _after(tale, came, _additions(plan))]
    for number, (at, words) in enumerate(moments):
        key = uuid.uuid5(uuid.NAMESPACE_OID, f"demo {batch.number} {number}")
        with clock.at(at):
            stove.mark(actor, batch.pk, NewMark(id=key, at=at, **words))
    if tale.takes is not None:
        with clock.at(started + timedelta(minutes=5)):
            stock.take(actor, earlier[tale.takes], batch.pk)
    closing = Closing.model_validate({"verdict": tale.verdict, "note": tale.note})
    with clock.at(ends):
        shelf.close(actor, batch.pk, closing)
        # A fortnight is looked back on here and now, in its own order; the worker then finds it done.
        learning.learn(batch.pk, actor.user.pk)
    return stock.Told(tale, batch.pk, ends)


def _cooling(actor: Actor) -> CoolingWanted:
    """Out of the pan into a steel bowl in ice and water, then into the walk-in."""
    coolers = {one.name: one.pk for one in Cooler.objects.filter(kitchen=actor.kitchen)}
    return CoolingWanted.model_validate(
        {
            "vessel": {**VESSELS[0][1], "count": 1},
            "ways": [
                {"by": "ice-bath", "cooler_id": coolers["ice bath"], "stirred": True, "minutes": ICED_MIN},
                {"by": "fan-fridge", "cooler_id": coolers["walk-in fridge"]},
            ],
        }
    )


ICED_MIN = 30
Moments = list[tuple[float, dict[str, Any]]]


def _additions(plan: AssessmentOut) -> int:
    return 0 if plan.finish is None else len(plan.finish.additions)


def _before(plan: AssessmentOut, targets: dict[str, float | None], landed_c: float) -> Moments:
    """Seconds after the start, and what was marked then, until the mix was in the pan."""
    found: Moments = [
        (60 + 36 * i, {"stage": "weigh", "kind": "tick", "line": i}) for i in range(len(plan.slip))
    ]
    t = found[-1][0]
    warm_c = targets["warm"]
    read_c = {"warm": None if warm_c is None else warm_c + 0.4, "temper": landed_c}
    for stage, wait_s in (("weigh", 30), ("warm", 360), ("temper", 130)):
        there = targets[stage] is not None
        t += wait_s if there else 30
        came = read_c.get(stage)
        read = None if came is None or not there else round(came, 1)
        if stage == "warm" and plan.infusing is not None:
            found.append((t - 20, {"stage": "warm", "kind": "top-up", "grams": plan.infusing.left_g - 3}))
        found.append((t, {"stage": stage, "kind": "done", "temperature_c": read}))
    return found


def _after(tale: Tale, came: Cooked, additions: int) -> Moments:
    """Seconds since it was in the pan, and what was marked then."""
    lifted = came.read(came.off_s)
    found: Moments = []
    if came.bubbles_s is not None:
        found.append((came.bubbles_s, {"stage": "cook", "kind": "bubbles"}))
    found.append((came.off_s, {"stage": "cook", "kind": "off-heat", "temperature_c": lifted}))
    found.append((came.off_s + 1, {"stage": "cook", "kind": "done", "temperature_c": lifted}))
    if came.wobble:
        seen: dict[str, Any] = {"kind": "nudge", "what": came.wobble}
    else:
        seen = {"kind": "spoon", "coat": came.coat, "finger_line": came.line}
    found.append((came.off_s + 4, {"stage": "test", **seen}))
    if came.out_s is not None:
        read = came.read(came.out_s)
        found.append((came.out_s, {"stage": "chill", "kind": "into-ice", "temperature_c": read}))
    last = max(t for t, _ in found)
    if came.coat:
        found.append((last + 20, {"stage": "test", "kind": "sieve", "sieve": tale.sieve or came.sieve}))
    found.append((last + 30, {"stage": "test", "kind": "done"}))
    for row in range(additions):
        found.append((last + 31 + row, {"stage": "finish", "kind": "tick", "line": row}))
    if additions:
        found.append((last + 38, {"stage": "finish", "kind": "done"}))
    found.append((max(came.end_s, last + 40), {"stage": "chill", "kind": "done"}))
    return found
