"""A pan in which eggs that do not exist are cooked: an attempt at the stove, replayed from its acts."""

from __future__ import annotations

from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import Texture, film_of, texture_at, yield_stress
from custard.conditions import USUAL, Conditions
from custard.mixture import Mixture
from custard.physics import foam
from custard.physics.texture import word
from custard.practice import look, seen
from custard.practice.acts import (
    DIP,
    END,
    FLAME,
    OFF,
    ON,
    OUT,
    PROBE,
    REST,
    STIR,
    Act,
)
from custard.practice.exercises import USUAL_FLAME, Exercise, near_boil
from custard.practice.hob import (
    AWAY_S,
    FULL_OVER_USUAL,
    GROSS_OVER_NET,
    TICK_S,
    TURNED_UP_BY,
    hidden,
)
from custard.practice.strokes import Strokes
from custard.process.heating import kernel, zones
from custard.process.heating.cook import Stove, step_s, usual_stove
from custard.process.heating.cook import constants as cook_constants
from custard.process.heating.pan import Constants
from custard.process.heating.state import State, sieve_percent, state_of
from custard.process.whisking.whisk import under_foam
from custard.vocabulary import ExerciseKind, ProbeKind, Surprise

Floats = NDArray[np.float64]

SPOON_S = 2.0
"""The hand that dips a spoon does not stir for so long [s]."""
UNDER_K, COAT_OVER_K, FOAM_OVER_K = 0.8, 2.0, 4.0
"""How far from where it was wanted nothing is lost [K]: below, above for a coat, above for a foam."""
STANDS_WELL = 2.5
"""Setting, over that at which most films of a foam have set, with which it stands until it is served [1]."""
COLUMNS = kernel.COLUMNS + 3
AIR, LUMPS, PROBE_C = kernel.COLUMNS, kernel.COLUMNS + 1, kernel.COLUMNS + 2
"""What a row of the record holds behind the columns of `kernel`."""


class PanAttempt:
    """One attempt with a pan or a bowl over steam.

    It is stepped on a grid of its own, and acts fall on its points: the same acts give the same pan, in
    whatever steps it is asked.
    """

    kinds: ClassVar[tuple[str, ...]] = (ExerciseKind.STOVE,)
    ends_when_out: ClassVar[bool] = True
    """Whether it is over once it is out of the pan."""

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
        self.k = self.constants()
        self.dt = step_s(self.k)
        self.y, self.spots = zones.at_rest(min(exercise.start_c, self.k.boil_c))
        self.spots[:, zones.GAP_S] = 0.0
        if exercise.begun is not None:
            self.y[:] = exercise.begun.y
            self.spots[:, zones.HOT_C] = self.y[kernel.BASE_C]
            self.spots[:, zones.BROWNED] = self.y[kernel.CAUGHT]
        self.probe_c = float(self.y[kernel.SAUCE_C])
        self.flame, self.lit, self.ended = USUAL_FLAME, True, False
        self.probe_in = exercise.probe == ProbeKind.GIVEN
        self.asked_probe = False
        self.off_s: float | None = None
        self.out_s: float | None = None
        if exercise.begun is not None and not exercise.begun.lit:
            self.lit, self.off_s = False, 0.0
        self.dips: list[seen.Dipped] = []
        self.flames: list[tuple[float, float]] = [(0.0, self.flame)]
        self.offs: list[tuple[float, bool]] = []
        self.ticks = 0
        self._rows: list[Floats] = []
        self._strokes = Strokes()
        self._busy_until_s = 0.0

    def constants(self) -> Constants:
        """The pan as plain numbers, with what is hidden in them."""
        usual = usual_stove(self.mixture, self.p, over_steam=self.exercise.over_steam)
        full_w = usual.power_w * FULL_OVER_USUAL * (1.0 if self.exercise.over_steam else GROSS_OVER_NET)
        pan = "thin" if self.exercise.over_steam else self.exercise.pan
        stove = Stove(full_w, "whisk", pan, over_steam=self.exercise.over_steam, gross=True)
        k = cook_constants(self.mixture, stove, self.conditions.by(self.p))
        return k._replace(
            power_w=float(k.power_w * self.hob.power),
            # Water that touches the bowl gives more than steam does, not only more of it.
            steam_w_k=float(k.steam_w_k * max(1.0, self.hob.power)),
            base_j_k=float(k.base_j_k * self.hob.base),
            whisk=float(k.whisk * self.hob.whisk),
        )

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
            acts = zones.Acts(
                powers=given * flicker,
                lit=float(self.lit),
                tick_s=TICK_S,
                dt=self.dt,
                strokes=strokes,
                width=self.p.stir.whisk_share,
                lag_s=self.exercise.lag_s,
            )
            self.probe_c = zones.play(self.k, self.local, self.y, self.spots, acts, out, self.probe_c)
            self._rows.append(out)
        self.ticks += count

    def given(self) -> float:
        """What the flame gives just now, over what the knob can give [1]."""
        turned = self.exercise.surprise == Surprise.TURNED_UP and self.t_s >= (self.hob.surprise_s or 0.0)
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
            self.do(act)

    def away(self, at_s: float) -> bool:
        """Whether whoever cooks it has been called away then [s]."""
        at = self.hob.surprise_s
        return self.exercise.surprise == Surprise.CALLED_AWAY and at is not None and at <= at_s < at + AWAY_S

    def _stirs(self, act: Act, tick: int) -> None:
        if self.out_s is not None or self.away(act.at_s) or act.at_s < self._busy_until_s:
            self._strokes.lift()
            return
        self._strokes.to(act, tick)

    def do(self, act: Act) -> None:
        """Something is done that can be done now."""
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
            zones.poured(self.k, self.y, self.spots)
            self.ended = self.ends_when_out
        elif act.do == END:
            self.ended = True

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        if self.ended:
            return ()
        ask = () if self.probe_in else (PROBE,)
        if self.out_s is not None:
            return (DIP, END)
        heat = (FLAME, OFF) if self.lit else (FLAME, ON)
        return (STIR, *heat, DIP, OUT, *ask, END)

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
        spoon_c = min(self.p.spoon.spoon_c, now.at_c)
        if not self.foams:
            on_spoon = yield_stress(self.mixture, self.state(), spoon_c, self.p)
            return seen.dipped(self.t_s, film_of(self.mixture, on_spoon, spoon_c, self.p), now.word)
        stress = now.yield_stress_pa + self.foam_pa()
        film = film_of(self.mixture, stress, spoon_c, self.p, float(self.y[zones.AIR]))
        return seen.dipped(self.t_s, film, word(stress))

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
        """What a sieve would hold, percent of the egg."""
        return sieve_percent(self.y)

    @property
    def curds_seen(self) -> float:
        """Share of the egg in curds that an eye finds [1]."""
        return float(self.y[kernel.CURDLED])

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
