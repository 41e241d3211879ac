"""How a stirred sauce came to be as it is: the figures of its curve and of what was done, each or none."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import yield_stress
from custard.errors import within
from custard.process.cook import Stove
from custard.process.replay import replay
from custard.process.state import State

SETS_FROM_K = 6.0
"""So far under where it thickens a hand that rests leaves its mark [K]."""


@dataclass(frozen=True)
class Story:
    """What is known of a cook; None where nobody knows.

    Attributes
    ----------
    state : as it stands now.
    thickened, swollen, left : degrees of it [1]; swollen is None without starch.
    highest_c, lifted_c : the hottest it was, and what it was when the heat was off [degC].
    over_stop_k, lifted_over_k : how far those are past its stop [K].
    rise_off_k, stood_s : how far it rose with the heat off, and how long it stood in the pan [K], [s].
    gap_s : the longest that nobody stirred while it was setting [s]; 0 where it is known that somebody did.
    base_c, base_over_k : the hottest the base was, and over the sauce's stop [degC], [K].
    boiled_s : how long it boiled [s].
    enzyme_left : what is left of the yolk's enzyme [1]; None without starch.
    set_pa : how thick it would be with all its egg set [Pa].
    ph : of the mix.
    rate_k_per_min : how fast it rose on this hob before its hottest [K/min].
    """

    state: State
    thickened: float | None = None
    swollen: float | None = None
    left: float | None = None
    highest_c: float | None = None
    lifted_c: float | None = None
    over_stop_k: float | None = None
    lifted_over_k: float | None = None
    rise_off_k: float | None = None
    stood_s: float | None = None
    gap_s: float | None = None
    base_c: float | None = None
    base_over_k: float | None = None
    boiled_s: float | None = None
    enzyme_left: float | None = None
    set_pa: float | None = None
    ph: float | None = None
    rate_k_per_min: float | None = None

    def figure(self, name: str) -> float | None:
        """One of its figures by name."""
        value = getattr(self, name)
        return None if value is None else float(value)


FIGURES = tuple(one.name for one in fields(Story) if one.name != "state")


def untold(result: Assessment) -> Story:
    """The story of a batch of which nobody knows more than its formula."""
    return Story(state=result.stop, set_pa=_set_pa(result), ph=float(result.pan.ph))


def story_of(
    result: Assessment,
    readings: Sequence[tuple[float, float]],
    stove: Stove | None = None,
    *,
    off_s: float | None = None,
    out_s: float | None = None,
    still: Sequence[tuple[float, float]] | None = None,
) -> Story:
    """The story of a stirred sauce, out of its curve and what was marked.

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
    return Story(
        state=seen.state,
        thickened=seen.state.thickened,
        swollen=seen.state.gelatinised if starchy else None,
        left=seen.state.left,
        highest_c=seen.highest_c,
        lifted_c=lifted_c,
        over_stop_k=seen.highest_c - result.stop.at_c,
        lifted_over_k=(seen.highest_c if lifted_c is None else lifted_c) - result.stop.at_c,
        rise_off_k=None if lifted_c is None else max(0.0, seen.highest_c - lifted_c),
        stood_s=None if off_s is None else max(0.0, ends_s - off_s),
        gap_s=None if still is None else _gap(result, in_pan, still, off_s),
        base_c=seen.base_c,
        base_over_k=seen.base_c - result.stop.at_c,
        boiled_s=seen.boiled_s,
        enzyme_left=seen.amylase if starchy else None,
        set_pa=_set_pa(result),
        ph=float(result.pan.ph),
        rate_k_per_min=seen.rate_k_per_min,
    )


def _set_pa(result: Assessment) -> float:
    """How thick it is with all its egg set and its starch as at the stop [Pa]."""
    whole = State(**{**vars(result.stop), "thickened": 1.0, "curdled": 0.0})
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
