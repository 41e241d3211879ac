"""A batch as it is kept in a file: what it was made of, on what, what happened to it and what it came to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from custard.formula import Formula

PROBE_ERROR_K = 1.0
"""How far a kitchen probe that nobody checked may read wrong [K]; as remembered."""


@dataclass(frozen=True)
class HappenedMark:
    """Something that happened.

    Attributes
    ----------
    at_s : seconds since the mix was in the pan, or the cups in the oven [s].
    kind : what, as "spoon", "sieve", "off-heat", "into-ice", "hands-off", "stirring", "bubbles", "film".
    stage, what : where in the work, and the word that goes with it; "" where there is none.
    temperature_c : what the probe read then, or was typed [degC].
    coat, line, sieve : what a spoon and a sieve showed; "" where nobody looked.
    grams : what was weighed [g].
    note : a person's own words.
    """

    at_s: float
    kind: str
    stage: str = ""
    what: str = ""
    temperature_c: float | None = None
    coat: str = ""
    line: str = ""
    sieve: str = ""
    grams: float | None = None
    note: str = ""


@dataclass(frozen=True)
class HobUsed:
    """The hob: its name, its power [W] as known when it was chosen, and how sure that was, as a logarithm."""

    name: str = ""
    power_w: float | None = None
    spread: float | None = None


@dataclass(frozen=True)
class PanUsed:
    """The pan: its name and kind, its heat over that of its kind [1], how sure that was, as a logarithm."""

    name: str = ""
    kind: str = "clad"
    share: float = 1.0
    spread: float | None = None


@dataclass(frozen=True)
class ProbeUsed:
    """The probe.

    Attributes
    ----------
    name : as the kitchen calls it; "" where no probe was in it.
    lag_s : time constant [s].
    reads_high_k : how far it read too high when it was last checked [K]; readings are as it gave them.
    error_k : how far it may still be off after that [K].
    checked_on : the day of that check, as "2026-03-01"; "" where nobody checked it.
    """

    name: str = ""
    lag_s: float = 4.0
    reads_high_k: float = 0.0
    error_k: float = PROBE_ERROR_K
    checked_on: str = ""


@dataclass(frozen=True)
class LearnedUsed:
    """What the kitchen had learned of such a sauce, as its plan used it.

    Attributes
    ----------
    set_k : how much later it sets than is computed [K].
    carry_over : what its pans add off the heat, over what is computed [1].
    left : what stays in pan and sieve, over what is computed [1].
    """

    set_k: float = 0.0
    carry_over: float = 1.0
    left: float = 1.0


@dataclass(frozen=True)
class PlanUsed:
    """What was planned: lifted at, landing at [degC], coat, yield [g]; None and "" for what is not known."""

    lift_c: float | None = None
    lands_c: float | None = None
    coat: str = ""
    yield_g: float | None = None


@dataclass(frozen=True)
class KeptBatch:
    """A batch as it is kept in a file.

    Attributes
    ----------
    formula : as weighed, with what remedies added.
    number, started_at : its number, and when it was begun (ISO 8601); None and "" where nobody knows.
    altitude_m : height of the kitchen [m].
    rule : its cooling rule; "" for the usual.
    eggs, egg_source : the class of the eggs in the house, and whose they are, in the kitchen's words.
    hob, pan, probe, over_steam, stir : what it was cooked on and in, and read by.
    hold_s : how long it is held at the boil [s]; None for as long as usual.
    cups : what it is baked in, as `custard.process.Cups` keeps it; None for what is not baked.
    learned, plan : what was known of it before, and what was planned.
    readings : (seconds since it was in the pan [s], [degC]), in order.
    marks : in order.
    yield_g : what was weighed at the end [g].
    verdict, verdict_note : how it ended, and a person's words for it.
    odd : somebody said that nothing is to be learned of it.
    rehearsal : it was cooked at no stove.
    """

    formula: Formula
    number: int | None = None
    started_at: str = ""
    altitude_m: float = 0.0
    rule: str = ""
    eggs: str | None = None
    egg_source: str = ""
    hob: HobUsed = field(default_factory=HobUsed)
    pan: PanUsed = field(default_factory=PanUsed)
    probe: ProbeUsed = field(default_factory=ProbeUsed)
    over_steam: bool = False
    stir: str = "whisk"
    hold_s: float | None = None
    cups: Mapping[str, Any] | None = None
    learned: LearnedUsed = field(default_factory=LearnedUsed)
    plan: PlanUsed = field(default_factory=PlanUsed)
    readings: tuple[tuple[float, float], ...] = ()
    marks: tuple[HappenedMark, ...] = ()
    yield_g: float | None = None
    verdict: str = ""
    verdict_note: str = ""
    odd: bool = False
    rehearsal: bool = False

    @property
    def true_readings(self) -> tuple[tuple[float, float], ...]:
        """Its readings with what its probe was known to read too high taken off [s], [degC]."""
        high = self.probe.reads_high_k
        return tuple((t, c - high) for t, c in self.readings) if high else self.readings

    @property
    def day(self) -> float | None:
        """When it was begun, in days since 1970; None where nobody knows."""
        if not self.started_at:
            return None
        at = datetime.fromisoformat(self.started_at)
        # A time that does not say its zone means the same wherever it is read.
        aware = at if at.tzinfo else at.replace(tzinfo=UTC)
        return aware.timestamp() / 86_400
