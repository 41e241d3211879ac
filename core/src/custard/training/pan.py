"""A pan in which eggs that do not exist are cooked: an attempt at the stove, replayed from its acts."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import Texture, film_of, texture_at
from custard.conditions import USUAL, Conditions
from custard.larder.ingredients import ingredient
from custard.mixture import Mixture, blend, combined
from custard.physics import foam
from custard.physics.texture import word
from custard.process import kernel, zones
from custard.process.cook import Stove, constants, step_s, usual_stove
from custard.process.pan import Constants
from custard.process.state import State, state_of
from custard.process.temper import mixed_c
from custard.process.whisk import under_foam
from custard.training import look, seen
from custard.training.acts import (
    BLEND,
    CREAM,
    DIP,
    END,
    FLAME,
    OFF,
    ON,
    OUT,
    PROBE,
    REST,
    STIR,
    THROW,
    Act,
)
from custard.training.exercises import CALLED_AWAY, GIVEN, RESCUE, TURNED_UP, USUAL_FLAME, Exercise, near_boil
from custard.training.hob import (
    AWAY_S,
    FULL_OVER_USUAL,
    GROSS_OVER_NET,
    TICK_S,
    TURNED_UP_BY,
    hidden,
)
from custard.training.strokes import Strokes

Floats = NDArray[np.float64]

SPOON_S = 2.0
"""The hand that dips a spoon does not stir for so long [s]."""
SPLIT_FROM, SPLIT_TO, LOST_FROM = 0.07, 0.2, 0.55
"""How far a sauce to be rescued has split: as far as can be mended, or past it (one time in three) [1]."""
LOST_SHARE = 1 / 3
UNDER_K, COAT_OVER_K, FOAM_OVER_K = 0.8, 2.0, 4.0
"""How far from where it was wanted nothing is lost [K]: below, above for a coat, above for a foam."""
STANDS_WELL = 2.5
"""Setting, over that at which most films of a foam have set, with which it stands until it is served [1]."""
CREAM_NAME, CREAM_C = "whipping-cream-36", 5.0
COLUMNS = kernel.COLUMNS + 3
AIR, LUMPS, PROBE_C = kernel.COLUMNS, kernel.COLUMNS + 1, kernel.COLUMNS + 2
"""What a row of the record holds behind the columns of `kernel`."""


@dataclass(frozen=True)
class Mended:
    """What was done to a split sauce: cream [g], blended, thrown away."""

    cream_g: float = 0.0
    blended: bool = False
    thrown: bool = False


class PanAttempt:
    """One attempt with a pan or a bowl over steam.

    It is stepped on a grid of its own, and acts fall on its points: the same acts give the same pan, in
    whatever steps it is asked.
    """

    kinds: ClassVar[tuple[str, ...]] = ("stove", RESCUE)

    def __init__(self, exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> None:
        self.exercise, self.seed, self.conditions = exercise, seed, conditions
        self.result: Assessment = assess(exercise.formula, conditions)
        self.hob = hidden(exercise, seed)
        self.foams = self.result.way.foams
        p = under_foam(conditions.parameters) if self.foams else conditions.parameters
        self.p = p
        self.mixture: Mixture = self.result.pan
        self.near_boil = near_boil(self.result)
        self.local = zones.local(p, foams=self.foams)
        self.k = self._constants()
        self.dt = step_s(self.k)
        self.y, self.spots = zones.at_rest(min(exercise.start_c, self.k.boil_c))
        self.spots[:, zones.GAP_S] = 0.0
        self.probe_c = float(self.y[kernel.SAUCE_C])
        self.flame, self.lit, self.ended = USUAL_FLAME, True, False
        self.probe_in = exercise.probe == GIVEN
        self.asked_probe = False
        self.off_s: float | None = None
        self.out_s: float | None = None
        self.dips: list[seen.Dipped] = []
        self.flames: list[tuple[float, float]] = [(0.0, self.flame)]
        self.offs: list[tuple[float, bool]] = []
        self.mended = Mended()
        self.ticks = 0
        self._rows: list[Floats] = []
        self._strokes = Strokes()
        self._busy_until_s = 0.0
        if exercise.kind == RESCUE:
            self._split()

    def _constants(self) -> Constants:
        usual = usual_stove(self.mixture, self.p, over_steam=self.exercise.over_steam)
        full_w = usual.power_w * FULL_OVER_USUAL * (1.0 if self.exercise.over_steam else GROSS_OVER_NET)
        pan = "thin" if self.exercise.over_steam else self.exercise.pan
        stove = Stove(full_w, "whisk", pan, over_steam=self.exercise.over_steam, gross=True)
        k = constants(self.mixture, stove, self.conditions.by(self.p))
        return k._replace(
            power_w=float(k.power_w * self.hob.power),
            # Water that touches the bowl gives more than steam does, not only more of it.
            steam_w_k=float(k.steam_w_k * max(1.0, self.hob.power)),
            base_j_k=float(k.base_j_k * self.hob.base),
            whisk=float(k.whisk * self.hob.whisk),
        )

    def _split(self) -> None:
        """Bring it, whisked all over, to where it has split as far as the seed says."""
        draw = self.hob.draw
        goal = LOST_FROM if draw < LOST_SHARE else SPLIT_FROM + (SPLIT_TO - SPLIT_FROM) * draw
        while self.y[kernel.CURDLED] < goal and self.y[kernel.T_S] < 3600:
            self.spots[:, zones.GAP_S] = 0.0
            zones.advance(self.k, self.local, self.y, self.spots, TICK_S, self.dt, 1.0, 0.6)
        self.y[kernel.T_S] = self.y[kernel.BITS] = 0.0
        self.spots[:, zones.LONGEST_S] = self.spots[:, zones.LYING] = self.spots[:, zones.BROWNED] = 0.0
        self.probe_c = float(self.y[kernel.SAUCE_C])

    @property
    def goal(self) -> float:
        """How far its egg is to be set when it comes off [0 to 1]."""
        return STANDS_WELL * self.p.foam.film_degree if self.foams else self.result.stop.thickened

    @property
    def free_k(self) -> tuple[float, float]:
        """So far under and over where it was first as wanted nothing is lost [K]: a coat is a coat."""
        over = seen.RIM_K - seen.BUBBLES_K if self.near_boil else FOAM_OVER_K if self.foams else COAT_OVER_K
        return UNDER_K, over

    def there(self, record: Floats) -> NDArray[np.bool_]:
        """Whether it is what it was to be, in each row of a record."""
        if self.near_boil:
            return np.asarray(record[:, kernel.SAUCE_C] >= self.k.boil_c - seen.RIM_K)
        return np.asarray(record[:, kernel.THICKENED] >= self.goal)

    def short_k(self, record: Floats) -> float:
        """How much warmer it should have become [K], about, where it never was there."""
        if self.near_boil:
            return float(self.k.boil_c - seen.RIM_K - record[:, kernel.SAUCE_C].max(initial=0.0))
        tau = float(record[-1, kernel.THICKENED]) if record.size else 0.0
        return float(self.p.coagulation.set_z_k * np.log10(self.goal / max(tau, 1e-4)))

    # Time

    @property
    def t_s(self) -> float:
        """Since the start, on the grid [s]."""
        return self.ticks * TICK_S

    def on(self, until_s: float) -> None:
        """Let it go on; whatever is done later than that does not matter to it."""
        self._run(int(np.floor(until_s / TICK_S + 1e-6)))

    def _run(self, to_tick: int) -> None:
        count = to_tick - self.ticks
        if count <= 0 or self.ended:
            return
        edges = [int(np.ceil(at / TICK_S)) for at in self._changes() if self.ticks < at / TICK_S < to_tick]
        for edge in (*edges, to_tick):
            self._stretch(edge - self.ticks)

    def _changes(self) -> tuple[float, ...]:
        """When something changes by itself [s]."""
        return () if self.hob.surprise_s is None else (self.hob.surprise_s,)

    def _stretch(self, count: int) -> None:
        if count <= 0:
            return
        out = np.empty((count, COLUMNS))
        if self.out_s is None:
            given = self.given()
            flicker = self.hob.flicker[self.ticks : self.ticks + count]
            strokes = self._strokes.before(self.ticks + count)
            strokes[:, 0] -= self.ticks
            self.probe_c = zones.play(
                self.k, self.local, self.y, self.spots, given * flicker, float(self.lit), TICK_S, self.dt,
                strokes, self.p.stir.whisk_share, out, self.probe_c, self.exercise.lag_s,
            )  # fmt: skip
            self._rows.append(out)
        self.ticks += count

    def given(self) -> float:
        """What the flame gives just now, over what the knob can give [1]."""
        turned = self.exercise.surprise == TURNED_UP and self.t_s >= (self.hob.surprise_s or 0.0)
        return self.flame / 10 * (TURNED_UP_BY if turned else 1.0)

    # Acts

    def take(self, act: Act) -> None:
        """Something is done. What cannot be done just now is not done."""
        if self.ended:
            return
        tick = int(np.ceil(act.at_s / TICK_S - 1e-6))
        if act.do == STIR:
            self._stirs(act, tick)
            return
        self._run(tick)
        if act.do == REST:
            self._strokes.lift()
        elif act.do in self.can() and not self.away(act.at_s):
            self._do(act)

    def away(self, at_s: float) -> bool:
        """Whether whoever cooks it has been called away then [s]."""
        at = self.hob.surprise_s
        return self.exercise.surprise == CALLED_AWAY and at is not None and at <= at_s < at + AWAY_S

    def _stirs(self, act: Act, tick: int) -> None:
        if self.out_s is not None or self.away(act.at_s) or act.at_s < self._busy_until_s:
            self._strokes.lift()
            return
        self._strokes.to(act, tick)

    def _do(self, act: Act) -> None:
        if act.do == FLAME:
            self.flame = act.figures["to"]
            self.flames.append((act.at_s, self.flame))
        elif act.do in (OFF, ON):
            self.lit = act.do == ON
            self.off_s = None if self.lit else self.t_s
            self.offs.append((self.t_s, self.lit))
        elif act.do == DIP:
            self.dips.append(self.dip())
            self._busy_until_s = self.t_s + SPOON_S
            self._strokes.lift()
        elif act.do == PROBE:
            self.probe_in = self.asked_probe = True
        elif act.do == OUT:
            self.off_s = self.t_s if self.off_s is None else self.off_s
            self.out_s, self.lit = self.t_s, False
            self.ended = self.exercise.kind != RESCUE
        elif act.do == CREAM:
            self._cream(act.figures["g"])
        elif act.do == BLEND:
            self.mended = replace(self.mended, blended=True)
        elif act.do == THROW:
            self.mended, self.ended = replace(self.mended, thrown=True), True
        elif act.do == END:
            self.ended = True

    def _cream(self, grams: float) -> None:
        """Cold cream is stirred in; what holds the heat of both is one sauce."""
        cream = blend([(ingredient(CREAM_NAME), grams)])
        sauce_c = mixed_c(self.mixture, float(self.y[kernel.SAUCE_C]), cream, CREAM_C)
        self.mixture = combined(self.mixture, cream)
        self.mended = replace(self.mended, cream_g=self.mended.cream_g + grams)
        self.y[kernel.SAUCE_C] = sauce_c
        self.k = self._constants()

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        if self.ended:
            return ()
        ask = () if self.probe_in else (PROBE,)
        rescue = (CREAM, BLEND, THROW) if self.exercise.kind == RESCUE else ()
        if self.out_s is not None:
            return (*rescue, DIP, END)
        heat = (FLAME, OFF) if self.lit else (FLAME, ON)
        return (STIR, *heat, DIP, OUT, *ask, *rescue, END)

    # What it has come to

    def state(self) -> State:
        """As it stands, as everywhere else."""
        return state_of(self.y, 1000 * self.k.mass_kg, boiled=self.boiled_s() > 0)

    def texture(self) -> Texture:
        """What the spoon shows of it as it stands; of a foam, what its liquid shows."""
        at_c = float(self.y[kernel.SAUCE_C])
        return texture_at(self.mixture, self.state(), at_c, min(self.p.spoon.spoon_c, at_c), self.p)

    def dip(self) -> seen.Dipped:
        """A spoon is dipped, and a line drawn in the coat."""
        now = self.texture()
        if not self.foams:
            return seen.Dipped(self.t_s, now.film_mm, now.line, now.line_closes_s, now.word)
        stress = now.yield_stress_pa + self.foam_pa()
        film = film_of(self.mixture, stress, now.at_c, self.p, float(self.y[zones.AIR]))
        return seen.Dipped(self.t_s, film.film_mm, film.line, film.closes_s, word(stress))

    def foam_pa(self) -> float:
        """What its bubbles carry [Pa]."""
        f = self.p.foam
        air = foam.air_fraction(float(self.y[zones.AIR]))
        return float(foam.foam_yield(air, f.tension_n_m, f.bubble_m, f.wide_pa_scale)) if self.foams else 0.0

    def record(self) -> Floats:
        """Every tick so far: the columns of `kernel`, air, lumps, the probe."""
        return np.concatenate(self._rows) if self._rows else np.empty((0, COLUMNS))

    def flame_at(self, at_s: float) -> float:
        """Where the knob stood [0 to 10]."""
        return [to for when, to in self.flames if when <= at_s][-1]

    def boiled_s(self) -> float:
        """How long it stood at the boil so far [s]."""
        at_boil = sum(
            int((rows[:, kernel.SAUCE_C] >= self.k.boil_c - seen.BUBBLES_K).sum()) for rows in self._rows
        )
        return at_boil * TICK_S

    def landed(self) -> Texture:
        """What it is at the temperature it was to be stopped at, as the Bench tells of it."""
        at_c = self.result.stop.at_c
        return texture_at(self.mixture, self.state(), at_c, min(self.p.spoon.spoon_c, at_c), self.p)

    @property
    def bits_percent(self) -> float:
        """Curdled in the bulk and swept off the wall, percent of the egg: what a sieve would hold."""
        bulk, wall = float(self.y[kernel.CURDLED]), float(self.y[kernel.BITS])
        return 100 * (1 - (1 - bulk) * (1 - wall))

    @property
    def caught(self) -> bool:
        """Whether it has caught anywhere."""
        return bool(self.y[kernel.CAUGHT] >= 1)

    @property
    def longest_gap_s(self) -> float:
        """The longest that any spot was left alone on the heat, once it mattered [s]."""
        return float(self.spots[:, zones.LONGEST_S].max())

    def picture(self) -> seen.Picture:
        """What there is to see now."""
        return look.picture(self)
