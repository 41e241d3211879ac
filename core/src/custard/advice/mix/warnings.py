"""What is warned of before any heat is on."""

from __future__ import annotations

import math

from custard.larder.parameters import Parameters
from custard.mixture import Mixture

LEAST_MILK_PROTEIN = 0.003
"""Milk protein of the whole from which its splitting is seen; an estimate."""
HOLDS_PERCENT = 0.7
"""Starch in the aqueous phase that keeps casein from splitting; kitchen practice as remembered."""


def splits(mixture: Mixture, p: Parameters) -> bool:
    """Whether the milk of a mix splits from warm on, whatever its egg does: it is too sour for casein."""
    sour = mixture.ph < p.coagulation.casein_splits_ph
    held = mixture.starch_in_aqueous_percent >= HOLDS_PERCENT
    return bool(sour and not held and mixture.fractions["milk_protein"] >= LEAST_MILK_PROTEIN)


def warnings(whole: Mixture, pan: Mixture, p: Parameters) -> tuple[str, ...]:
    """What is to be known of a mix before heat is on, each a sentence; none for most.

    `whole` is everything weighed out, `pan` what of it is heated.
    """
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
