"""A batch out of its file, followed again: the live states that its screens showed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from custard.advice.mix.assess import Assessment, assess
from custard.advice.stove.account import UNKNOWN_PAN, UNKNOWN_POWER, Equipment, History, Spoon, off_the_heat
from custard.advice.stove.live import live, settled
from custard.advice.trouble.kept import out_of_the_pan
from custard.conditions import Conditions, Learned
from custard.errors import BadFormula, OutOfRange
from custard.figures import plain
from custard.formats.kept_batch import KeptBatch
from custard.learning.cooked import conditions_of, off_for_good, stove_of
from custard.process.baking.cups import Cups, usual_cups
from custard.vocabulary import Coat, MarkKind


def conditions_with_learned(kept: KeptBatch) -> Conditions:
    """The conditions a batch was made under, with what its kitchen had learned by then."""
    learned = Learned(kept.learned.set_k, None, kept.learned.carry_over, kept.learned.left)
    return conditions_of(kept, learned)


def assessed(kept: KeptBatch) -> Assessment:
    """A batch's formula assessed under its own conditions, with what its kitchen had learned by then."""
    return assess(kept.formula, conditions_with_learned(kept))


def equipment_of(kept: KeptBatch, result: Assessment) -> Equipment:
    """What it was cooked on and in, as far as that was known."""
    p = result.conditions.parameters
    cups = None
    if result.way.in_the_oven:
        cups = usual_cups(result.pan, result.formula.card) if kept.cups is None else _cups(kept.cups)
    return Equipment(
        stove=stove_of(kept, result),
        power_spread=UNKNOWN_POWER if kept.hob.spread is None else kept.hob.spread,
        probe_lag_s=kept.probe.lag_s,
        pan_share=kept.pan.share,
        pan_spread=UNKNOWN_PAN if kept.pan.spread is None else kept.pan.spread,
        hold_s=p.cook.boil_hold_s if kept.hold_s is None else kept.hold_s,
        cups=cups,
    )


def _cups(kept: Mapping[str, Any]) -> Cups:
    try:
        return Cups.of(kept)
    except TypeError:
        raise BadFormula("cups", kept, "is not what cups are kept as") from None


def history_of(kept: KeptBatch, until_s: float) -> History:
    """What had happened to it by a moment [s]."""
    marks = [mark for mark in kept.marks if 0 <= mark.at_s <= until_s]
    breaks, off_s = off_the_heat((mark.at_s, mark.kind) for mark in marks)
    return History(
        readings=settled([(t, c) for t, c in kept.true_readings if t <= until_s]),
        spoons=[Spoon(one.at_s, Coat(one.coat)) for one in marks if one.kind == MarkKind.SPOON and one.coat],
        hands=[
            (one.at_s, one.kind == MarkKind.STIRRING)
            for one in marks
            if one.kind in (MarkKind.STIRRING, MarkKind.HANDS_OFF)
        ],
        off_s=off_s,
        out_s=out_of_the_pan(marks),
        bubbles_s=next((one.at_s for one in marks if one.kind == MarkKind.BUBBLES), None),
        breaks=breaks,
    )


def replayed(kept: KeptBatch, at_s: tuple[float, ...] = ()) -> dict[str, Any]:
    """Its live states, as plain data.

    Parameters
    ----------
    kept : the batch.
    at_s : when [s]; by default where something was marked at the stove, and at the end of its cook.

    Raises
    ------
    OutOfRange
        when nothing was read of it.
    """
    if not kept.readings:
        raise OutOfRange("readings", 0, "must be at least 1 to replay a batch")
    ends = [s for s in (off_for_good(kept), out_of_the_pan(kept.marks)) if s is not None]
    last_s = max([*ends, kept.readings[0][0]]) if ends else kept.readings[-1][0]
    moments = at_s or tuple(
        sorted({mark.at_s for mark in kept.marks if kept.readings[0][0] <= mark.at_s <= last_s} | {last_s})
    )
    states = []
    result = assessed(kept)
    equipment = equipment_of(kept, result)
    for moment in moments:
        found = live(result, equipment, history_of(kept, moment), moment)
        states.append({"at_s": moment, "state": None if found is None else plain(found)})
    return {"formula": kept.formula.name, "states": states}
