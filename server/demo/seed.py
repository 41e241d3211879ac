"""Filling the demo kitchen: rows made by the application's own functions, written table by table."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import custard
from book import kept, tasks
from book.models import Formula, FormulaVersion
from devices import actions as devices
from devices.models import Device
from django.contrib.auth.hashers import make_password
from django.db import transaction
from kitchen import actions as larder
from kitchen.access import Actor
from kitchen.models import Cooler, Hob, Kitchen, Membership, OwnIngredient, Pan, Role, Vessel
from people.models import User
from people.published import PASSWORD
from stove.after import sauces
from stove.batch.taken import parameters_kept
from stove.models import Batch, Mark

from demo import batches, day, practice, stock
from demo.fortnight import FORTNIGHT, RINGS, Tale
from demo.rows import Rows

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


@transaction.atomic
def seed(tales: Sequence[Tale] = FORTNIGHT, *, day_too: bool = True) -> bool:
    """Make the demo kitchen with some batches behind it, unless it is there; returns whether it was made.

    With `day_too` somebody planned today and practised, as in a kitchen at work.
    """
    if Kitchen.objects.filter(slug="tidemill-house").exists():
        return False
    made = fill(tales)
    if day_too:
        day.plan(made.rows, made.actors, made.formulas)
        practice.practise(made.rows, made.actors, made.formulas["Bay leaf anglaise"], made.finished)
    made.rows.write()
    sauces.keep(made.actors["pastry"])
    tasks.fill_one.defer(kitchen_id=made.actors["pastry"].kitchen.pk)
    return True


@dataclass(frozen=True)
class Made:
    """The demo kitchen as far as it is written; `rows` may hold more."""

    rows: Rows
    actors: dict[str, Actor]
    formulas: dict[str, Formula]
    finished: list[stock.Finished]


def fill(tales: Sequence[Tale]) -> Made:
    """The kitchen with its people, its larder, its book and its batches."""
    rows = Rows()
    kitchen = Kitchen(slug="tidemill-house", name="Tidemill House", altitude_m=12, demo=True)
    actors = _people(rows, rows.add(kitchen))
    fitted = _fitted(rows, actors["pastry"])
    book = _book(rows, actors["pastry"])
    _larder(rows, actors["pastry"], [custard.read_formula(version.content) for version in book.values()])
    book["Bay leaf anglaise"] = _an_earlier_anglaise(rows, actors["pastry"], book["Bay leaf anglaise"])
    shelf = stock.Shelf(rows)
    for tale in tales:
        version = book[tale.formula]
        shelf.finished.append(batches.write(rows, shelf, actors[tale.by], tale, version, fitted))
    stock.write(actors, shelf)
    _read_last(fitted.probe, shelf.finished)
    rows.write(
        Kitchen, User, Membership, Hob, Pan, Cooler, Vessel, Device, Formula, FormulaVersion, Batch, Mark
    )
    shelf.write()
    rows.write()
    return Made(rows, actors, {name: version.formula for name, version in book.items()}, shelf.finished)


def _people(rows: Rows, kitchen: Kitchen) -> dict[str, Actor]:
    # One password for all of them, which everyone may know: it is made unreadable once.
    password, actors = make_password(PASSWORD), {}
    for username, title, role in PEOPLE:
        user = rows.add(User(username=username, title=title, password=password))
        rows.add(Membership(user=user, kitchen=kitchen, role=role))
        actors[username] = Actor(user, kitchen, role)
    return actors


def _fitted(rows: Rows, actor: Actor) -> batches.Fitted:
    """Hobs, pans, coolers, vessels and a probe."""
    here = {"kitchen": actor.kitchen}

    def made(action: str, row: Any) -> Any:
        rows.done(actor, action, rows.add(row))
        return row

    hobs = [
        Hob(name=one.name, power_w=float(one.power_w), over_steam=one.over_steam, **here) for one in RINGS
    ]
    pans = [made("pan.add", Pan(name=name, kind=kind, heat_share=1.0, **here)) for name, kind in PANS]
    coolers = [
        Cooler(name=name, by=by, medium_c=medium_c, share=1.0, **here) for name, by, medium_c in COOLERS
    ]
    for name, measures in VESSELS:
        made("vessel.add", Vessel(name=name, **measures, **here))
    token_hash = devices.hashed(devices.new_token())
    probe = Device(name="silver probe", kind="probe", token_hash=token_hash, token_by=actor.user, **here)
    return batches.Fitted(
        hobs={one.name: made("hob.add", one) for one in hobs},
        pan=next(pan for pan in pans if pan.name == COOKED_IN),
        probe=made("device.register", probe),
        coolers={one.name: made("cooler.add", one) for one in coolers},
        vessel=VESSELS[0][1],
        parameters=parameters_kept(custard.larder.standard()),
    )


def _book(rows: Rows, actor: Actor) -> dict[str, FormulaVersion]:
    """The formulas at version 1, by name."""
    found = {}
    for content in json.loads((HERE / "formulas.json").read_text(encoding="utf-8")):
        formula = custard.read_formula(content)
        entry = Formula(kitchen=actor.kitchen, name=formula.name, family=formula.family, latest=1)
        found[formula.name] = _version(rows, actor, rows.add(entry), formula, "")
        rows.done(actor, "formula.add", found[formula.name])
    return found


def _version(rows: Rows, actor: Actor, entry: Formula, formula: custard.Formula, note: str) -> FormulaVersion:
    content = custard.write_formula(formula)
    version = FormulaVersion(
        formula=entry,
        number=entry.latest,
        content=content,
        content_sum=kept.content_sum(content),
        note=note,
        created_by=actor.user,
    )
    return rows.add(version)


def _an_earlier_anglaise(rows: Rows, actor: Actor, version: FormulaVersion) -> FormulaVersion:
    """The anglaise got richer once: the book keeps both."""
    richer = json.loads(json.dumps(version.content))
    richer["lines"][1]["amount"] = "6 yolks"
    version.formula.latest += 1
    note = "one yolk more, for the cold months"
    saved = _version(rows, actor, version.formula, custard.read_formula(richer), note)
    rows.done(actor, "formula.save", saved)
    return saved


def _larder(rows: Rows, actor: Actor, formulas: list[custard.Formula]) -> None:
    """The kitchen's own ingredients, as its formulas have them, and what everything costs."""
    own: dict[str, custard.larder.Ingredient] = {}
    for line in (line for formula in formulas for line in custard.write_formula(formula)["lines"]):
        given = line["ingredient"]
        if isinstance(given, dict):
            row = OwnIngredient(
                kitchen=actor.kitchen,
                name=given["name"],
                composition=given["composition"],
                allergens=given.get("allergens", []),
                density_g_per_ml=given.get("density_g_per_ml"),
            )
            own[row.name] = larder.as_ingredient(row)
            rows.done(actor, "ingredient.add", rows.add(row))
    for name, price, per in json.loads((HERE / "prices.json").read_text(encoding="utf-8")):
        thing = own.get(name) or custard.larder.ingredient(name)
        actor.kitchen.prices[name] = larder.priced(price, per, larder.weight_of(actor.kitchen, thing, per))
        rows.done(actor, "kitchen.price", actor.kitchen)


def _read_last(probe: Device, finished: list[stock.Finished]) -> None:
    """When the probe was last heard of, and how its clock goes."""
    last = finished[-1]
    probe.used_at, probe.clock_ahead_s = last.probe_at, -float(batches.CLOSED_AFTER_S)
