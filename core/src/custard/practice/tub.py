"""Cooling in time: what a trainee lays it in and what cools it, with the clock let run."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from itertools import pairwise
from typing import ClassVar

import numpy as np

from custard.advice.mix.assess import assess
from custard.conditions import USUAL, Conditions
from custard.practice import seen
from custard.practice.acts import CHILL, END, WAIT, Act
from custard.practice.exercises import Exercise
from custard.practice.hob import hidden
from custard.process.cooling.chill import Chill, CooledBy, chill, chill_on, reach
from custard.process.cooling.resting import NOW_AND_THEN_S
from custard.vocabulary import ExerciseKind

IN_THE_PAN_MM = 70.0
COLD_C = 5.0
WARM_C = (10.0, 25.0, 45.0, 60.0)
"""From where a tub is cool, lukewarm, warm, hot to the hand through its wall [degC]."""
WARMTH = ("the tub is cold", "the tub is cool", "the tub is lukewarm", "the tub is warm", "the tub is hot")
LONGEST_S = 24 * 3600.0


@dataclass(frozen=True)
class Laid:
    """How it lies from a moment on [s]: by what, how deep [mm], stirred or not."""

    from_s: float
    by: str
    depth_mm: float
    stirred: bool


class TubAttempt:
    """A cream off the heat, on the counter in its pan until something is done."""

    kinds: ClassVar[tuple[str, ...]] = (ExerciseKind.CHILL,)

    def __init__(self, exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> None:
        self.exercise, self.seed, self.conditions = exercise, seed, conditions
        self.result = assess(exercise.formula, conditions)
        # How much there is: what a bigger batch does to a depth is what there is to learn.
        self.mass_g = float(self.result.sauce_g) * (2.0 + 4.0 * hidden(exercise, seed).draw)
        self.from_c = self.result.stop.at_c
        self.laid: list[Laid] = [Laid(0.0, "counter", IN_THE_PAN_MM, False)]
        self.t_s, self._let_pass_s = 0.0, 0.0
        self.ended = False
        self._cooled: Chill | None = None

    def on(self, until_s: float) -> None:
        """Let it go on: the clock of the cooling is what was let pass besides."""
        if not self.ended:
            self.t_s = max(self.t_s, until_s)
            self.ended = self.core_c() <= COLD_C or self.since_s >= LONGEST_S

    @property
    def since_s(self) -> float:
        """Since it left the heat [s]."""
        return self.t_s + self._let_pass_s

    def take(self, act: Act) -> None:
        """Something is done."""
        self.on(act.at_s)
        if self.ended or act.do not in self.can():
            return
        if act.do == CHILL:
            by = act.words["by"]
            self.lay(
                by, act.figures["depth_mm"], stirred=act.words.get("stirred") == "yes" and by != "fridge"
            )
        elif act.do == WAIT:
            self._let_pass_s += act.figures["s"]
            self.on(act.at_s)
        elif act.do == END:
            self.ended = True

    def lay(self, by: str, depth_mm: float, *, stirred: bool) -> None:
        """From now on it lies so."""
        self.laid.append(Laid(self.since_s, by, depth_mm, stirred))
        self._cooled = None

    def cold_s(self) -> float:
        """How long it takes to be cold, as it is laid [s]; without end where it never is."""
        done = self.cooling()
        found = reach(done.t_s, done.core_c, COLD_C)
        return np.inf if found is None else float(found)

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        return () if self.ended else (CHILL, WAIT, END)

    def cooling(self) -> Chill:
        """The whole of it as it would go on, judged by the kitchen's rule."""
        if self._cooled is None:
            done = self._chill(self.from_c, self.laid[0])
            for before, laid in pairwise(self.laid):
                then = partial(self._chill, laid=laid)
                done = chill_on(done, laid.from_s, then, COLD_C, mixes=before.stirred)
            self._cooled = done
        return self._cooled

    def _chill(self, from_c: float, laid: Laid) -> Chill:
        to_c = min(COLD_C, from_c - 0.5)
        how = CooledBy(laid.by, laid.stirred, NOW_AND_THEN_S if laid.stirred else None)
        whole, lies = self.result.whole, (self.mass_g, laid.depth_mm, self.conditions)
        return chill(whole, from_c, to_c, how, *lies, deepest=False)

    def core_c(self) -> float:
        """The warmest spot [degC]."""
        done = self.cooling()
        return float(np.interp(self.since_s, done.t_s, done.core_c))

    def picture(self) -> seen.Picture:
        """What there is to see now."""
        warm = seen.step(self.core_c(), WARM_C)
        now = self.laid[-1]
        minutes = self.since_s / 60
        return seen.Picture(
            at_s=self.t_s,
            phase="ended" if self.ended else "cooling",
            can=self.can(),
            flame=0.0,
            tells=(WARMTH[warm],),
            said="",
            so_far=(
                f"{minutes:.0f} min since it left the heat",
                f"there are {self.mass_g / 1000:.1f} kg of it",
            ),
            tub=seen.TubSeen(now.by, now.depth_mm, now.stirred, self.since_s, warm),
        )
