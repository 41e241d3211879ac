"""Remedies for what shows in the cold: skin, weeping, the churn, crystals."""

from __future__ import annotations

from custard.advice.finish.waiting import waits_s
from custard.advice.mix.churning import FREEZES_SHARE, HALF_COLD_H, churning, draws_share
from custard.advice.mix.texture import texture_at, yield_stress
from custard.advice.trouble.remedies.rescued import (
    BLEND_S,
    HOT_BLENDER,
    MILK,
    Asked,
    Rescued,
    added,
    in_g,
    least,
)
from custard.physics.texture import word
from custard.process.cooling.later import thawed
from custard.process.heating.cook import CURDLED_AT
from custard.process.heating.pot import laid_out
from custard.process.heating.surface import open_surface_m2
from custard.vocabulary import When

SKIN_MM = 1.0
"""How thick a skin comes off [mm]; an estimate."""
WEEPS_OF_CURDLED = 0.25
"""Water that curdled egg lets go, over the share of it that curdled [1]; an estimate."""
WEEPS_OLD = 0.03
BASE_C = 4.0
MOST_MILK = 0.8
THAW_H = 12.0


def skin(asked: Asked) -> Rescued:
    """Lifted off before it is stirred in; sieved where it was."""
    area_m2 = open_surface_m2(asked.pan, asked.p)
    skin_g = area_m2 * SKIN_MM / 1000 * float(asked.pan.density_kg_m3(20.0)) * 1000
    cold_c = asked.p.texture.cold_reference_c
    spoon = texture_at(asked.whole, asked.result.stop, cold_c, cold_c, asked.p)
    return Rescued(
        saved="yes",
        say="It can be saved: lift the skin off, then sieve it",
        steps=(
            f"Lift the skin off whole, about {in_g(skin_g)}; do not stir it in.",
            "Through the fine sieve, and whisk it once.",
            "Film right on its surface, so that no air is under it.",
        ),
        takes_g=skin_g,
        becomes=spoon.word,
        wanted=asked.result.cold.word,
        spoon=spoon,
        curdled=asked.state.curdled,
    )


def weeps(asked: Asked) -> Rescued:
    """Whisked or blended back where the network is whole; poured off where it is not."""
    result, p, story = asked.result, asked.p, asked.story
    cold_c = p.texture.cold_reference_c
    whole = yield_stress(result.whole, result.stop, cold_c, p)
    if asked.cause == "frozen":
        came = thawed(result.whole, max(0.1, story.known("frozen_days", 5.0)), p)
        water_g, left = came.weeps * asked.mass_g, max(0.05, came.firmness)
    elif asked.cause == "over":
        water_g, left = WEEPS_OF_CURDLED * asked.state.curdled * asked.mass_g, 1.0
    else:
        water_g, left = WEEPS_OLD * asked.mass_g, 1.0
    spoon = texture_at(result.whole, result.stop, cold_c, cold_c, p)
    became = word(left * whole)
    lost = asked.cause == "over" and asked.state.curdled > CURDLED_AT
    if result.way.undisturbed:
        return Rescued(
            saved="perhaps",
            say=f"The water can be poured off, about {in_g(water_g)}; what is set stays as it is",
            steps=("Pour it off just before it is served, or lay a sauce over it.",),
            takes_g=water_g,
            becomes=spoon.word,
            wanted=spoon.word,
            spoon=spoon,
            curdled=asked.state.curdled,
            good_for=("bread pudding",) if lost else (),
        )
    same = became == spoon.word
    return Rescued(
        saved="perhaps" if lost or not same else "yes",
        say=f"It can be saved: whisk the water back in, about {in_g(water_g)}"
        if same and not lost
        else f"Pour the water off, about {in_g(water_g)}, and blend the rest; it stays looser"
        if not lost
        else f"The water, about {in_g(water_g)}, comes again: pour it off and blend the rest",
        steps=(
            *((f"Pour off about {in_g(water_g)}.",) if lost or not same else ()),
            f"Whisk it, or {BLEND_S:.0f} s in the blender, cold.",
            "Use it today: it weeps again.",
        ),
        takes_g=water_g if lost or not same else 0.0,
        for_s=BLEND_S,
        becomes=became,
        wanted=spoon.word,
        spoon=spoon if same else None,
        curdled=asked.state.curdled,
        good_for=("something baked", "ice base") if lost or not same else (),
        cautions=(HOT_BLENDER,) if lost else (),
    )


def churn(asked: Asked) -> Rescued:
    """The base cold right through, the bowl frozen through, or so much milk that it freezes."""
    story = asked.story
    churned_c, bowl_h = story.known("churned_at_c", BASE_C), story.known("bowl_h", 24.0)
    mixture = asked.whole
    wait_s = waits_s(laid_out(mixture, churned_c), BASE_C) if churned_c > BASE_C + 2 else 0.0
    frozen_h = 0.0 if bowl_h >= 2 * HALF_COLD_H else 3 * HALF_COLD_H
    more_g = 0.0
    if draws_share(mixture, BASE_C, 24.0) < FREEZES_SHARE or asked.cause == "sweet":

        def freezes(grams: float) -> float:
            return draws_share(asked.with_more(MILK, grams, mixture), BASE_C, 24.0)

        found = least(freezes, FREEZES_SHARE + 0.02, MOST_MILK * asked.mass_g)
        more_g = MOST_MILK * asked.mass_g if found is None else found
    after = asked.with_more(MILK, more_g, mixture)
    reached = draws_share(after, BASE_C, 24.0)
    chill = f"Take it out and over ice, stirring, to {{{BASE_C:.0f} C}}: about {wait_s / 60:.0f} min."
    point = f"{{{churning(after).freezing_point_c:.1f} C}}"
    milk = f"Stir in {in_g(more_g)} of cold milk: it then freezes from {point} on."
    bowl = f"The bowl back into the freezer for {frozen_h:.0f} h; the base waits in the fridge."
    steps = (
        *((chill,) if wait_s else ()),
        *((milk,) if more_g >= 1 else ()),
        *((bowl,) if frozen_h else ()),
        "Churn it when both are ready; fill the machine to half at most.",
    )
    can = reached >= FREEZES_SHARE
    return Rescued(
        saved="yes" if can else "perhaps",
        say=(
            f"It can be saved: {in_g(more_g)} of milk in it"
            if more_g >= 1
            else "It can be saved: chill the base right through first"
            if wait_s
            else "It can be saved: the bowl back into the freezer"
        ),
        steps=steps,
        add=added(MILK, more_g if more_g >= 1 else 0.0, When.OFF_THE_HEAT),
        for_s=wait_s or None,
        becomes="freezes" if can else "stays soft",
        wanted="freezes",
        good_for=() if can else ("a frozen foam without a churn", "a sauce"),
    )


def crystals(asked: Asked) -> Rescued:
    """Melted in the fridge and churned again; used as a sauce where that cannot be."""
    watery = asked.cause == "watery"
    return Rescued(
        saved="perhaps" if watery else "yes",
        say="It can be saved: let it melt in the fridge, and churn it again",
        steps=(
            f"Into the fridge until all of it has melted, about {THAW_H:.0f} h; never on the counter.",
            "Blend it smooth, cold, and churn it from the fridge; eat it within days.",
            "What stood warm for longer than your rule allows is thrown away.",
        ),
        becomes="freezes" if draws_share(asked.whole, BASE_C, 24.0) >= FREEZES_SHARE else "stays soft",
        wanted="freezes",
        good_for=("a sauce, melted", "a milk shake"),
    )
