"""Questions about kitchens."""

from __future__ import annotations

from zoneinfo import ZoneInfo

import custard
from common.refusals import Refusal
from django.db.models import QuerySet
from people.models import User

from kitchen import learned
from kitchen.access import Actor
from kitchen.models import Cooler, Hob, Kitchen, Membership, OwnIngredient, Pan, Role, Vessel
from kitchen.schemas import (
    CoolerOut,
    Hearth,
    HobOut,
    KitchenOut,
    LabelDifference,
    LabelsCompared,
    PacketLabelOut,
    PanOut,
    TwoLabels,
    VesselOut,
)

SHOWN_G = 0.01
"""What 100 g hold less of than this is not shown."""

__all__ = [
    "Cooler",
    "Hob",
    "Kitchen",
    "Pan",
    "conditions_of",
    "cooler",
    "cooler_out",
    "cooling_rule",
    "hearth",
    "hob",
    "hob_out",
    "kitchen_out",
    "kitchens",
    "kitchens_of",
    "of_label",
    "of_two_labels",
    "own_ingredients",
    "pan",
    "pan_out",
    "prices_per_kg",
    "vessel_out",
    "zone_named",
    "zone_of",
]


def kitchens_of(user: User) -> list[tuple[Kitchen, Role]]:
    """The kitchens a person may enter, with their role in each, by name."""
    if user.is_superuser:
        return [(kitchen, Role.CHEF) for kitchen in kitchens().order_by("name")]
    memberships = (
        Membership.objects.filter(user=user, kitchen__thrown_away_at=None)
        .select_related("kitchen")
        .order_by("kitchen__name")
    )
    return [(membership.kitchen, membership.role) for membership in memberships]


def kitchen_out(kitchen: Kitchen, role: Role) -> KitchenOut:
    """A kitchen as somebody with a role there sees it."""
    return KitchenOut(
        slug=kitchen.slug,
        name=kitchen.name,
        role=role,
        altitude_m=kitchen.altitude_m,
        zone=kitchen.zone,
        eggs=kitchen.eggs,
        egg_source=kitchen.egg_source,
        measures=kitchen.measures,
        cooling_rule=kitchen.cooling_rule,
        cooling_text=cooling_rule(kitchen).text,
        cooling_caution=cooling_rule(kitchen).caution,
        own_rule=kitchen.own_rule,
        currency=kitchen.currency,
        readings_days=kitchen.readings_days,
        photos_mb=kitchen.photos_mb,
        prices=kitchen.prices,
        water_boils_c=round(custard.water_boils_at(kitchen.altitude_m), 1),
        demo=kitchen.demo,
    )


def own_ingredients(actor: Actor) -> list[OwnIngredient]:
    """The kitchen's own ingredients, by name."""
    return list(OwnIngredient.objects.filter(kitchen=actor.kitchen))


def prices_per_kg(kitchen: Kitchen) -> dict[str, float]:
    """What everything with a price costs a kilogram."""
    return {name: float(price["per_kg"]) for name, price in kitchen.prices.items()}


def conditions_of(kitchen: Kitchen) -> custard.Conditions:
    """Under what conditions this kitchen makes its mixes. Everything computed for a kitchen starts here."""
    own = cooling_rule(kitchen) if kitchen.cooling_rule == custard.larder.OWN else None
    return custard.Conditions(
        altitude_m=kitchen.altitude_m,
        rule=kitchen.cooling_rule,
        own_rule=own,
        house=learned.house_of(kitchen),
    )


def kitchens() -> QuerySet[Kitchen]:
    """Every kitchen that somebody may enter, for what is done at night."""
    return Kitchen.objects.filter(thrown_away_at=None)


def zone_of(kitchen: Kitchen) -> ZoneInfo:
    """The time zone of a kitchen's clocks."""
    return zone_named(kitchen.zone)


def zone_named(name: str) -> ZoneInfo:
    """A time zone by its name."""
    return ZoneInfo(name)


def cooling_rule(kitchen: Kitchen) -> custard.larder.CoolingRule:
    """The cooling rule a kitchen goes by: one of the codes, or its own."""
    if kitchen.cooling_rule == custard.larder.OWN and kitchen.own_rule is not None:
        return custard.larder.own_rule(**kitchen.own_rule)
    return custard.larder.cooling_rules()[kitchen.cooling_rule]


def hearth(actor: Actor) -> Hearth:
    """What this kitchen cooks on and in, and what is known of it."""
    return Hearth(
        hobs=[hob_out(hob) for hob in Hob.objects.filter(kitchen=actor.kitchen)],
        pans=[pan_out(pan) for pan in Pan.objects.filter(kitchen=actor.kitchen)],
        coolers=[cooler_out(one) for one in Cooler.objects.filter(kitchen=actor.kitchen)],
        vessels=[vessel_out(one) for one in Vessel.objects.filter(kitchen=actor.kitchen)],
    )


def hob_out(hob: Hob) -> HobOut:
    """A hob as told."""
    return HobOut(
        id=hob.pk,
        name=hob.name,
        over_steam=hob.over_steam,
        power_w=round(hob.power_w),
        power_spread_w=round(hob.power_w * hob.power_spread),
        batches=hob.batches,
    )


def pan_out(pan: Pan) -> PanOut:
    """A pan as told."""
    return PanOut(
        id=pan.pk,
        name=pan.name,
        kind=pan.kind,
        heat_percent=round(100 * pan.heat_share),
        heat_spread_percent=round(100 * pan.heat_share * pan.heat_spread),
        batches=pan.batches,
    )


def cooler_out(cooler: Cooler) -> CoolerOut:
    """A cooler as told."""
    usual_c = custard.larder.coolings()[cooler.by].medium_c
    return CoolerOut(
        id=cooler.pk,
        name=cooler.name,
        by=cooler.by,
        medium_c=usual_c if cooler.medium_c is None else cooler.medium_c,
        share_percent=round(100 * cooler.share),
        spread_percent=round(100 * cooler.share * cooler.spread),
        batches=cooler.batches,
    )


def vessel_out(vessel: Vessel) -> VesselOut:
    """A vessel as told."""
    measures = {name: getattr(vessel, name) for name in ("kind", "length_cm", "width_cm", "height_cm")}
    return VesselOut(
        id=vessel.pk,
        name=vessel.name,
        holds_ml=round(custard.process.Vessel(**measures).holds_ml),
        **measures,
    )


def cooler(actor: Actor, cooler_id: int) -> Cooler | None:
    """One of the kitchen's coolers."""
    return Cooler.objects.filter(kitchen=actor.kitchen, pk=cooler_id).first()


def bowl(actor: Actor) -> Vessel | None:
    """The first of the kitchen's bowls."""
    return Vessel.objects.filter(kitchen=actor.kitchen, kind="bowl").first()


def hob(actor: Actor, hob_id: int) -> Hob | None:
    """One of the kitchen's hobs."""
    return Hob.objects.filter(kitchen=actor.kitchen, pk=hob_id).first()


def pan(actor: Actor, pan_id: int) -> Pan | None:
    """One of the kitchen's pans."""
    return Pan.objects.filter(kitchen=actor.kitchen, pk=pan_id).first()


def of_label(text: str) -> PacketLabelOut:
    """A composition from a label; what is under a hundredth of a gram is left out.

    Raises
    ------
    CustardError
        when it has no table of nutrients, or more than 100 g of them in 100 g.
    """
    found = custard.reading.from_label(text)
    return PacketLabelOut(
        composition={name: round(share, 2) for name, share in found.composition.items() if share >= SHOWN_G},
        density_g_per_ml=found.density_g_ml,
        allergens=list(found.allergens),
        may_contain=list(found.label.may_contain),
        assumed=list(found.assumed),
    )


def of_two_labels(wanted: TwoLabels) -> LabelsCompared:
    """What the second of two labels has more or less of, in g per 100 g.

    Raises
    ------
    Refusal
        naming the one that has no table of nutrients, or more than 100 g of them in 100 g.
    """
    compared = custard.reading.compare_labels(_label("a", wanted.a), _label("b", wanted.b))
    return LabelsCompared(
        differences=[
            LabelDifference(
                component=one.component,
                a_g=round(one.a_g, 2),
                b_g=round(one.b_g, 2),
                more_g=round(one.more_g, 2),
            )
            for one in compared.differences
        ],
        only_a=list(compared.only_a),
        only_b=list(compared.only_b),
    )


def _label(field: str, text: str) -> custard.reading.FromLabel:
    try:
        return custard.reading.from_label(text)
    except custard.CustardError as error:
        raise Refusal(422, str(error), fields=[(field, str(error))]) from None
