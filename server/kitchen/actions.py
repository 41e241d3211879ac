"""Changing a kitchen's settings."""

from __future__ import annotations

from typing import Any

import custard
from common.refusals import Conflict
from django.http import Http404
from procrastinate.contrib.django import app

from kitchen import soft_delete
from kitchen.access import Actor, action
from kitchen.models import Cooler, Hob, Kitchen, OwnIngredient, Pan, Role, Vessel
from kitchen.soft_delete import Removed


@action("kitchen.change", Role.CHEF)
def change(actor: Actor, /, **values: Any) -> Kitchen:
    """Change some of the settings; names are those of the model's fields.

    Raises
    ------
    CustardError
        when a rule of the kitchen's own cannot be, or is gone by without having been written.
    """
    kitchen = Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    for name, value in values.items():
        setattr(kitchen, name, value)
    if kitchen.own_rule is not None:
        try:
            custard.larder.own_rule(**kitchen.own_rule)
        except custard.CustardError as error:
            raise error.at("own_rule") from None
    elif kitchen.cooling_rule == custard.larder.OWN:
        raise custard.OutOfRange("own_rule", "", "is not written yet", "Say what it asks.")
    kitchen.save(update_fields=list(values))
    if EGGS & set(values):
        # By its name: what learns of eggs knows the kitchen, not the other way round.
        task = app.configure_task("stove.learn_for_now")
        task.defer(kitchen_id=kitchen.pk, user_id=actor.user.pk)
    return kitchen


EGGS = {"eggs", "egg_source"}
"""Where sauces set hangs on these."""


@action("kitchen.price", Role.CHEF)
def set_price(actor: Actor, ingredient: str, price: float | None, per: str) -> Kitchen:
    """What an ingredient costs, for an amount in any measure; None takes the price away.

    Raises
    ------
    CustardError
        when the amount cannot be weighed.
    """
    kitchen = Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    if price is None:
        kitchen.prices.pop(ingredient, None)
    else:
        kitchen.prices[ingredient] = priced(price, per, weighs(kitchen, ingredient, per))
    kitchen.save(update_fields=["prices"])
    return kitchen


def priced(price: float, per: str, grams: float) -> dict[str, Any]:
    """A price as it is kept: for an amount, which weighs so much [g]."""
    return {"price": price, "per": per, "per_kg": round(1000 * price / grams, 4)}


def weighs(kitchen: Kitchen, ingredient: str, amount: str) -> float:
    """What an amount of an ingredient weighs in this kitchen, in whatever measure [g].

    Raises
    ------
    CustardError
        when it cannot be weighed.
    """
    return weight_of(kitchen, _thing(kitchen, ingredient), amount)


def weight_of(kitchen: Kitchen, thing: custard.larder.Ingredient, amount: str) -> float:
    """The same of an ingredient that is known already [g]."""
    return custard.quantities.grams(
        custard.quantities.read_quantity(amount),
        thing,
        custard.larder.egg_size(kitchen.eggs),
        kitchen.measures,
    )


def _thing(kitchen: Kitchen, name: str) -> custard.larder.Ingredient:
    own = kitchen.own_ingredients.filter(name=name).first()
    return custard.larder.ingredient(name) if own is None else as_ingredient(own)


def as_ingredient(own: OwnIngredient) -> custard.larder.Ingredient:
    """A kitchen's own ingredient as the core computes with it."""
    return custard.larder.own_ingredient(
        own.name, own.composition, tuple(own.allergens), own.density_g_per_ml
    )


@action("ingredient.add", Role.CHEF)
def add_ingredient(actor: Actor, /, **values: Any) -> OwnIngredient:
    """An ingredient of the kitchen's own; refused unless its composition adds up to 100.

    Raises
    ------
    CustardError, Conflict
        when the composition cannot be, or the name is taken.
    """
    custard.larder.own_ingredient(
        values["name"], values["composition"], tuple(values["allergens"]), values["density_g_per_ml"]
    )
    # One kitchen at a time: of two who add the same name at once, the second is told.
    kitchen = Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    name = values["name"]
    known = {
        word.casefold()
        for thing in custard.larder.all_ingredients().values()
        for word in (thing.id, thing.name)
    }
    if name.casefold() in known or kitchen.own_ingredients.filter(name__iexact=name).exists():
        raise Conflict(f"There is already an ingredient called {name}.")
    return OwnIngredient.objects.create(kitchen=kitchen, **values)


@action("ingredient.remove", Role.CHEF)
def remove_ingredient(actor: Actor, ingredient_id: int) -> Removed:
    """Take an own ingredient off the list; formulas that use it keep their own copy."""
    return _removed(actor, OwnIngredient, ingredient_id)


@action("hob.add", Role.CHEF)
def add_hob(actor: Actor, name: str, power_w: float, *, over_steam: bool) -> Hob:
    """A hob, or a bath that steams."""
    _must_be_new(actor, Hob, name)
    return Hob.objects.create(kitchen=actor.kitchen, name=name, power_w=power_w, over_steam=over_steam)


@action("hob.remove", Role.CHEF)
def remove_hob(actor: Actor, hob_id: int) -> Removed:
    """Take a hob off the list; batches cooked on it keep what they learned."""
    return _removed(actor, Hob, hob_id)


@action("pan.add", Role.CHEF)
def add_pan(actor: Actor, name: str, kind: str) -> Pan:
    """A pan."""
    _must_be_new(actor, Pan, name)
    return Pan.objects.create(kitchen=actor.kitchen, name=name, kind=kind)


@action("pan.remove", Role.CHEF)
def remove_pan(actor: Actor, pan_id: int) -> Removed:
    """Take a pan off the list."""
    return _removed(actor, Pan, pan_id)


@action("cooler.add", Role.CHEF)
def add_cooler(actor: Actor, name: str, by: str, medium_c: float | None = None) -> Cooler:
    """Something that cools."""
    _must_be_new(actor, Cooler, name)
    return Cooler.objects.create(kitchen=actor.kitchen, name=name, by=by, medium_c=medium_c)


@action("cooler.remove", Role.CHEF)
def remove_cooler(actor: Actor, cooler_id: int) -> Removed:
    """Take a cooler off the list."""
    return _removed(actor, Cooler, cooler_id)


@action("vessel.add", Role.CHEF)
def add_vessel(actor: Actor, /, name: str, **measures: Any) -> Vessel:
    """A vessel with its measures.

    Raises
    ------
    CustardError, Conflict
        when the measures cannot be, or the name is taken.
    """
    custard.process.Vessel(**measures)
    _must_be_new(actor, Vessel, name)
    return Vessel.objects.create(kitchen=actor.kitchen, name=name, **measures)


@action("vessel.remove", Role.CHEF)
def remove_vessel(actor: Actor, vessel_id: int) -> Removed:
    """Take a vessel off the list."""
    return _removed(actor, Vessel, vessel_id)


def _removed(actor: Actor, kind: type[OwnIngredient | Hob | Pan | Cooler | Vessel], key: int) -> Removed:
    found = kind.objects.filter(kitchen=actor.kitchen, pk=key).first()
    if found is None:
        raise Http404
    return soft_delete.take_off(actor, found)


@action("kitchen.put-back", Role.CHEF)
def put_back(actor: Actor, key: int) -> str:
    """Put something back on its list as it was, with all that was learned of it.

    Raises
    ------
    Conflict
        when something has its name by now.
    """
    return soft_delete.put_back(actor, key, soft_delete.THINGS)


def _must_be_new(actor: Actor, kind: type[Hob] | type[Pan] | type[Cooler] | type[Vessel], name: str) -> None:
    """One kitchen at a time: of two who add the same name at once, the second is told."""
    Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    if kind.objects.filter(kitchen=actor.kitchen, name__iexact=name).exists():
        raise Conflict(f"There is already a {kind.__name__.lower()} called {name}.")


@action("hob.learn", Role.COOK)
def learn_hob(actor: Actor, hob_id: int, measured_w: float, error_w: float) -> Hob:
    """One more batch tells what a hob gives [W]."""
    hob = Hob.objects.select_for_update(no_key=True).get(kitchen=actor.kitchen, pk=hob_id)
    hob_learns(hob, measured_w, error_w)
    hob.save(update_fields=["power_w", "power_spread", "batches"])
    return hob


@action("pan.learn", Role.COOK)
def learn_pan(actor: Actor, pan_id: int, measured_share: float, error: float) -> Pan:
    """One more batch tells how a pan's heat compares with its kind's [1]."""
    pan = Pan.objects.select_for_update(no_key=True).get(kitchen=actor.kitchen, pk=pan_id)
    pan_learns(pan, measured_share, error)
    pan.save(update_fields=["heat_share", "heat_spread", "batches"])
    return pan


def hob_learns(hob: Hob, measured_w: float, error_w: float) -> None:
    """Set what is known of a hob after one more batch [W], and whether that was doubted. Not saved."""
    found = custard.stove.learned(hob.power_w, hob.power_spread, measured_w, error_w)
    hob.power_w, hob.power_spread, hob.doubted = found
    hob.batches += 1


def pan_learns(pan: Pan, measured_share: float, error: float) -> None:
    """Set what is known of a pan after one more batch [1], and whether that was doubted. Not saved."""
    unsure = custard.stove.UNKNOWN_PAN
    found = custard.stove.learned(pan.heat_share, pan.heat_spread, measured_share, error, unsure)
    pan.heat_share, pan.heat_spread, pan.doubted = found
    pan.batches += 1


@action("cooler.learn", Role.COOK)
def learn_cooler(actor: Actor, cooler_id: int, measured: float, error: float) -> Cooler:
    """One more cooling tells how well a cooler does beside others of its way [1]."""
    cooler = Cooler.objects.select_for_update(no_key=True).get(kitchen=actor.kitchen, pk=cooler_id)
    unsure = custard.after.UNKNOWN_COOLER
    found = custard.stove.learned(cooler.share, cooler.spread, measured, error, unsure)
    cooler.share, cooler.spread, cooler.doubted = found
    cooler.batches += 1
    cooler.save(update_fields=["share", "spread", "batches"])
    return cooler


def next_batch_number(actor: Actor) -> int:
    """The number of the kitchen's next batch, taken under a lock; within an action of whoever takes it."""
    kitchen = Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    kitchen.next_batch += 1
    kitchen.save(update_fields=["next_batch"])
    return kitchen.next_batch - 1
