"""Filling the demo kitchen through the same actions the application uses."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path

import custard
from book import actions as book
from django.db import transaction
from django.utils import timezone
from kitchen import actions as larder
from kitchen.access import Actor
from kitchen.models import Kitchen, Membership, Role
from people.models import User
from stove import actions as stove
from stove.models import Batch
from stove.schemas import NewMark

PASSWORD = "nappe-at-82"  # noqa: S105 the demo's, printed at every start
PEOPLE = (
    ("pastry", "pastry cook", Role.CHEF),
    ("section", "section chef", Role.CHEF),
    ("trainee", "trainee", Role.COOK),
    ("guest", "front of house", Role.VIEWER),
)
HERE = Path(__file__).parent
HOBS = (
    ("front ring", 360, False), ("back ring", 300, False),
    ("induction", 420, False), ("bain-marie", 1500, True),
)  # fmt: skip
PANS = (("20 cm clad pan", "clad"), ("16 cm milk pan", "thin"), ("24 cm iron pan", "cast-iron"))


@dataclass(frozen=True)
class Told:
    """One batch of the demo's fortnight; `over` is how far above plan it was lifted [K]."""

    formula: str
    days_ago: float
    by: str
    over: float
    coat: str
    line: str
    sieve: str
    verdict: str
    note: str = ""


FORTNIGHT = (
    Told("Bay leaf anglaise", 13.4, "trainee", 4.6, "heavy coat", "holds", "many bits", "discarded",
         "left in the hot pan while the sieve was looked for"),
    Told("Rye pastry cream", 12.6, "pastry", 0.2, "spoonable", "holds", "clean", "good"),
    Told("Bay leaf anglaise", 12.4, "trainee", -2.8, "thin coat", "closes", "clean", "usable",
         "stopped too early, used in the ice base"),
    Told("Barley ice base", 11.6, "pastry", 0.4, "nappe", "holds", "clean", "good"),
    Told("Perry sabayon", 10.3, "section", 0.9, "nappe", "holds", "clean", "good"),
    Told("Bay leaf anglaise", 9.4, "trainee", 1.1, "nappe", "holds", "a few bits", "good",
         "sieved, smooth"),
    Told("Hay-milk cup custard", 8.5, "pastry", -0.6, "spoonable", "holds", "clean", "good"),
    Told("Burnt honey filling", 7.6, "pastry", 0.8, "nappe", "holds", "clean", "good"),
    Told("Saffron pouring custard", 6.4, "trainee", 0.0, "nappe", "holds", "clean", "good"),
    Told("Bay leaf anglaise", 5.4, "trainee", 0.3, "nappe", "holds", "clean", "good",
         "front ring slower than last week"),
    Told("Bitter chocolate crémeux", 4.5, "section", 0.5, "nappe", "holds", "clean", "good"),
    Told("Buckwheat cold-start pudding", 3.6, "trainee", -0.4, "heavy coat", "holds", "a few bits", "usable",
         "lumps from the edge of the pan, sieved hot"),
    Told("Perry sabayon", 2.3, "trainee", 6.8, "thin coat", "closes", "many bits", "discarded",
         "water touched the bowl, the base cooked"),
    Told("Bay leaf anglaise", 1.4, "pastry", -0.2, "nappe", "holds", "clean", "good"),
)  # fmt: skip


@transaction.atomic
def seed() -> bool:
    """Make the demo kitchen, unless it is there; returns whether it was made."""
    if Kitchen.objects.filter(slug="tidemill-house").exists():
        return False
    kitchen = Kitchen.objects.create(slug="tidemill-house", name="Tidemill House", altitude_m=12)
    actors = {}
    for username, title, role in PEOPLE:
        user = User.objects.create_user(username, password=PASSWORD, title=title)
        Membership.objects.create(user=user, kitchen=kitchen, role=role)
        actors[username] = Actor(user, kitchen, role)
    for name, power, over_steam in HOBS:
        larder.add_hob(actors["pastry"], name, power, over_steam=over_steam)
    for name, kind in PANS:
        larder.add_pan(actors["pastry"], name, kind)
    formulas = {}
    for content in json.loads((HERE / "formulas.json").read_text(encoding="utf-8")):
        formula = custard.read_formula(content)
        formulas[formula.name] = (book.add(actors["pastry"], formula), formula)
    _stock(actors["pastry"], [formula for _, formula in formulas.values()])
    _an_earlier_anglaise(actors["pastry"], formulas)
    for told in FORTNIGHT:
        version, formula = formulas[told.formula]
        _tell(actors[told.by], told, version.formula_id, version.number, formula)
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


def _an_earlier_anglaise(actor: Actor, formulas: dict[str, tuple[object, custard.Formula]]) -> None:
    """The anglaise got leaner once: the book keeps both."""
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


def _tell(actor: Actor, told: Told, formula_id: int, version: int, formula: custard.Formula) -> None:
    batch = stove.start(actor, formula_id, version, formula)
    started = (timezone.now() - timedelta(days=told.days_ago)).replace(second=0, microsecond=0)
    Batch.objects.filter(pk=batch.pk).update(started_at=started)
    plan = batch.plan
    moments = _moments(told, plan)
    for number, (minutes, words) in enumerate(moments):
        key = uuid.uuid5(uuid.NAMESPACE_OID, f"demo {batch.number} {number}")
        mark = NewMark(id=key, at=started + timedelta(minutes=minutes), **words)
        stove.mark(actor, batch.pk, mark)
    stove.close(actor, batch.pk, told.verdict, told.note)
    Batch.objects.filter(pk=batch.pk).update(closed_at=started + timedelta(minutes=moments[-1][0] + 1))


def _moments(told: Told, plan: dict) -> list[tuple[float, dict]]:
    """Minutes after the start, and what was marked then."""
    found: list[tuple[float, dict]] = [
        (1 + 0.6 * i, {"stage": "weigh", "kind": "tick", "line": i}) for i in range(len(plan["slip"]))
    ]
    t = found[-1][0]
    targets = {stage["stage"]: stage["at_c"] for stage in plan["stages"]}
    for stage, wait, over in (
        ("weigh", 0.5, None),
        ("warm", 6.0, 0.4),
        ("temper", 2.2, -1.2),
        ("cook", 4.5, told.over),
        ("test", 0.5, None),
        ("chill", 22.0, None),
    ):
        t += wait
        at = targets[stage]
        read = None if at is None or over is None else round(at + over, 1)
        if stage == "cook":
            found.append((t - 0.1, {"stage": "cook", "kind": "off-heat", "temperature_c": read}))
        if stage == "test":
            found.append((t, {"stage": "test", "kind": "spoon", "coat": told.coat, "finger_line": told.line}))
            found.append((t + 0.7, {"stage": "test", "kind": "sieve", "sieve": told.sieve}))
            t += 0.8
        found.append((t, {"stage": stage, "kind": "done", "temperature_c": read}))
    return found
