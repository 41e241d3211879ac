"""How a sauce came to be as it is: figures of its curve, of what was done, and of what a cook says."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from custard.advice.mix.assess import Assessment
from custard.advice.mix.churning import churning
from custard.advice.mix.texture import yield_stress
from custard.advice.stove.live_oven import live_oven
from custard.errors import OutOfRange, within
from custard.mixture import blend
from custard.process.baking.bake import usual_bath_c
from custard.process.baking.cups import Cups, usual_cups
from custard.process.cooling.chocolate import onto_chocolate, under, wetted
from custard.process.following.replay import replay
from custard.process.heating import kernel
from custard.process.heating.cook import Cook, Stove, cook, usual_stove
from custard.process.heating.pot import laid_out, stirred
from custard.process.heating.state import State, on_ramp
from custard.vocabulary import When

SETS_FROM_K = 6.0
"""So far under where it thickens a hand that rests leaves its mark [K]."""
BEGINS_C = 66.0
"""Where a cook that is only supposed begins: where tempering usually lands [degC]."""
SIEVED_S = 8.0
"""How long a sauce stays in the pan after the heat is off where all goes well [s]."""
STOOD_S = 20.0
"""A sauce that stood for longer is taken to have been overtaken by its pan, where nobody read more [s]."""
POINTS = 200
CUPS_IN_C = 50.0

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Story:
    """What is known of a cook, by the names of `faults.figures`; what nobody knows is not there.

    Attributes
    ----------
    state : as it stands now.
    figures : what is known.
    curve : time [s] and temperature [degC]; `off_s` when the heat was off on it.
    read : whether that curve was read, rather than supposed.
    lift_c : where its hob and pan are known, the number to lift it at [degC]: less than its stop by what they
        still add.
    """

    state: State
    figures: Mapping[str, float] = field(default_factory=dict)
    curve: Points = ()
    off_s: float | None = None
    read: bool = False
    lift_c: float | None = None

    def figure(self, name: str) -> float | None:
        """One of its figures; None where nobody knows."""
        return self.figures.get(name)

    def known(self, name: str, otherwise: float) -> float:
        """One of its figures, or what is taken for it where nobody knows."""
        return self.figures.get(name, otherwise)


def unknown_story(result: Assessment) -> Story:
    """The story of a batch of which nobody knows more than its formula.

    Parameters
    ----------
    result : an assessed formula.
    """
    return Story(result.stop, _of_the_mix(result))


def with_answers(result: Assessment, story: Story, said: Mapping[str, float]) -> Story:
    """The same story with what a cook says of it, which goes before what was computed.

    Parameters
    ----------
    result : an assessed formula.
    story : what is known of how it was cooked.
    said : figures of the story by name, in their units.
    """
    figures = {**story.figures, **_meant(result, story, said), **said}
    if "sauce_c" in said and (landed := onto_chocolate(result.formula, said["sauce_c"])) is not None:
        figures["lands_c"] = landed.landing_c
    state = story.state
    if "over_stop_k" in said and not story.read:
        at_c = min(result.stop.at_c + said["over_stop_k"], result.boiling_c)
        state = on_ramp(result.pan, result.course(), at_c, result.conditions.parameters)
    if "curdled" in said:
        state = replace(state, curdled=said["curdled"])
    return replace(story, state=state, figures=figures)


def _meant(result: Assessment, story: Story, said: Mapping[str, float]) -> dict[str, float]:
    """What follows from what was said, where no curve says more."""
    if story.read:
        return {}
    found: dict[str, float] = {}
    if "over_stop_k" in said:
        over = said["over_stop_k"]
        overtaken = said.get("stood_s", 0.0) > STOOD_S and over > 0
        at_c = min(result.stop.at_c + over, result.boiling_c)
        state = on_ramp(result.pan, result.course(), at_c, result.conditions.parameters)
        lifted = 0.0 if overtaken else over
        found |= {
            "highest_c": at_c,
            "lifted_c": result.stop.at_c + lifted,
            "lifted_over_k": lifted,
            "rise_off_k": over if overtaken else 0.0,
            "thickened": state.thickened,
        }
    if "boiled_s" in said and result.stop.boiled:
        supposed = suppose(result, {"boiled_s": said["boiled_s"]}, {})
        found |= {name: supposed.figures[name] for name in ("enzyme_left", "swollen")}
    return found


def _of_the_mix(result: Assessment) -> dict[str, float]:
    """The figures that the formula alone tells."""
    pan, p = result.pan, result.conditions.parameters
    found = {"set_pa": _set_pa(result), "ph_over": float(pan.ph) - p.coagulation.casein_splits_ph}
    starch = sum(float(part) for part in pan.starch_by_kind.values())
    if starch > 0:
        found["flour_share"] = float(pan.starch_by_kind.get("wheat", 0.0)) / starch
    if result.family.churned:
        found["freezes_c"] = churning(result.whole).freezing_point_c
        found["water_share"] = float(result.whole.fractions["water"])
    chocolate = under(result.formula)
    if chocolate is not None:
        both = stirred(laid_out(pan, result.stop.at_c), laid_out(chocolate, 20.0))
        found |= {"wetted": wetted(both.mixture, p), "lands_c": both.at_c}
    folds = [(line.ingredient, g) for _, line, g in result.formula.joining(When.FOLDED)]
    if folds:
        found["cream_fat"] = 100 * float(blend(folds).fractions["fat"])
    return found


def story_of(
    result: Assessment,
    readings: Sequence[tuple[float, float]],
    stove: Stove | None = None,
    *,
    off_s: float | None = None,
    out_s: float | None = None,
    still: Sequence[tuple[float, float]] | None = None,
) -> Story:
    """The story of a sauce, out of its curve and what was marked.

    Parameters
    ----------
    result : what it was to be.
    readings : time [s] and temperature [degC] since it was in the pan.
    stove : what it was cooked on.
    off_s, out_s : when the heat was off, and when it was out of the pan [s]; its hottest where nobody knows.
    still : from when to when nobody stirred [s]; None where nobody knows.

    Raises
    ------
    OutOfRange
        when there are too few readings, or a time cannot be.
    """
    end_s = max(t for t, _ in readings) if readings else 0.0
    for name, value in (("off_s", off_s), ("out_s", out_s)):
        if value is not None:
            within(name, value, 0, max(end_s, 1.0) + 3600)
    in_pan = [(t, c) for t, c in readings if out_s is None or t <= out_s]
    seen = replay(result.pan, in_pan, stove, result.conditions, still or (), off_s)
    starchy = result.pan.starch_in_aqueous_percent > 0
    lifted_c = _at(in_pan, off_s) if off_s is not None else None
    ends_s = min(end_s, out_s) if out_s is not None else end_s
    figures = {
        **_of_the_mix(result),
        "thickened": seen.state.thickened,
        "curdled": min(1.0, seen.state.curdled + seen.bits),
        "swollen": seen.state.gelatinised if starchy else None,
        "left": seen.state.left,
        "highest_c": seen.highest_c,
        "lifted_c": lifted_c,
        "over_stop_k": seen.highest_c - result.stop.at_c,
        "lifted_over_k": (seen.highest_c if lifted_c is None else lifted_c) - result.stop.at_c,
        "rise_off_k": None if lifted_c is None else max(0.0, seen.highest_c - lifted_c),
        "stood_s": None if off_s is None else max(0.0, ends_s - off_s),
        "gap_s": None if still is None else _gap(result, in_pan, still, off_s),
        "base_c": seen.base_c,
        "base_over_k": seen.base_c - result.stop.at_c,
        "boiled_s": seen.boiled_s,
        "enzyme_left": seen.amylase if starchy else None,
        "rate_k_per_min": seen.rate_k_per_min,
        "sauce_c": in_pan[-1][1],
    }
    known = {name: float(value) for name, value in figures.items() if value is not None}
    return Story(seen.state, known, _thinned(readings), off_s, read=True)


def story_of_cups(
    result: Assessment, readings: Sequence[tuple[float, float]], cups: Cups | None = None
) -> Story:
    """The story of a custard in the oven, out of what a probe in the middle of a cup read.

    Parameters
    ----------
    result : an assessed formula.
    readings : times since it went in [s], and what the probe read [degC].
    cups : what it is baked in; None for as many usual cups as it fills.

    Raises
    ------
    OutOfRange
        when nothing was read.
    """
    if not readings:
        raise OutOfRange("readings", 0, "must be at least 1")
    begins_s, ends_s = min(t for t, _ in readings), max(t for t, _ in readings)
    cups = cups or usual_cups(result.pan, result.formula.card)
    seen = live_oven(result.pan, readings, ends_s, cups, result.conditions)
    known, state = _of_the_mix(result), result.stop
    if seen is not None:
        in_c = min(80.0, max(0.0, sorted(readings)[0][1]))
        baked = cups.baked(result.pan, in_c, seen.bath_c if cups.bath else None, result.conditions)
        edge = float(np.interp(ends_s - begins_s, baked.t_s, baked.curdled_edge))
        known |= {"set_centre": seen.set_centre, "baths_c": seen.bath_c, "highest_c": seen.centre_c}
        known["curdled"] = edge
        planned = cups.baked(result.pan, in_c, conditions=result.conditions).out_s
        if planned is not None:
            known["out_over_s"] = ends_s - begins_s - planned
        state = replace(state, thickened=seen.set_centre, curdled=edge, at_c=seen.centre_c)
    return Story(state, known, _thinned(readings), None, read=True)


def suppose(result: Assessment, said: Mapping[str, float], makes: Mapping[str, float]) -> Story:
    """The story of a cook that went as was said, and else as such a cause makes it go; nothing was read.

    Parameters
    ----------
    result : an assessed formula.
    said : figures as a cook tells them.
    makes : what the cause does: `lift_k` past the stop [K], `stood_s`, `gap_s` [s], `power` times the usual;
        in the oven `out_over_s` [s], `baths_c` [degC].
    """
    if result.way.in_the_oven:
        return _supposed_in_the_oven(result, {**makes, **said})
    stove = usual_stove(result.pan, result.conditions.parameters, over_steam=result.way.foams)
    stove = replace(stove, power_w=stove.power_w * makes.get("power", 1.0))
    boils = result.stop.boiled
    lift_k = said.get("over_stop_k", makes.get("lift_k", 0.0))
    lift_c = min(result.stop.at_c + lift_k, result.boiling_c - (1.0 if boils else 0.0))
    usual_s = result.conditions.parameters.cook.boil_hold_s if boils and lift_k >= 0 else 0.0
    done = cook(
        result.pan,
        min(BEGINS_C, lift_c - 10),
        lift_c,
        stove,
        said.get("boiled_s", usual_s),
        said.get("stood_s", makes.get("stood_s", SIEVED_S)),
        conditions=result.conditions,
    )
    readings = [(float(t), float(c)) for t, c in zip(done.column(kernel.T_S), _celsius(done), strict=True)]
    gap_s = said.get("gap_s", makes.get("gap_s", 0.0))
    off_s = None if done.lift_s is None else done.lift_s + said.get("boiled_s", usual_s)
    still = _rests(result, readings, gap_s)
    found = story_of(result, readings, stove, off_s=off_s, still=still)
    return replace(found, read=False)


def _celsius(done: Cook) -> list[float]:
    return [float(c) for c in done.column(kernel.SAUCE_C)]


def _rests(
    result: Assessment, readings: Sequence[tuple[float, float]], gap_s: float
) -> list[tuple[float, float]]:
    """A rest of the hand just where it sets [s]."""
    if gap_s <= 0:
        return []
    from_c = (result.window.thickens_c or result.stop.at_c) - 1
    begins = next((t for t, c in readings if c >= from_c), readings[-1][0])
    return [(begins, begins + gap_s)]


def _supposed_in_the_oven(result: Assessment, said: Mapping[str, float]) -> Story:
    p = result.conditions.parameters
    cups = usual_cups(result.pan, result.formula.card)
    bath_c = min(99.0, said.get("baths_c", usual_bath_c(cups.oven_c, p)))
    baked = cups.baked(result.pan, CUPS_IN_C, bath_c, result.conditions)
    planned = cups.baked(result.pan, CUPS_IN_C, conditions=result.conditions).out_s
    out_s = max(60.0, (planned or 3600.0) + said.get("out_over_s", 0.0))
    at = int(baked.t_s.searchsorted(out_s))
    at = min(at, baked.t_s.size - 1)
    known = {
        **_of_the_mix(result),
        "set_centre": float(baked.set_centre[at]),
        "curdled": float(baked.curdled_edge[at]),
        "highest_c": float(baked.centre_c[at]),
        "baths_c": bath_c,
    }
    state = replace(
        result.stop, thickened=known["set_centre"], curdled=known["curdled"], at_c=known["highest_c"]
    )
    curve = zip(baked.t_s[: at + 1], baked.centre_c[: at + 1], strict=True)
    return Story(state, known, _thinned([(float(t), float(c)) for t, c in curve]))


def _thinned(readings: Sequence[tuple[float, float]]) -> Points:
    """A curve of so many points that it can be drawn [s], [degC]."""
    found = sorted(readings)
    kept = found[:: max(1, len(found) // POINTS)]
    if found and kept[-1] != found[-1]:
        kept.append(found[-1])
    return tuple((round(float(t), 1), round(float(c), 2)) for t, c in kept)


def _set_pa(result: Assessment) -> float:
    """How thick it is with all its egg set and its starch as at the stop [Pa]."""
    whole = replace(result.stop, thickened=1.0, curdled=0.0)
    return yield_stress(result.pan, whole, result.stop.at_c, result.conditions.parameters)


def _at(readings: Sequence[tuple[float, float]], at_s: float) -> float:
    """What was read last by then [degC]."""
    before = [c for t, c in sorted(readings) if t <= at_s]
    return before[-1] if before else sorted(readings)[0][1]


def _gap(
    result: Assessment,
    readings: Sequence[tuple[float, float]],
    still: Sequence[tuple[float, float]],
    off_s: float | None,
) -> float:
    """The longest rest of the hand while it was setting, on the heat [s]."""
    from_c = (result.window.thickens_c or result.stop.at_c) - SETS_FROM_K
    hot = [t for t, c in sorted(readings) if c >= from_c]
    if not hot:
        return 0.0
    ends = float("inf") if off_s is None else off_s
    return max((min(end, ends) - max(begin, hot[0]) for begin, end in still), default=0.0)
