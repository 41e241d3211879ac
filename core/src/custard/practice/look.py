"""A pan as it looks from above, read off what is computed of it."""

from __future__ import annotations

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.texture import draining_viscosity
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import evaporation, foam, stirring
from custard.practice import seen
from custard.practice.exercises import Exercise, said
from custard.practice.hob import AWAY_S, NOTICE_S, Hob
from custard.process.heating import kernel, zones
from custard.process.heating.pan import Constants
from custard.vocabulary import Surprise

TOLD_FROM_S = 30.0
"""So long nothing is told of how it was stirred [s]."""
STARCHY_PERCENT = 1.0
"""Starch in the aqueous phase from which its turning can be seen."""
STANDS_FROM = 2.0
"""Setting, over that at which most films of a foam have set, from which it stands [1]."""


class Pan(Protocol):
    """What is asked of a pan to draw it: see `pan.PanAttempt`."""

    exercise: Exercise
    hob: Hob
    p: Parameters
    mixture: Mixture
    k: Constants
    y: NDArray[np.float64]
    spots: NDArray[np.float64]
    foams: bool
    lit: bool
    flame: float
    ended: bool
    probe_c: float
    probe_in: bool
    dips: list[seen.Dipped]

    @property
    def t_s(self) -> float: ...  # noqa: D102 - as in PanAttempt
    @property
    def ends_when_out(self) -> bool: ...  # noqa: D102
    def foam_pa(self) -> float: ...  # noqa: D102
    @property
    def curds_seen(self) -> float: ...  # noqa: D102
    @property
    def caught(self) -> bool: ...  # noqa: D102
    @property
    def longest_gap_s(self) -> float: ...  # noqa: D102
    def can(self) -> tuple[str, ...]: ...  # noqa: D102
    def away(self, at_s: float) -> bool: ...  # noqa: D102
    def given(self) -> float: ...  # noqa: D102


def picture(it: Pan) -> seen.Picture:
    """What there is to see of it now."""
    starchy = float(it.mixture.starch_in_aqueous_percent) >= STARCHY_PERCENT
    pan = _pan(it, starchy=starchy)
    away = it.away(it.t_s)
    phase = "ended" if it.ended else "away" if away else "heat" if it.lit else "off"
    return seen.Picture(
        at_s=it.t_s,
        phase=phase,
        can=() if away else it.can(),
        flame=it.flame,
        tells=seen.tells(pan, starchy=starchy, whisked_air=it.foams),
        said=_said(it),
        so_far=_so_far(it),
        probe_c=it.probe_c if it.probe_in else None,
        pan=pan,
        spoon=it.dips[-1] if it.dips else None,
    )


def _said(it: Pan) -> str:
    at = it.hob.surprise_s
    if it.exercise.surprise != Surprise.CALLED_AWAY or at is None:
        return ""
    if at - NOTICE_S <= it.t_s < at:
        return said("called-away")
    if it.away(it.t_s):
        return said("away")
    return said("back") if at + AWAY_S <= it.t_s < at + AWAY_S + NOTICE_S else ""


def _pan(it: Pan, *, starchy: bool) -> seen.PanSeen:
    y, sauce_c = it.y, float(it.y[kernel.SAUCE_C])
    under_boil = it.k.boil_c - sauce_c
    trail_s = _trail_s(it)
    foam_left = max(0.0, 1 - float(y[kernel.THICKENED]) / 0.3) * min(1.0, max(0.2, (88 - sauce_c) / 25))
    flux = float(evaporation.flux(sauce_c)) * (1.0 if it.lit else it.p.heat.off_heat_share * 2)
    stands = None
    if it.foams:
        stress = float(y[kernel.YIELD_PA]) + it.foam_pa()
        words = ("liquid", "froth", "ribbons", "mounds")
        stands = words.index(foam.foam_word(float(y[zones.AIR]), stress))
        # What heat has not fixed yet does not stand, however much air is in it.
        stands = min(stands, 2) if y[kernel.THICKENED] < STANDS_FROM * it.p.foam.film_degree else stands
    return seen.PanSeen(
        foam=round(foam_left, 1),
        steam=seen.step(flux, seen.STEAM_FLUX),
        trail_s=trail_s,
        bits=seen.step(100 * float(y[kernel.BITS]), seen.BITS_PERCENT),
        sheen=seen.step(it.curds_seen, seen.SHEEN),
        bubbles=seen.step(-under_boil, (-seen.RIM_K, -seen.BUBBLES_K)) if it.lit else 0,
        turned=seen.step(float(y[kernel.GELATINISED]), seen.TURNED) if starchy else 0,
        lumps=seen.step(float(y[zones.LUMPS]), seen.LUMPY) if starchy else 0,
        stands=stands,
        flame=seen.step(it.given(), seen.LOUD) if it.lit else 0,
        spots=tuple(
            seen.Spot(
                seen.step(float(one[zones.LYING]), seen.FILM) if one[zones.GAP_S] > it.p.stir.free_s else 0,
                seen.step(float(one[zones.BROWNED]), seen.BROWNED),
            )
            for one in it.spots
        ),
    )


def _trail_s(it: Pan) -> float | None:
    stress, at_c = float(it.y[kernel.YIELD_PA]), float(it.y[kernel.SAUCE_C])
    slow = float(draining_viscosity(it.mixture, stress, at_c, it.p))
    closes = float(stirring.trail_closes(stress, slow, it.k.density, it.p.losses.pan_depth_m / 3))
    return None if np.isinf(closes) else round(closes, 1)


def _so_far(it: Pan) -> tuple[str, ...]:
    """What whoever stood beside it would have seen."""
    told = []
    if it.ends_when_out and it.t_s > TOLD_FROM_S:
        gap = it.longest_gap_s
        told.append(
            f"a spot stood for {gap:.0f} s" if gap > 6 else f"stirred without a gap over {max(gap, 1):.0f} s"
        )
    told.append("it has caught" if it.caught else "nothing has caught")
    return tuple(told)
