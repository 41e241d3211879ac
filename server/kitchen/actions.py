"""Changing a kitchen's settings."""

from __future__ import annotations

from kitchen.access import Actor, action
from kitchen.models import Kitchen, Role


@action("kitchen.change", Role.CHEF)
def change(actor: Actor, **values: str | float) -> Kitchen:
    """Change some of the settings; names are those of the model's fields."""
    kitchen = Kitchen.objects.select_for_update().get(pk=actor.kitchen.pk)
    for name, value in values.items():
        setattr(kitchen, name, value)
    kitchen.save(update_fields=list(values))
    return kitchen
