"""A sauce that has just split on the flame, to be saved or thrown away."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from custard.conditions import USUAL, Conditions
from custard.larder.ingredients import ingredient
from custard.mixture import blend, combined
from custard.practice.acts import BLEND, CREAM, THROW, Act
from custard.practice.exercises import Exercise
from custard.practice.hob import TICK_S
from custard.practice.pan import PanAttempt
from custard.process.heating import kernel, zones
from custard.process.heating.temper import mixed_c
from custard.vocabulary import ExerciseKind

SPLIT_FROM, SPLIT_TO, LOST_FROM = 0.07, 0.2, 0.55
"""How far a sauce to be rescued has split: as far as can be mended, or past it (one time in three) [1]."""
LOST_SHARE = 1 / 3
CREAM_NAME, CREAM_C = "whipping-cream-36", 5.0
FINER = 4.0
"""A blender leaves so much less of the curds for an eye to find [1]; an estimate."""
SIMMER = 0.6
"""The flame it split on, over what the knob can give [1]."""
LONGEST_S = 3600.0


@dataclass(frozen=True)
class Mended:
    """What was done to a split sauce: cream [g], blended, thrown away."""

    cream_g: float = 0.0
    blended: bool = False
    thrown: bool = False


class RescueAttempt(PanAttempt):
    """One attempt at a split sauce: off, out, cold cream, the blender; or thrown away."""

    kinds: ClassVar[tuple[str, ...]] = (ExerciseKind.RESCUE,)
    ends_when_out: ClassVar[bool] = False

    def __init__(self, exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> None:
        super().__init__(exercise, seed, conditions)
        self.mended = Mended()
        self._split()

    def _split(self) -> None:
        """Bring it, whisked all over, to where it has split as far as the seed says."""
        draw = self.hob.draw
        goal = LOST_FROM if draw < LOST_SHARE else SPLIT_FROM + (SPLIT_TO - SPLIT_FROM) * draw
        while self.y[kernel.CURDLED] < goal and self.y[kernel.T_S] < LONGEST_S:
            self.spots[:, zones.GAP_S] = 0.0
            zones.advance(self.k, self.local, self.y, self.spots, TICK_S, self.dt, 1.0, SIMMER)
        self.y[kernel.T_S] = self.y[kernel.BITS] = 0.0
        self.spots[:, zones.LONGEST_S] = self.spots[:, zones.LYING] = self.spots[:, zones.BROWNED] = 0.0
        self.probe_c = float(self.y[kernel.SAUCE_C])

    def do(self, act: Act) -> None:
        """What mends it, besides what can be done with any pan."""
        if act.do == CREAM:
            self._cream(act.figures["g"])
        elif act.do == BLEND:
            self.mended = replace(self.mended, blended=True)
        elif act.do == THROW:
            self.mended, self.ended = replace(self.mended, thrown=True), True
        else:
            super().do(act)

    def _cream(self, grams: float) -> None:
        """Cold cream is stirred in; what holds the heat of both is one sauce."""
        cream = blend([(ingredient(CREAM_NAME), grams)])
        sauce_c = mixed_c(self.mixture, float(self.y[kernel.SAUCE_C]), cream, CREAM_C)
        self.mixture = combined(self.mixture, cream)
        self.mended = replace(self.mended, cream_g=self.mended.cream_g + grams)
        self.y[kernel.SAUCE_C] = sauce_c
        self.k = self.constants()

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        usual = super().can()
        return (*usual[:-1], CREAM, BLEND, THROW, usual[-1]) if usual else ()

    @property
    def curds_seen(self) -> float:
        """Share of the egg in curds that an eye finds [1]; those that were blended are too fine."""
        return super().curds_seen / (FINER if self.mended.blended else 1.0)
