"""The four ways of being done, at the stove: how far a cook has come, how long it still takes, what alarms.

One class a way; everything that differs while a sauce is being cooked is here.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from custard.advice.mix.assess import Assessment
from custard.advice.stove.account import Equipment, History, Live
from custard.advice.stove.live_oven import NUDGE_S, LiveOven
from custard.larder.families import Way
from custard.physics.texture import WORDS
from custard.vocabulary import AlarmKind, Phase, WayName

READY_S = 10.0
"""This long before the lift a hand belongs on the pan."""
TURNING_S = 45.0
"""This long before the lift the spoon is to be watched."""
CURDLING_S = 15.0
"""This long before curdling it is called out."""
CATCHES_S = 45.0
"""This long before the base catches it is called out."""
FEW_READINGS = 3
"""Fewer than these say nothing yet: the probe may still read what it comes from."""
LOST_S = 10.0
"""Silent for so long the probe is called out."""
GONE_S = 120.0
"""Silent for so long nothing is said of the sauce any more."""
HELD_ENOUGH = 0.9
"""This share of the advised hold at the boil is enough not to be warned of."""
SETTLED_S = 60.0
"""After so long over the steam the power says whether it steams as it should."""
HARDLY_STEAM = 0.35
"""Below this share of what a bare simmer gives to this bowl nothing happens."""
TOO_MUCH_STEAM = 2.4
"""Above this share of it water touches the bowl: a rolling boil gives less."""

CALM, SOON, NOW, DANGER = range(4)
"""How urgent a batch is, from calm to danger."""


TIMELESS = (Phase.OFF, Phase.OUT, Phase.PAST, Phase.LIFT, Phase.LOST)
"""Phases in which nobody waits for a moment to come."""


@dataclass(frozen=True)
class Moment:
    """A cook as it stands: what is made of it, on what, what happened, what is known, how long the probe
    has been silent [s]."""

    result: Assessment
    equipment: Equipment
    history: History
    now: Live | LiveOven | None
    silent_s: float | None

    @property
    def off(self) -> bool:
        """Whether it has come off the heat."""
        return self.history.off_s is not None or self.history.out_s is not None

    def silent_for(self, seconds: float) -> bool:
        """Whether there is a probe, and it has been silent longer than that."""
        return self.silent_s is not None and self.silent_s > seconds


class Doing:
    """What every way at the stove has in common."""

    phases: tuple[Phase, ...] = (Phase.WAITING, Phase.LOST, Phase.OFF, Phase.OUT, Phase.NEVER)
    urgent: Mapping[Phase, int] = MappingProxyType({})

    def phase(self, at: Moment) -> Phase:
        """How far it has come, one of `phases`."""
        if at.history.out_s is not None:
            return Phase.OUT
        if at.history.off_s is not None:
            return Phase.OFF
        if not isinstance(at.now, Live) or len(at.history.readings) < FEW_READINGS:
            return Phase.WAITING
        if at.silent_for(GONE_S):
            return Phase.LOST
        return Phase.NEVER if at.now.lift is None else self.under_way(at.result, at.now)

    def under_way(self, result: Assessment, now: Live) -> Phase:
        """The phase while it is heated and read."""
        raise NotImplementedError

    def seconds(self, phase: Phase, at: Moment) -> float | None:
        """Until what comes after this phase [s]; None when that is not known."""
        if not isinstance(at.now, Live) or at.now.lift is None:
            return None
        return (
            None if phase in (Phase.OFF, Phase.OUT, Phase.PAST, Phase.LIFT, Phase.LOST) else at.now.lift.in_s
        )

    def urgency(self, phase: Phase) -> int:
        """How urgent a phase is."""
        return self.urgent.get(phase, CALM)

    def alarms(self, at: Moment) -> list[AlarmKind]:
        """The alarms that stand."""
        now, kinds = at.now, []
        on = not at.off
        if on and now is not None and at.silent_for(LOST_S):
            kinds.append(AlarmKind.PROBE_LOST)
        if not isinstance(now, Live) or at.history.out_s is not None or at.silent_for(GONE_S):
            return kinds
        kinds += self.lift_alarms(at.result, now, on=on)
        kinds += self.own_alarms(at, now, on=on)
        if on and now.catches_in_s is not None and now.catches_in_s <= CATCHES_S:
            kinds.append(AlarmKind.CATCHING)
        if on and at.equipment.stove.over_steam:
            kinds += _steam(at.history, now)
        return kinds

    def lift_alarms(self, result: Assessment, now: Live, *, on: bool) -> list[AlarmKind]:
        """That it must come off, or should have."""
        if not on or now.lift is None or not self.sure(now):
            return []
        left = now.lift.in_s
        return [AlarmKind.LIFT_NOW] if left <= 0 else [AlarmKind.LIFT_SOON] if left <= READY_S else []

    def own_alarms(self, at: Moment, now: Live, *, on: bool) -> list[AlarmKind]:
        """What else can go wrong in this way."""
        raise NotImplementedError

    def sure(self, now: Live) -> bool:
        """Whether enough is known to call for the lift."""
        return now.from_readings


class Lifted(Doing):
    """What is lifted when it is thick enough: coats and mounds."""

    phases = (*Doing.phases, Phase.WARMING, Phase.TURNING, Phase.READY, Phase.LIFT, Phase.PAST)
    urgent = MappingProxyType(
        {Phase.LIFT: NOW, Phase.READY: NOW, Phase.PAST: DANGER, Phase.OFF: NOW, Phase.TURNING: SOON}
    )

    def under_way(self, result: Assessment, now: Live) -> Phase:
        """By the seconds left to the lift."""
        left_s = 0.0 if now.lift is None else now.lift.in_s
        if left_s <= 0:
            return Phase.PAST if _past(result, now) else Phase.LIFT
        if left_s <= READY_S:
            return Phase.READY
        return Phase.TURNING if _thickens(now) or left_s <= TURNING_S else Phase.WARMING

    def lift_alarms(self, result: Assessment, now: Live, *, on: bool) -> list[AlarmKind]:
        """Past its word it is said whatever else is known."""
        return [AlarmKind.PAST] if _past(result, now) else super().lift_alarms(result, now, on=on)

    def own_alarms(self, at: Moment, now: Live, *, on: bool) -> list[AlarmKind]:
        """It may curdle, on the heat or left in the hot pan."""
        near = now.curdles is not None and now.curdles.in_s <= CURDLING_S
        return [AlarmKind.CURDLING] if near else []


class Boiled(Doing):
    """What is held at the boil until its starch is done."""

    phases = (*Doing.phases, Phase.WARMING, Phase.TURNING, Phase.HOLD, Phase.LIFT)
    urgent = MappingProxyType({Phase.LIFT: NOW, Phase.OFF: NOW, Phase.TURNING: SOON, Phase.HOLD: SOON})

    def under_way(self, result: Assessment, now: Live) -> Phase:
        """By the time at the boil."""
        if now.held_s > 0:
            return Phase.LIFT if now.lift is None or now.lift.in_s <= 0 else Phase.HOLD
        return Phase.TURNING if _thickens(now) else Phase.WARMING

    def seconds(self, phase: Phase, at: Moment) -> float | None:
        """To the boil, then to the end of the hold."""
        if phase == Phase.HOLD or not isinstance(at.now, Live):
            return super().seconds(phase, at)
        left = super().seconds(phase, at)
        return None if left is None or at.now.boils is None else at.now.boils.in_s

    def own_alarms(self, at: Moment, now: Live, *, on: bool) -> list[AlarmKind]:
        """Taken off before its starch was done."""
        return [AlarmKind.STARCH_SHORT] if not on and now.held_s < HELD_ENOUGH * at.equipment.hold_s else []

    def sure(self, now: Live) -> bool:
        """It comes off by the clock of its boil, not by what is known of the hob."""
        return now.held_s > 0


class Baked(Doing):
    """What sets in cups in the oven."""

    phases = (Phase.WAITING, Phase.WARMING, Phase.READY, Phase.LIFT, Phase.OUT)
    urgent = MappingProxyType({Phase.LIFT: NOW, Phase.READY: SOON})

    def phase(self, at: Moment) -> Phase:
        """By the time left until the centre is set."""
        if at.off:
            return Phase.OUT
        if not isinstance(at.now, LiveOven):
            return Phase.WAITING
        left = at.now.out_in_s
        if left is None or left > NUDGE_S:
            return Phase.WARMING
        return Phase.LIFT if left <= 0 else Phase.READY

    def seconds(self, phase: Phase, at: Moment) -> float | None:
        """Until the cups come out."""
        return None if phase == Phase.OUT or not isinstance(at.now, LiveOven) else at.now.out_in_s

    def alarms(self, at: Moment) -> list[AlarmKind]:
        """The probe, and that the cups must come out."""
        if at.off or at.now is None:
            return []
        kinds = [AlarmKind.PROBE_LOST] if at.silent_for(LOST_S) else []
        return [*kinds, AlarmKind.LIFT_NOW] if self.phase(at) == Phase.LIFT else kinds


_BY_WAY: Mapping[WayName, Doing] = MappingProxyType(
    {WayName.COATS: Lifted(), WayName.BOILS: Boiled(), WayName.MOUNDS: Lifted(), WayName.SETS: Baked()}
)


def doing_of(way: Way) -> Doing:
    """What a way does at the stove."""
    return _BY_WAY[way.name]


def _thickens(now: Live) -> bool:
    return now.thickens is not None and now.thickens.in_s <= 0


def _past(result: Assessment, now: Live) -> bool:
    """Thicker than the word it was to land at."""
    end = next((end for end, _ in WORDS if result.hot.yield_stress_pa < end), float("inf"))
    return now.yield_stress_pa >= end


def _steam(history: History, now: Live) -> list[AlarmKind]:
    """Whether it steams as it should, once that can be read."""
    if now.t_s - min(t for t, _ in history.readings) <= SETTLED_S:
        return []
    # Next to nothing is never known to a share of itself: that it is little is enough.
    if now.power_w + now.power_spread_w < HARDLY_STEAM * now.promised_w:
        return [AlarmKind.NO_STEAM]
    touches = now.from_readings and now.power_w > TOO_MUCH_STEAM * now.promised_w
    return [AlarmKind.TOUCHING] if touches else []
