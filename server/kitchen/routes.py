"""Routes of the Kitchen, and the larder every kitchen shares."""

from __future__ import annotations

import custard
from django.http import HttpRequest
from ninja import Router

from kitchen import actions, reads
from kitchen.access import Actor, enter
from kitchen.models import Kitchen
from kitchen.schemas import EggOut, FamilyOut, IngredientOut, KitchenChange, KitchenOut, Larder

router = Router()


@router.get("/kitchens", response=list[KitchenOut])
def list_kitchens(request: HttpRequest) -> list[KitchenOut]:
    """The kitchens the person logged in may enter."""
    return [_out(kitchen, role) for kitchen, role in reads.kitchens_of(request.user)]


@router.get("/larder", response=Larder)
def read_larder(request: HttpRequest) -> Larder:
    """Ingredients with their composition and origin, egg sizes, families, measures."""
    return Larder(
        ingredients=[
            IngredientOut(
                id=thing.id,
                name=thing.name,
                group=thing.group,
                piece=thing.piece,
                composition={part: round(share, 3) for part, share in thing.composition.items() if share},
                allergens=list(thing.allergens),
                range=thing.range,
                source_as_remembered=thing.source,
                confidence=thing.confidence,
            )
            for thing in custard.all_ingredients().values()
        ],
        eggs=[
            EggOut(size=egg.size, name=egg.name, yolk_g=egg.yolk_g, white_g=egg.white_g)
            for egg in custard.all_sizes().values()
        ],
        families=[FamilyOut(family=f.family, name=f.name) for f in custard.all_families().values()],
        measures=list(custard.MEASURES),
        words=list(custard.WORDS),
    )


@router.get("/k/{kitchen}", response=KitchenOut)
def read_kitchen(request: HttpRequest, kitchen: str) -> KitchenOut:
    """One kitchen's settings."""
    return _seen_by(enter(request, kitchen))


@router.patch("/k/{kitchen}", response=KitchenOut)
def change_kitchen(request: HttpRequest, kitchen: str, change: KitchenChange) -> KitchenOut:
    """Change the settings."""
    actor = enter(request, kitchen)
    changed = actions.change(actor, **change.dict(exclude_none=True))
    return _out(changed, actor.role.value)


def _seen_by(actor: Actor) -> KitchenOut:
    return _out(actor.kitchen, actor.role.value)


def _out(kitchen: Kitchen, role: str) -> KitchenOut:
    return KitchenOut(
        slug=kitchen.slug,
        name=kitchen.name,
        role=role,
        altitude_m=kitchen.altitude_m,
        eggs=kitchen.eggs,
        measures=kitchen.measures,
        water_boils_c=round(custard.water_boils_at(kitchen.altitude_m), 1),
    )
