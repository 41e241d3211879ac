"""What is warned of before any heat is on."""

from __future__ import annotations

import math

from custard.larder.parameters import Parameters
from custard.mixture import Mixture

LEAST_MILK_PROTEIN = 0.003
"""Milk protein of the whole from which its splitting is seen; an estimate."""
LEAST_BOIL_C = 92.0
"""Boiling below this, coldest spots of a cream stay too cool for its starch and enzyme [degC]; an estimate on
the safe side: some 2500 m."""
HOLDS_PERCENT = 0.7
"""Starch in the aqueous phase that keeps casein from splitting; kitchen practice as remembered."""


def splits(mixture: Mixture, p: Parameters) -> bool:
    """Whether the milk of a mix splits from warm on, whatever its egg does: it is too sour for casein."""
    sour = mixture.ph < p.coagulation.casein_splits_ph
    held = mixture.starch_in_aqueous_percent >= HOLDS_PERCENT
    return bool(sour and not held and mixture.fractions["milk_protein"] >= LEAST_MILK_PROTEIN)


def warnings(whole: Mixture, pan: Mixture, p: Parameters, boil_c: float, *, boiled: bool) -> tuple[str, ...]:
    """What is to be known of a mix before heat is on, each a sentence; none for most.

    Parameters
    ----------
    whole, pan : everything weighed out, and what of it is heated
    boil_c : where that boils here [degC]
    boiled : whether it is to be boiled
    """
    return (*_too_sour(whole, pan, p), *_too_high(boil_c, boiled=boiled), *_rubber(whole))


RUBBER_PERCENT = 2.0
"""Gelatine of 200 bloom from which a cream is rubber; kitchen practice as remembered."""


def _rubber(whole: Mixture) -> tuple[str, ...]:
    percent = 100 * float(whole.gelatine)
    if percent < RUBBER_PERCENT:
        return ()
    most_g = 0.012 * float(whole.mass_g)
    return (
        f"So much gelatine ({percent:.1f} %, as of 200 bloom) sets to rubber. {{{most_g:.0f} g}} can be cut"
        " already, half of that is a soft cream.",
    )


def _too_high(boil_c: float, *, boiled: bool) -> tuple[str, ...]:
    """So far up a mountain a boil is no boil for starch and enzyme."""
    if not boiled or boil_c >= LEAST_BOIL_C:
        return ()
    return (
        f"Here it boils at {{{boil_c:.1f} C}} already: it may never be hot enough for its starch and for"
        " the enzyme of its yolk. Hold the boil three times as long, whisk into every corner, and look at it"
        " again tomorrow; wheat or potato starch swells sooner than maize.",
    )


def _too_sour(whole: Mixture, pan: Mixture, p: Parameters) -> tuple[str, ...]:
    if splits(pan, p):
        starch_g = math.ceil(HOLDS_PERCENT / 100 * float(pan.aqueous * pan.mass_g))
        return (
            f"Too sour for the milk, at pH {pan.ph:.1f}: it splits as soon as it is warm, whatever the egg"
            f" does. Keep the sour part out until it is cold, or take {{{starch_g} g}} of starch.",
        )
    if splits(whole, p):
        sour = f"What joins off the heat makes it sour, pH {whole.ph:.1f}"
        return (f"{sour}: let it grow cold first, or it splits.",)
    return ()
