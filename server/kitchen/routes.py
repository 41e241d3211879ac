"""Routes of the Kitchen, and the larder every kitchen shares."""

from __future__ import annotations

from typing import cast

import custard
from django.http import HttpRequest
from ninja import Router, Status
from people import sessions
from people.models import User

from kitchen import actions, learned, reads
from kitchen.access import enter
from kitchen.models import OwnIngredient
from kitchen.schemas import (
    CoolerOut,
    CoolingOut,
    EggOut,
    FamilyOut,
    Hearth,
    HobOut,
    IngredientOut,
    KitchenChange,
    KitchenOut,
    LabelsCompared,
    Larder,
    LearnedOut,
    LearnedUse,
    NewCooler,
    NewHob,
    NewPan,
    NewPrice,
    NewVessel,
    OwnIngredientIn,
    OwnIngredientOut,
    PacketLabel,
    PacketLabelOut,
    PanOut,
    RemovedOut,
    TwoLabels,
    VesselOut,
    WayOut,
)
from kitchen.soft_delete import Removed

router = Router()


@router.get("/kitchens", response=list[KitchenOut])
def list_kitchens(request: HttpRequest) -> list[KitchenOut]:
    """The kitchens the person logged in may enter."""
    confined = sessions.confined_to(request)
    return [
        reads.kitchen_out(kitchen, role)
        for kitchen, role in reads.kitchens_of(cast(User, request.user))
        if confined in (None, kitchen.pk)
    ]


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
                also=list(custard.larder.also_called(thing.id)),
                laid=custard.bench.is_laid(thing),
                allergens=list(thing.allergen_groups),
                named_allergens=list(thing.allergens),
                us_allergens=list(thing.us_allergens),
                unmodelled=thing.unmodelled,
                range=thing.range,
                source_as_remembered=thing.source,
                confidence=thing.confidence,
            )
            for thing in custard.larder.all_ingredients().values()
        ],
        eggs=[
            EggOut(size=egg.size, name=egg.name, yolk_g=egg.yolk_g, white_g=egg.white_g)
            for egg in custard.larder.all_sizes().values()
        ],
        families=[
            FamilyOut(family=f.family, name=f.name, baked=f.way.in_the_oven)
            for f in custard.larder.all_families().values()
        ],
        measures=list(custard.quantities.MEASURES),
        words=list(custard.WORDS),
        components=list(custard.larder.DECLARED),
        starches=list(custard.bench.STARCHES),
        cooling_rules=[
            CoolingOut(rule=rule.rule, name=rule.name, text=rule.text, caution=rule.caution)
            for rule in custard.larder.cooling_rules().values()
        ],
        usual_rule=custard.larder.USUAL_RULE,
        coolings=[
            WayOut(by=way.method, name=way.name, iced=way.faces == "walls")
            for way in custard.larder.coolings().values()
        ],
    )


@router.get("/k/{kitchen}", response=KitchenOut)
def read_kitchen(request: HttpRequest, kitchen: str) -> KitchenOut:
    """One kitchen's settings."""
    actor = enter(request, kitchen)
    return reads.kitchen_out(actor.kitchen, actor.role)


@router.patch("/k/{kitchen}", response=KitchenOut)
def change_kitchen(request: HttpRequest, kitchen: str, change: KitchenChange) -> KitchenOut:
    """Change the settings."""
    actor = enter(request, kitchen, by_password=True)
    changed = actions.change(actor, **change.dict(exclude_none=True))
    return reads.kitchen_out(changed, actor.role)


@router.put("/k/{kitchen}/prices", response=KitchenOut)
def set_price(request: HttpRequest, kitchen: str, body: NewPrice) -> KitchenOut:
    """Say what something costs, or that it has no price any more."""
    actor = enter(request, kitchen)
    return reads.kitchen_out(actions.set_price(actor, body.ingredient, body.price, body.per), actor.role)


@router.get("/k/{kitchen}/ingredients", response=list[OwnIngredientOut])
def list_own_ingredients(request: HttpRequest, kitchen: str) -> list[OwnIngredient]:
    """The kitchen's own ingredients."""
    return reads.own_ingredients(enter(request, kitchen))


@router.post("/k/{kitchen}/label", response=PacketLabelOut)
def read_label(request: HttpRequest, kitchen: str, body: PacketLabel) -> PacketLabelOut:
    """What an ingredient is made of, from its label."""
    enter(request, kitchen)
    return reads.of_label(body.text)


@router.post("/k/{kitchen}/label/difference", response=LabelsCompared)
def compare_labels(request: HttpRequest, kitchen: str, body: TwoLabels) -> LabelsCompared:
    """What two labels of one thing differ in."""
    enter(request, kitchen)
    return reads.of_two_labels(body)


@router.post("/k/{kitchen}/ingredients", response={201: OwnIngredientOut})
def add_own_ingredient(request: HttpRequest, kitchen: str, body: OwnIngredientIn) -> Status[OwnIngredient]:
    """Add one; its composition must add up to 100 g per 100 g."""
    return Status(201, actions.add_ingredient(enter(request, kitchen), **body.dict()))


@router.delete("/k/{kitchen}/ingredients/{ingredient_id}", response=RemovedOut)
def remove_own_ingredient(request: HttpRequest, kitchen: str, ingredient_id: int) -> Removed:
    """Take one off the list."""
    return actions.remove_ingredient(enter(request, kitchen), ingredient_id)


@router.get("/k/{kitchen}/hearth", response=Hearth)
def read_hearth(request: HttpRequest, kitchen: str) -> Hearth:
    """Hobs and pans, and what batches have taught about them."""
    return reads.hearth(enter(request, kitchen))


@router.post("/k/{kitchen}/hobs", response={201: HobOut})
def add_hob(request: HttpRequest, kitchen: str, body: NewHob) -> Status[HobOut]:
    """Add a hob."""
    made = actions.add_hob(enter(request, kitchen), body.name, body.power_w, over_steam=body.over_steam)
    return Status(201, reads.hob_out(made))


@router.delete("/k/{kitchen}/hobs/{hob_id}", response=RemovedOut)
def remove_hob(request: HttpRequest, kitchen: str, hob_id: int) -> Removed:
    """Take a hob off the list."""
    return actions.remove_hob(enter(request, kitchen), hob_id)


@router.post("/k/{kitchen}/pans", response={201: PanOut})
def add_pan(request: HttpRequest, kitchen: str, body: NewPan) -> Status[PanOut]:
    """Add a pan."""
    return Status(201, reads.pan_out(actions.add_pan(enter(request, kitchen), body.name, body.kind)))


@router.delete("/k/{kitchen}/pans/{pan_id}", response=RemovedOut)
def remove_pan(request: HttpRequest, kitchen: str, pan_id: int) -> Removed:
    """Take a pan off the list."""
    return actions.remove_pan(enter(request, kitchen), pan_id)


@router.post("/k/{kitchen}/coolers", response={201: CoolerOut})
def add_cooler(request: HttpRequest, kitchen: str, body: NewCooler) -> Status[CoolerOut]:
    """Add something that cools."""
    made = actions.add_cooler(enter(request, kitchen), body.name, body.by, body.medium_c)
    return Status(201, reads.cooler_out(made))


@router.delete("/k/{kitchen}/coolers/{cooler_id}", response=RemovedOut)
def remove_cooler(request: HttpRequest, kitchen: str, cooler_id: int) -> Removed:
    """Take a cooler off the list."""
    return actions.remove_cooler(enter(request, kitchen), cooler_id)


@router.post("/k/{kitchen}/vessels", response={201: VesselOut})
def add_vessel(request: HttpRequest, kitchen: str, body: NewVessel) -> Status[VesselOut]:
    """Add a vessel."""
    return Status(201, reads.vessel_out(actions.add_vessel(enter(request, kitchen), **body.dict())))


@router.delete("/k/{kitchen}/vessels/{vessel_id}", response=RemovedOut)
def remove_vessel(request: HttpRequest, kitchen: str, vessel_id: int) -> Removed:
    """Take a vessel off the list."""
    return actions.remove_vessel(enter(request, kitchen), vessel_id)


@router.post("/k/{kitchen}/taken-off/{taken_off_id}/back", response={204: None})
def put_back(request: HttpRequest, kitchen: str, taken_off_id: int) -> Status[None]:
    """Put something back on its list as it was."""
    actions.put_back(enter(request, kitchen), taken_off_id)
    return Status(204, None)


@router.get("/k/{kitchen}/learned", response=LearnedOut)
def read_learned(request: HttpRequest, kitchen: str) -> LearnedOut:
    """What this kitchen's batches taught it of its sauces."""
    return learned.shown(enter(request, kitchen))


@router.put("/k/{kitchen}/learned", response=LearnedOut)
def use_learned(request: HttpRequest, kitchen: str, body: LearnedUse) -> LearnedOut:
    """Go by what was learned of a sauce, or by what is computed."""
    actor = enter(request, kitchen)
    learned.use(actor, body.formula, used=body.used)
    return learned.shown(actor)
