"""Questions about kitchens."""

from __future__ import annotations

from people.models import User

from kitchen.access import Actor
from kitchen.models import Kitchen, Membership, OwnIngredient, Role


def kitchens_of(user: User) -> list[tuple[Kitchen, str]]:
    """The kitchens a person may enter, with their role in each, by name."""
    if user.is_superuser:
        return [(kitchen, Role.CHEF.value) for kitchen in Kitchen.objects.order_by("name")]
    memberships = Membership.objects.filter(user=user).select_related("kitchen").order_by("kitchen__name")
    return [(membership.kitchen, membership.role) for membership in memberships]


def own_ingredients(actor: Actor) -> list[OwnIngredient]:
    """The kitchen's own ingredients, by name."""
    return list(OwnIngredient.objects.filter(kitchen=actor.kitchen))


def prices_per_kg(kitchen: Kitchen) -> dict[str, float]:
    """What everything with a price costs a kilogram."""
    return {name: float(price["per_kg"]) for name, price in kitchen.prices.items()}
