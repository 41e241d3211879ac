"""Tempering, pour by pour, into a bowl that is whisked or not: an attempt replayed from its acts."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

import numpy as np

from custard.advice.bench.schools import HOT_UNDER_BOIL_K
from custard.advice.mix.assess import assess
from custard.advice.mix.texture import draining_viscosity
from custard.conditions import USUAL, Conditions
from custard.errors import Impossible
from custard.mixture import combined
from custard.physics import stirring, thermal
from custard.practice import seen
from custard.practice.acts import BACK, END, POUR, REST, STIR, STOP, Act
from custard.practice.exercises import Exercise
from custard.practice.hob import TICK_S, hidden
from custard.practice.strokes import Strokes
from custard.process.heating import zones
from custard.process.heating.temper import COOLING_FROM_K, mixed_c, sides, spot
from custard.vocabulary import ExerciseKind

LEAST_MOVING = 0.12
"""A bowl that nobody whisks still swirls from what is poured into it [1]."""
WARM_C = (28.0, 38.0, 50.0)
"""From where a bowl feels as warm as the hand, warm, hot [degC]."""
THREADS = (0.02, 0.2)
"""Egg that curdles in the spot [1] from which a few threads are seen, and it scrambles."""
COOKED_G = 0.01
ROOM_C = 20.0
LEAST_FOAM, TRAIL_M = 0.3, 0.02
"""Foam on whisked yolks before there is milk to froth [1], and how deep a whisk goes [m]; estimates."""


class BowlAttempt:
    """Yolks in a bowl, hot dairy beside it."""

    kinds: ClassVar[tuple[str, ...]] = (ExerciseKind.TEMPER,)

    def __init__(self, exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> None:
        self.exercise, self.seed, self.conditions = exercise, seed, conditions
        self.p = conditions.parameters
        self.result = assess(exercise.formula, conditions)
        parts = sides(self.result.formula)
        if parts is None:
            raise Impossible("formula", exercise.formula.name, "has nothing to temper", "Choose another.")
        self.hob = hidden(exercise, seed)
        self.bowl, self.bowl_c = parts.bowl, ROOM_C
        self.egg_g, self.dairy = parts.bowl.mass_g, parts.dairy
        self.dairy_g = float(parts.dairy.mass_g)
        self.left_g = self.dairy_g
        # How hot the dairy stands is a part of what nobody knows.
        self.hot_c = self.result.boiling_c - HOT_UNDER_BOIL_K * (0.3 + 0.6 * self.hob.draw)
        self.vessel_j_k = self.p.temper.bowl_j_kgk * (parts.bowl.mass_g + parts.dairy.mass_g) / 1000
        self.spots = np.zeros((zones.ZONES, zones.SPOT_COLUMNS))
        self.g_s, self.ticks = 0.0, 0
        self.ended = self.given_up = False
        self.worst, self.cooked, self.now = 0.0, 0.0, 0.0
        self.worst_s = 0.0
        self.poured_still_s = 0.0
        self.landing_c = ROOM_C
        self.rates: list[tuple[float, float]] = [(0.0, 0.0)]
        self._curve: list[tuple[float, float, float]] = []
        self._strokes = Strokes()

    @property
    def t_s(self) -> float:
        """Since the start, on the grid [s]."""
        return self.ticks * TICK_S

    def on(self, until_s: float) -> None:
        """Let it go on."""
        self._run(int(np.floor(until_s / TICK_S + 1e-6)))

    def _run(self, to_tick: int) -> None:
        while self.ticks < to_tick and not self.ended:
            for _, x0, y0, x1, y1 in self._strokes.before(self.ticks + 1):
                zones.stroke(self.spots, x0, y0, x1, y1, self.p.stir.whisk_share)
            self._tick()
            self.ticks += 1
            self.spots[:, zones.GAP_S] += TICK_S

    def _tick(self) -> None:
        p, heat = self.p, self.p.temper
        kept = np.exp(-heat.dairy_cooling_k_per_min / 60 * TICK_S / COOLING_FROM_K)
        self.hot_c = float(p.heat.air_c + (self.hot_c - p.heat.air_c) * kept)
        self.now = 0.0
        grams = min(self.left_g, self.g_s * TICK_S)
        if grams > 0:
            moves = float(stirring.moving(self.spots[:, zones.GAP_S], p.stir.free_s, p.stir.fades_s).mean())
            moves = max(LEAST_MOVING, moves)
            takes_s = heat.whisk_s / moves
            fallen = replace(self.dairy, mass_g=self.g_s * takes_s)
            _, self.now = spot(self.bowl, self.bowl_c, fallen, self.hot_c, takes_s, p)
            if self.now > self.worst:
                self.worst, self.worst_s = self.now, self.t_s
            self.cooked = 1 - (1 - self.cooked) * (
                1 - self.now * min(1.0, heat.near_share * TICK_S / takes_s)
            )
            self.poured_still_s += TICK_S if moves < 0.5 else 0.0
            piece = replace(self.dairy, mass_g=grams)
            met_c = mixed_c(self.bowl, self.bowl_c, piece, self.hot_c)
            self.bowl = combined(self.bowl, piece)
            met_j_k = self.bowl.mass_g / 1000 * float(thermal.heat_capacity(self.bowl.proximate, met_c))
            self.bowl_c = (met_j_k * met_c + self.vessel_j_k * self.bowl_c) / (met_j_k + self.vessel_j_k)
            self.left_g -= grams
            if self.left_g <= 0:
                self.g_s = 0.0
        self._curve.append((self.t_s, self.bowl_c, self.now))

    def take(self, act: Act) -> None:
        """Something is done."""
        if self.ended:
            return
        tick = int(np.ceil(act.at_s / TICK_S - 1e-6))
        if act.do == STIR:
            self._strokes.to(act, tick)
            return
        self._run(tick)
        if act.do == REST:
            self._strokes.lift()
        elif act.do not in self.can():
            return
        elif act.do in (POUR, STOP):
            self.g_s = act.figures["g_s"] if act.do == POUR else 0.0
            self.rates.append((self.t_s, self.g_s))
        elif act.do == BACK:
            self.landing_c = self._landed_c()
            self.ended = True
        elif act.do == END:
            self.ended = self.given_up = True

    def _landed_c(self) -> float:
        """All together in the pan [degC]; what was not poured yet meets the bowl there."""
        if self.left_g <= 0:
            return self.bowl_c
        rest = replace(self.dairy, mass_g=self.left_g)
        return mixed_c(self.bowl, self.bowl_c, rest, self.hot_c)

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        if self.ended:
            return ()
        pour = () if self.left_g <= 0 else (STOP,) if self.g_s > 0 else (POUR,)
        return (STIR, *pour, BACK, END)

    def rate_at(self, at_s: float) -> float:
        """How fast it was poured then [g/s]."""
        return [rate for when, rate in self.rates if when <= at_s][-1]

    @property
    def bits_percent(self) -> float:
        """Egg that cooked to threads, percent of it."""
        return 100 * self.cooked

    def record(self) -> tuple[tuple[float, float, float], ...]:
        """Every tick: time [s], the bowl [degC], what curdles in the spot just then [1]."""
        return tuple(self._curve)

    def _looks(self, threads: int) -> seen.PanSeen:
        """Yolks from above: foam as the milk comes in, threads as bits, the trail by how thick it is."""
        poured = 1 - self.left_g / self.dairy_g
        thick = float(draining_viscosity(self.bowl, 0.0, self.bowl_c, self.p))
        density = float(self.bowl.density_kg_m3(self.bowl_c))
        trail_s = float(stirring.trail_closes(0.0, thick, density, TRAIL_M))
        return seen.PanSeen(
            foam=round(LEAST_FOAM + (1 - LEAST_FOAM) * poured, 1),
            steam=0,
            trail_s=round(trail_s, 1),
            bits=threads,
            sheen=2 if threads > 1 else 0,
            bubbles=0,
            turned=0,
            lumps=0,
            stands=None,
            flame=0,
            spots=(),
        )

    def picture(self) -> seen.Picture:
        """What there is to see now."""
        threads = seen.step(self.now, THREADS) or seen.step(self.cooked, (COOKED_G,))
        warm = seen.step(self.bowl_c, WARM_C)
        tells = (seen.shown("warm-bowl", warm), seen.shown("threads", threads))
        poured = self.dairy_g - self.left_g
        return seen.Picture(
            at_s=self.t_s,
            phase="ended" if self.ended else "bowl",
            can=self.can(),
            flame=0.0,
            tells=tuple(text for text in tells if text),
            said="",
            so_far=(f"{100 * poured / self.dairy_g:.0f} % of the milk is in",),
            pan=self._looks(threads),
            bowl=seen.BowlSeen(round(poured, -1), round(self.left_g, -1), self.g_s, warm, threads),
        )
