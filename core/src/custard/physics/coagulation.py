"""Setting and curdling of egg protein: temperatures from composition, rates from temperature.

Every function takes scalars or arrays and compiles under numba. The closure is an additive shift of one
setting temperature; its parameters and their ranges are in `larder/data/parameters.csv`.
"""

from __future__ import annotations

import numpy as np

from custard.larder.parameter_groups import Coagulation
from custard.physics.real import Real

LN10 = 2.302585092994046
LEAST_PROTEIN = 0.01
"""Egg protein [%] below which a mix is treated as having this much: the logarithm has no bottom."""


def setting_temperature(protein: Real, sugars: Real, ethanol: Real, ph: Real, p: Coagulation) -> Real:
    """Temperature at which thickening goes at its reference rate [degC].

    T = base + a S - b E - c log2(p / p_ref) - d max(0, pH_ref - pH), with a smaller c below p_ref

    Parameters
    ----------
    protein : egg protein of the whole mix [%]
    sugars : sugars in the aqueous phase [%]
    ethanol : ethanol in the aqueous phase [%]
    ph : acidity of the mix [pH]
    p : parameters
    """
    richer = np.log2(np.maximum(protein, LEAST_PROTEIN) / p.reference_protein_percent)
    dilution_k = p.dilution_shift_k * np.maximum(richer, 0.0) + p.lean_shift_k * np.minimum(richer, 0.0)
    acid = np.maximum(0.0, p.acid_reference_ph - ph)
    return (
        p.set_base_c
        + p.sugar_shift_k * sugars
        - p.ethanol_shift_k * ethanol
        - dilution_k
        - p.acid_shift_k * acid
    )


def curdling_gap(sugars: Real, p: Coagulation, *, undisturbed: bool) -> Real:
    """How far above setting a mix curdles without starch [K]: further in much sugar, and where nobody stirs.

    Parameters
    ----------
    sugars : sugars in the aqueous phase [%]
    p : parameters
    undisturbed : whether it sets without being stirred [yes or no]
    """
    sweeter = np.maximum(0.0, sugars - p.gap_sugar_from_percent)
    return p.curdle_gap_k + p.gap_sugar_k * sweeter + (p.unstirred_gap_k if undisturbed else 0.0)


def rate(temperature: Real, reference: Real, reference_rate: Real, z: Real) -> Real:
    """First-order rate [1/s]; k = k_ref 10^((T - T_ref) / z).

    Parameters
    ----------
    temperature : temperature [degC]
    reference : temperature of the reference rate [degC]
    reference_rate : rate there [1/s]
    z : warming that speeds it tenfold [K]

    >>> round(float(rate(86.0, 80.0, 0.1, 6.0)), 9)
    1.0
    """
    return reference_rate * np.exp(LN10 * (temperature - reference) / z)


def curdling_temperature(setting: Real, swollen_starch: Real, gap: Real, guard: Real, scale: Real) -> Real:
    """Temperature at which curdling goes at its reference rate [degC].

    T_curd = T_set + gap + guard (1 - exp(-w / scale))

    Parameters
    ----------
    setting : setting temperature [degC]
    swollen_starch : gelatinised starch in the aqueous phase [%]
    gap : distance without starch [K]
    guard : the most that starch adds [K]
    scale : starch that gives two thirds of it [%]
    """
    return setting + gap + guard * (1.0 - np.exp(-swollen_starch / scale))
