"""What the sauce is like once stopped: texture hot and cold, and what reaches the jug."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from custard.figures import Millimetres, Pascals, PascalSeconds, Seconds, TenthsCelsius
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.mixture.body import body_of, hot_yield
from custard.physics import evaporation, spoon, texture, viscosity
from custard.physics.real import Real
from custard.process.cooling.later import Aged
from custard.process.heating.infusing import WARM_C, WARM_S
from custard.process.heating.state import State
from custard.process.heating.surface import clings_g, open_surface_m2
from custard.vocabulary import Coat, FingerLine

READING_SHEAR_PER_S = 50.0
"""Shear rate at which a viscosity is stated: stirring, and the mouth."""
DRAINING_SHEAR_PER_S = 1.0
SETS_PERCENT = 2.0
"""Starch in the aqueous phase from which a cream sets in the cold, and loosens when it is whisked."""
SOUR_GEL_PH, SOUR_GEL_SHARE = 4.0, 0.6
"""So sour gelatine keeps only a part of its strength [1]; estimates."""
GEL_FAILS_AT_ETHANOL_PERCENT = 40.0
"""Alcohol in the aqueous phase in which gelatine no longer sets; an estimate."""
LANDING_C = 65.0
"""Where a tempered mix lands, for the evaporation estimate."""


@dataclass(frozen=True)
class Texture:
    """Texture at one temperature [degC].

    `line` says what a finger line in the film on a spoon does: holds, closes or runs.
    """

    at_c: TenthsCelsius
    yield_stress_pa: Pascals
    viscosity_pa_s: PascalSeconds
    film_mm: Millimetres
    line: FingerLine
    line_closes_s: Seconds | None
    word: Coat


def yield_stress(
    mixture: Mixture, state: State, at_c: float, p: Parameters, stood: Aged | None = None
) -> float:
    """Yield stress [Pa] of a mix brought to `state`, read at another temperature [degC].

    Adds to the network what only a colder sauce has: fat crystals and set cocoa butter; after it has `stood`
    in the cold, as many of them as there are by then, and its starch as it has set back or been eaten.
    """
    vol = body_of(mixture, p).reduced_to(state.left)
    network = hot_yield(
        mixture,
        vol,
        np.array(state.thickened),
        np.array(state.curdled),
        np.array(state.swollen),
        np.array(at_c),
        p,
        undisturbed=state.undisturbed,
    )
    solid = float(texture.solid_milk_fat(at_c))
    crystals, free = vol.milk_fat * solid, vol.free_fat * solid
    if stood is not None:
        granules, protein = vol.starch * state.swollen, vol.protein * state.thickened
        network = network * (1 + (stood.starch - 1) * granules / max(granules + protein, 1e-9))
        crystals *= stood.crystals
        free *= stood.crystals
    set_butter = vol.cocoa_butter * float(texture.solid_cocoa_butter(at_c))
    firmer = (1 + p.texture.fat_crystal_factor * crystals) * (1 + p.texture.cocoa_butter_factor * set_butter)
    stands_alone = (
        p.texture.fat_network_pa * crystals**2
        + p.texture.butter_network_pa * free**2
        + p.texture.cocoa_butter_yield_pa * set_butter**2
        + gel_pa(mixture, at_c, p, 1.0 if stood is None else stood.gelled)
    )
    return float(network * firmer + stands_alone)


def gel_pa(mixture: Mixture, at_c: float, p: Parameters, gelled: float = 1.0) -> float:
    """What the gelatine of a mix carries at a temperature [degC] once so much of it has set [1], [Pa].

    Acid and alcohol weaken it.
    """
    percent = 100 * float(mixture.gelatine) * gelled
    if percent <= 0:
        return 0.0
    sour = SOUR_GEL_SHARE if mixture.ph < SOUR_GEL_PH else 1.0
    spirit = max(0.0, 1 - float(mixture.ethanol_in_aqueous_percent) / GEL_FAILS_AT_ETHANOL_PERCENT)
    tx = p.texture
    alone = texture.gelatine_yield(percent, at_c, tx.gelatine_pa, tx.gelatine_sets_c, tx.gelatine_width_k)
    return float(sour * spirit * alone)


def texture_at(
    mixture: Mixture, state: State, at_c: float, spoon_c: float, p: Parameters, stood: Aged | None = None
) -> Texture:
    """Texture at a temperature [degC], with the film read at the spoon's temperature [degC]."""
    stress = yield_stress(mixture, state, at_c, p, stood)
    on_spoon = yield_stress(mixture, state, spoon_c, p, stood)
    film = film_of(mixture, on_spoon, spoon_c, p)
    return Texture(
        at_c=at_c,
        yield_stress_pa=stress,
        viscosity_pa_s=float(_viscosity(mixture, stress, at_c, READING_SHEAR_PER_S, p)),
        film_mm=film.film_mm,
        line=film.line,
        line_closes_s=film.closes_s,
        word=texture.word(stress),
    )


def film_of(mixture: Mixture, on_spoon: float, spoon_c: float, p: Parameters, air: float = 0.0) -> spoon.Film:
    """The film that a spoon shows of a mix that is so stiff on it.

    Parameters
    ----------
    on_spoon : yield stress at the spoon's temperature [Pa]
    spoon_c : the spoon's temperature [degC]
    air : air whisked into it, over its own volume [1]
    """
    return spoon.spoon_film(
        on_spoon,
        float(draining_viscosity(mixture, on_spoon, spoon_c, p)),
        float(mixture.density_kg_m3(spoon_c)) / (1 + air),
        spoon.SpoonTest(
            length=p.spoon.spoon_length_mm / 1000,
            time=p.spoon.drain_s,
            line=p.spoon.line_mm / 1000,
            tension=p.spoon.surface_tension_n_m,
            hold_share=p.spoon.hold_share,
            most=p.spoon.most_film_mm / 1000,
        ),
    )


def coat_mm(mixture: Mixture, on_spoon: Real, spoon_c: float, p: Parameters) -> Real:
    """Film on the spoon [mm] of a mix, or of many at once.

    Parameters
    ----------
    on_spoon : yield stress at the spoon's temperature [Pa]
    spoon_c : the spoon's temperature [degC]
    """
    return 1000 * spoon.left_film(
        on_spoon,
        draining_viscosity(mixture, on_spoon, spoon_c, p),
        mixture.density_kg_m3(spoon_c),
        p.spoon.spoon_length_mm / 1000,
        p.spoon.drain_s,
        p.spoon.most_film_mm / 1000,
    )


def draining_viscosity(mixture: Mixture, stress: Real, at_c: float, p: Parameters) -> Real:
    """Viscosity [Pa.s] at the slow flow of draining, without what the yield stress carries by itself."""
    return _viscosity(mixture, stress, at_c, DRAINING_SHEAR_PER_S, p) - stress / DRAINING_SHEAR_PER_S


def _viscosity(mixture: Mixture, stress: Real, at_c: float, shear_per_s: float, p: Parameters) -> Real:
    serum = viscosity.sugar_serum(mixture.serum_solids_percent, at_c)
    base = viscosity.suspension(
        serum, body_of(mixture, p).particles, p.texture.packing_limit, p.texture.packing_power
    )
    consistency = p.texture.consistency_scale * stress**p.texture.consistency_power
    return texture.apparent_viscosity(shear_per_s, stress, consistency, texture.flow_index(stress), base)


@dataclass(frozen=True)
class Whisked:
    """A cold cream whisked smooth: it is looser for it, and a part comes back by the next day [Pa]."""

    yield_stress_pa: Pascals
    word: Coat
    next_day_pa: Pascals
    next_day_word: str


def whisked(mixture: Mixture, cold: Texture, p: Parameters) -> Whisked | None:
    """A set starch cream whisked smooth; None for what does not set."""
    if mixture.starch_in_aqueous_percent < SETS_PERCENT:
        return None
    left = p.texture.whisked_share * cold.yield_stress_pa
    later = left + p.texture.whisked_back * (cold.yield_stress_pa - left)
    return Whisked(left, texture.word(left), later, texture.word(later))


def yield_g(
    mixture: Mixture, pan_mass_g: float, stop: State, p: Parameters, *, topped_up: bool = False
) -> float:
    """What reaches the jug [g]: the mix less what steams off and what clings to pan and sieve.

    What a filling loses while it is cooked on is in its `stop`.

    Dairy that was `topped_up` after infusing has got back what it lost while it was warmed.
    """
    area = open_surface_m2(replace(mixture, mass_g=pan_mass_g), p)
    minutes_k = np.linspace(min(LANDING_C, stop.at_c), stop.at_c, 20)
    seconds = (stop.at_c - minutes_k[0]) / p.cook.rate_k_per_min * 60
    hold = p.cook.boil_hold_s if stop.boiled else 0.0
    steamed = (
        area
        * p.losses.evaporation_share
        * float(
            (0.0 if topped_up else WARM_S * evaporation.flux(WARM_C))
            + seconds * np.mean(evaporation.flux(minutes_k))
            + hold * evaporation.flux(stop.at_c)
        )
    )
    if stop.left < 1:
        steamed = (1 - stop.left) * pan_mass_g
    return float(max(0.0, mixture.mass_g - steamed - clings_g(area, p)))
