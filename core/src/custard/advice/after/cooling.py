"""A cooling planned: in these vessels, by these ways in turn; whether it is in time, and what helps."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment
from custard.errors import OutOfRange, within
from custard.figures import Rounding, Tenths, WholeGrams, WholeSeconds
from custard.larder.vessels import Cooling as Way
from custard.larder.vessels import CoolingRule, coolings, one_of
from custard.mixture import Mixture
from custard.process.cooling.chill import (
    PASSES,
    Chill,
    CooledBy,
    Leg,
    chill,
    chill_on,
    ice_to_have_g,
    legs_of,
    most,
)
from custard.process.cooling.resting import NOW_AND_THEN_S, Ice
from custard.process.cooling.vessel import Vessel

Floats = NDArray[np.float64]

GOAL_C = 4.5
"""What is called cold: between the fridge's own warmth and the warmest that rules let a cold sauce be."""
WARM_ROOM_C = 12.0
"""Warmer than this it stands in no fridge [degC]."""
INNER_SHARE = 0.8
"""The band holds four kitchens in five: so much of each coefficient's range to either side."""
MOST_WAYS = 4
MOST_SPLIT = 12
LEAST_DEPTH_MM = 10.0
"""Shallower than this nobody spreads a sauce to cool it [mm]."""
FIRST_ICE_MIN = 20.0
POINTS = 120


@dataclass(frozen=True)
class Cooler:
    """One way of cooling for a while.

    Attributes
    ----------
    by : the way, by its name in the table.
    minutes : for how long [min]; None to the end.
    stirred : whether it is stirred now and then meanwhile.
    ice_g, water_g : what the ice bath is made of [g]; None for plenty.
    medium_c : how cold it is in there [degC]; None for what the table takes it to be.
    share : how well this kitchen's own cools, over what the table says [1].
    spread : how sure that is, as a logarithm; None where nobody measured it.
    """

    by: str
    minutes: float | None = None
    stirred: bool = False
    ice_g: float | None = None
    water_g: float | None = None
    medium_c: float | None = None
    share: float = 1.0
    spread: float | None = None

    def __post_init__(self) -> None:
        one_of("by", self.by, tuple(coolings()))
        if self.minutes is not None:
            within("minutes", self.minutes, 1, 24 * 60)
        within("share", self.share, 0.01, 10)
        if self.medium_c is not None:
            within("medium_c", self.medium_c, -40, 40)
        if self.ice_g is not None and self.way.faces != "walls":
            raise OutOfRange("ice_g", self.by, "has no ice in it", "Leave it out, or cool in an ice bath.")

    @property
    def way(self) -> Way:
        """Its figures."""
        return coolings()[self.by]

    def ice_for(self, count: float) -> Ice | None:
        """What is there of its bath for each of so many vessels; None for plenty, and where there is none."""
        if self.ice_g is None:
            return None
        water_g = self.ice_g if self.water_g is None else self.water_g
        return Ice(self.ice_g / count, water_g / count)

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Cooler:
        """As it was kept."""
        return cls(**kept)

    def scaled(self, side: float = 0.0) -> Way:
        """Its figures here; toward the slow end of what they may be with `side` -1, the quick one with 1."""
        way = self.way

        def here(middle: float, ends: tuple[float, float]) -> float:
            if self.spread is not None:
                return self.share * middle * float(np.exp(side * self.spread))
            end = ends[1] if side > 0 else ends[0]
            return self.share * (middle + INNER_SHARE * abs(side) * (end - middle))

        return replace(
            way,
            medium_c=way.medium_c if self.medium_c is None else self.medium_c,
            stirred_w_m2k=here(way.stirred_w_m2k, way.stirred_range),
            thick_w_m2k=here(way.thick_w_m2k, way.thick_range),
            still_w_m2k=here(way.still_w_m2k, way.still_range),
            outside_w_m2k=here(way.outside_w_m2k, way.outside_range),
        )


@dataclass(frozen=True)
class Help:
    """Something that would help: its words, when the sauce is then cold [s], and whether it is in time."""

    say: str
    cold_s: WholeSeconds | None
    passes: bool


@dataclass(frozen=True)
class Limit:
    """One limit of the rule: below `limit_c` [degC] by `due_s` [s], None where its clock never begins.

    It is reached at `reached_s` [s], None where it never is; `kept` says whether that is in time.
    """

    limit_c: float
    due_s: WholeSeconds | None
    reached_s: WholeSeconds | None
    kept: bool


@dataclass(frozen=True)
class Cooling:
    """A cooling as planned.

    Attributes
    ----------
    each_g, depth_mm : what lies in each vessel [g], and how deep [mm].
    t_s, core_c, slow_c, quick_c : the warmest spot [degC] in time [s], and its band.
    limits : the limits of the rule, in order, on the curve's own clock.
    passes, why : whether it keeps to the rule, in words.
    sure : whether it does so also at the slow end of the band.
    cold_s : when it is cold right through [s]; None when it never is.
    greatest_depth_mm, greatest_g : the most that passes, in these vessels [mm], [g]; None when none does.
    ice_g : ice to have at hand [g]; None without ice. `ice_gone_s` when what is there has melted [s].
    helps : what to change, the least first; empty where it passes.
    """

    each_g: WholeGrams
    depth_mm: Tenths
    t_s: Annotated[list[float], Rounding(0)]
    core_c: Annotated[list[float], Rounding(2)]
    slow_c: Annotated[list[float], Rounding(2)]
    quick_c: Annotated[list[float], Rounding(2)]
    limits: tuple[Limit, ...]
    passes: bool
    sure: bool
    why: str
    rule: CoolingRule
    cold_s: WholeSeconds | None
    greatest_depth_mm: Tenths | None
    greatest_g: WholeGrams | None
    ice_g: WholeGrams | None
    ice_gone_s: WholeSeconds | None
    helps: tuple[Help, ...]


def chain(
    result: Assessment,
    mass_g: float,
    depth_mm: float,
    from_c: float,
    ways: Sequence[Cooler],
    side: float = 0.0,
    *,
    count: float = 1.0,
) -> Chill:
    """One of `count` vessels cooled one way after another, from the warmest spot each time, which is on the
    safe side. They share the ice there is.

    Raises
    ------
    OutOfRange
        when a figure cannot be.
    """
    first, *rest = ways
    done = chill(
        result.whole,
        from_c,
        min(GOAL_C, from_c - 0.5),
        CooledBy(
            first.by,
            first.stirred,
            every_s=NOW_AND_THEN_S if first.stirred else None,
            sets=result.way.undisturbed,
            ice=first.ice_for(count),
            own=first.scaled(side),
        ),
        mass_g,
        depth_mm,
        result.conditions,
        deepest=False,
    )
    if not rest or first.minutes is None:
        return done
    return chill_on(
        done,
        60 * first.minutes,
        lambda core_c: chain(result, mass_g, depth_mm, core_c, rest, side, count=count),
        GOAL_C,
        mixes=first.stirred,
    )


def cooling(
    result: Assessment, mass_g: float, from_c: float, vessel: Vessel, ways: Sequence[Cooler]
) -> Cooling:
    """What becomes of a sauce that is put away to cool.

    Parameters
    ----------
    result : an assessed formula.
    mass_g : how much of it there is [g].
    from_c : temperature at which it begins [degC], 1 to 110.
    vessel : what it lies in.
    ways : how it is cooled, one after another.

    Raises
    ------
    OutOfRange
        when a figure cannot be, or the vessels do not hold so much.
    """
    _checked(from_c, ways)
    depth = vessel.depth_mm(result.whole, mass_g)
    each_g = mass_g / vessel.count
    done = chain(result, each_g, depth, from_c, ways, count=vessel.count)
    slow, quick = (
        chain(result, each_g, depth, from_c, ways, side, count=vessel.count) for side in (-1.0, 1.0)
    )
    end_s = done.time_to_goal_s or slow.time_to_goal_s or float(done.t_s[-1])
    t = np.linspace(0.0, 1.2 * end_s, POINTS)
    deepest = _deepest(result, from_c, vessel, ways)
    passes = done.verdict == PASSES

    def tried(others: Sequence[Cooler], count: int) -> Chill:
        shallow, parts = max(1.0, depth / count), max(1.0, each_g / count)
        return chain(result, parts, shallow, from_c, others, count=count * vessel.count)

    sure = passes and slow.verdict == PASSES
    return Cooling(
        each_g=each_g,
        depth_mm=depth,
        t_s=t.tolist(),
        core_c=np.interp(t, done.t_s, done.core_c).tolist(),
        slow_c=np.interp(t, slow.t_s, slow.core_c).tolist(),
        quick_c=np.interp(t, quick.t_s, quick.core_c).tolist(),
        limits=tuple(Limit(leg.limit_c, leg.due_s, leg.reached_s, _kept(leg)) for leg in legs_of(done)),
        passes=passes,
        sure=sure,
        why=done.why + _too_warm(done, ways[-1]),
        rule=done.rule,
        cold_s=done.time_to_goal_s,
        greatest_depth_mm=deepest,
        greatest_g=None if deepest is None else _mass_at(result.whole, vessel, deepest),
        ice_g=_ice_g(result, mass_g, from_c, ways, done),
        ice_gone_s=done.ice_gone_s,
        helps=() if sure else helps(result, depth, vessel, ways, tried),
    )


def _ice_g(
    result: Assessment, mass_g: float, from_c: float, ways: Sequence[Cooler], done: Chill
) -> float | None:
    """Ice to have at hand [g], for as long as it lies in the bath; None without one."""
    found, begins_s = 0.0, 0.0
    # As cold as the method says that it is to be: one number for both.
    reference_c = result.conditions.parameters.texture.cold_reference_c
    for way in ways:
        ends_s = float(done.t_s[-1]) if way.minutes is None else begins_s + 60 * way.minutes
        if way.way.faces == "walls":
            hot_c, cold_c = np.interp((begins_s, ends_s), done.t_s, done.core_c)
            whole = replace(result.whole, mass_g=mass_g)
            found += ice_to_have_g(whole, float(min(hot_c, from_c)), max(float(cold_c), reference_c))
        begins_s = ends_s
    return found or None


def _too_warm(done: Chill, last: Cooler) -> str:
    """That nothing can grow colder than where it stands."""
    medium_c = last.scaled().medium_c
    if done.verdict == PASSES or medium_c < done.rule.second_c:
        return ""
    if medium_c > WARM_ROOM_C:
        return f"; too warm here, {{{medium_c:g} C}}: move it to ice or a fridge"
    return f"; it is {{{medium_c:g} C}} in there itself: set it colder"


def _kept(leg: Leg) -> bool:
    return leg.reached_s is not None and leg.due_s is not None and leg.reached_s <= leg.due_s


def _checked(from_c: float, ways: Sequence[Cooler]) -> None:
    within("from_c", from_c, 10, 110)
    within("ways", len(ways), 1, MOST_WAYS)
    for index, way in enumerate(ways[:-1]):
        if way.minutes is None:
            raise OutOfRange(f"ways[{index}].minutes", "", "must say for how long", "Then the next begins.")


def _mass_at(mixture: Mixture, vessel: Vessel, depth_mm: float) -> float:
    g_ml = float(mixture.density_kg_m3(40)) / 1000
    return vessel.count * vessel.base_cm2 * depth_mm / 10 * g_ml


def _deepest(result: Assessment, from_c: float, vessel: Vessel, ways: Sequence[Cooler]) -> float | None:
    """The greatest depth in these vessels that keeps to the rule [mm]; deeper is always slower."""

    def passes(depth_mm: float) -> bool:
        each_g = max(1.0, _mass_at(result.whole, replace(vessel, count=1), depth_mm))
        return chain(result, each_g, depth_mm, from_c, ways, count=vessel.count).verdict == PASSES

    return most(passes, 2.0, 10 * vessel.height_cm, 1.0)


Tried = Callable[[Sequence[Cooler], int], Chill]
"""What comes of cooling by other ways, and shared out into so many times as many vessels."""


def helps(
    result: Assessment, depth_mm: float, vessel: Vessel, ways: Sequence[Cooler], tried: Tried
) -> tuple[Help, ...]:
    """What would help, each tried: stirring, more ice, ice first, shallower, a fan, a blast chiller.

    Parameters
    ----------
    result : an assessed formula.
    depth_mm : how deep it lies [mm].
    vessel : what it lies in.
    ways : how it is cooled, one after another.
    tried : computes the verdict of a change.
    """
    found: list[Help] = []

    def add(say: str, others: Sequence[Cooler], count: int = 1) -> bool:
        done = tried(others, count)
        passes = done.verdict == PASSES
        found.append(Help(say, done.time_to_goal_s, passes))
        return passes

    if not all(way.stirred for way in ways) and not result.way.undisturbed:
        add("stir it now and then", [replace(way, stirred=True) for way in ways])
    if any(way.ice_g is not None for way in ways):
        add("take more ice", [replace(way, ice_g=None, water_g=None) for way in ways])
    if ways[0].way.faces != "walls" and vessel.kind != "cups":
        first = Cooler("ice-bath", FIRST_ICE_MIN, stirred=not result.way.undisturbed)
        add(f"in ice and water for {FIRST_ICE_MIN:.0f} min first", [first, *ways][:MOST_WAYS])
    most = min(MOST_SPLIT, int(depth_mm / LEAST_DEPTH_MM))
    for count in range(2, most + 1):
        say = f"share it out: {count * vessel.count} {vessel.plural} of {depth_mm / count:.0f} mm"
        if add(say, ways, count):
            break
        if count < most:
            found.pop()
    for by, say in (("fan-fridge", "in a fridge with a fan"), ("blast", "in a blast chiller")):
        if all(way.by != by for way in ways):
            add(say, [Cooler(by)])
    return tuple(sorted(found, key=lambda one: not one.passes))
