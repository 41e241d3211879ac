"""The demo's batches written one thing at a time by the application's own actions, to compare with the rows
that the demo writes in bulk."""

from __future__ import annotations

import json
import uuid
from collections.abc import Mapping
from datetime import timedelta

import custard
from book import actions as book
from book.models import FormulaVersion
from common import clock
from demo import batches
from demo.fortnight import RINGS, Tale, cooked
from demo.seed import COOKED_IN, COOLERS, HERE, PANS, PEOPLE, VESSELS
from demo.stock import HOUR, WHITES_AFTER, WHITES_USED
from devices import actions as devices
from devices.models import Device
from devices.schemas import NewReading
from kitchen import actions as larder
from kitchen.access import Actor
from kitchen.models import Cooler, Kitchen, Membership
from people.models import User
from people.published import PASSWORD
from shelf import actions as shelf
from shelf import reads
from shelf.models import Tub
from shelf.schemas import Closing, NewMove, NewPromise
from stove import actions as stove
from stove import marking, setting_up
from stove.after import learning
from stove.batch import plans
from stove.batch.cooking import assessed
from stove.models import Batch
from stove.schemas import EquipmentWanted, NewMark


def fill(tales: tuple[Tale, ...]) -> None:
    """The kitchen with some batches."""
    kitchen = Kitchen.objects.create(slug="tidemill-house", name="Tidemill House", altitude_m=12, demo=True)
    actors = {}
    for username, title, role in PEOPLE:
        user = User.objects.create_user(username, password=PASSWORD, title=title)
        Membership.objects.create(user=user, kitchen=kitchen, role=role)
        actors[username] = Actor(user, kitchen, role)
    chef = actors["pastry"]
    probe = _fitted(chef)
    versions = _book(chef)
    for number, tale in enumerate(tales):
        batch = _tell(actors[tale.by], tale, versions[tale.formula], probe)
        for went in sorted(tale.went, key=lambda one: one.after_h):
            at = batch.closed_at + timedelta(hours=went.after_h)
            if at < clock.now():
                with clock.at(at):
                    _do(actors[tale.by], batch, went, number)
        _whites(chef, batch, number)
    for tub in reads.tubs(chef).order_by("id"):
        if tub.use_by < clock.now() and tub.left_g > 0:
            with clock.at(min(clock.now(), tub.use_by + HOUR)):
                _move(actors["section"], tub, "thrown", 0, note="past its time")


def _fitted(chef: Actor) -> Device:
    for name, kind in PANS:
        larder.add_pan(chef, name, kind)
    for name, measures in VESSELS:
        larder.add_vessel(chef, name, **measures)
    for ring in RINGS:
        larder.add_hob(chef, ring.name, ring.power_w, over_steam=ring.over_steam)
    for name, by, medium_c in COOLERS:
        larder.add_cooler(chef, name, by, medium_c)
    return devices.register(chef, "silver probe", devices.new_token(), "probe")


def _book(chef: Actor) -> dict[str, FormulaVersion]:
    versions = {}
    for content in json.loads((HERE / "formulas.json").read_text(encoding="utf-8")):
        formula = custard.read_formula(content)
        versions[formula.name] = book.add(chef, formula)
        for line in custard.write_formula(formula)["lines"]:
            own = line["ingredient"]
            if isinstance(own, dict):
                larder.add_ingredient(
                    chef,
                    name=own["name"],
                    composition=own["composition"],
                    allergens=own.get("allergens", []),
                    density_g_per_ml=own.get("density_g_per_ml"),
                )
    for ingredient, price, per in json.loads((HERE / "prices.json").read_text(encoding="utf-8")):
        larder.set_price(chef, ingredient, price, per)
    anglaise = versions["Bay leaf anglaise"]
    richer = json.loads(json.dumps(anglaise.content))
    richer["lines"][1]["amount"] = "6 yolks"
    note = "one yolk more, for the cold months"
    saved = book.save_version(chef, anglaise.formula_id, custard.read_formula(richer), 1, note)
    return {**versions, "Bay leaf anglaise": saved}


def _tell(actor: Actor, tale: Tale, version, probe) -> Batch:
    started = (clock.now() - timedelta(days=tale.days_ago)).replace(second=0, microsecond=0)
    formula = custard.read_formula(version.content)
    hobs = {hob.name: hob for hob in actor.kitchen.hobs.all()}
    on = hobs.get(tale.ring)
    direct = on is not None and not on.over_steam
    pan = actor.kitchen.pans.get(name=COOKED_IN) if direct else None
    with clock.at(started):
        batch = stove.start(actor, version.formula_id, version.number, formula)
        wanted = EquipmentWanted(
            hob_id=on.pk if on else None, pan_id=pan.pk if pan else None, probe_id=probe.pk
        )
        setting_up.set_up(actor, batch.pk, wanted)
        if direct:
            coolers = {one.name: one for one in Cooler.objects.filter(kitchen=actor.kitchen)}
            stove.cool(actor, batch.pk, batches.cooling_wanted(coolers, VESSELS[0][1]))
    plan = plans.read(batch.plan)
    targets = {stage.stage: stage.at_c for stage in plan.stages}
    came = cooked(tale, assessed(batch), targets.get("temper"))
    before = batches._before(plan, targets, came.start_c)
    cooks = started + timedelta(seconds=before[-1][0])
    after = batches._after(tale, came, batches._additions(plan), foams=batch.way == "mounds")
    ends = cooks + timedelta(seconds=after[-1][0] + batches.CLOSED_AFTER_S)
    with clock.at(cooks + timedelta(seconds=came.end_s + batches.CLOSED_AFTER_S)):
        read = [NewReading(at=cooks + timedelta(seconds=t), celsius=c) for t, c in came.readings]
        devices.take_readings(probe, read)
    moments = [(started + timedelta(seconds=t), words) for t, words in before]
    moments += [(cooks + timedelta(seconds=t), words) for t, words in after]
    for at, words in moments:
        with clock.at(at):
            marking.mark(actor, batch.pk, NewMark(id=uuid.uuid4(), at=at, **words))
    with clock.at(ends):
        shelf.close(actor, batch.pk, Closing.model_validate({"verdict": tale.verdict, "note": tale.note}))
        learning.learn(batch.pk, actor.user.pk)
    return Batch.objects.get(pk=batch.pk)


def _move(actor: Actor, tub: Tub, kind: str, number: int, **words: object) -> None:
    shelf.move(actor, tub.pk, NewMove.model_validate({"id": uuid.uuid4(), "kind": kind, **words}))


def _do(actor: Actor, batch: Batch, went, number: int) -> None:
    tubs = list(Tub.objects.filter(batch=batch).exclude(what="whites").order_by("id"))
    tub = next((tub for tub in tubs if (tub.what == "churned") == (went.of == "ice")), None)
    if tub is None:
        return
    grams = min(float(tub.left_g), round(went.share * float(tub.made_g), 0))
    if went.share >= 1 or abs(float(tub.left_g) - grams) <= 2:
        grams = float(tub.left_g)
    if went.kind == "promised":
        shelf.promise(actor, tub.pk, NewPromise(grams=grams, dish=went.to))
        return
    amount: Mapping[str, object] = {"grams": grams} if went.kind in ("used", "churned", "thrown") else {}
    words = {"note": went.to} if went.kind == "thrown" else {"to": went.to}
    _move(actor, tub, went.kind, number, **amount, **words)


def _whites(actor: Actor, batch: Batch, number: int) -> None:
    at = batch.closed_at + WHITES_AFTER
    for tub in Tub.objects.filter(batch=batch, what="whites"):
        if at < clock.now():
            with clock.at(at):
                if number % 5 == 4:
                    _move(actor, tub, "frozen", number)
                else:
                    dish = WHITES_USED[number % len(WHITES_USED)]
                    _move(actor, tub, "used", number, grams=float(tub.left_g), to=dish)
