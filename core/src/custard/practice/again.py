"""A batch that was made, cooked again from a moment of it: as it stood, on its own hob and in its own pan."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment
from custard.advice.stove.stages import degrees
from custard.conditions import Conditions
from custard.errors import Impossible, within
from custard.formats.kept_batch import KeptBatch
from custard.learning.cooked import constants_of, cooked
from custard.learning.replayed import assessed, conditions_with_learned
from custard.physics import foam
from custard.practice.exercises import LEAST_LAG_S, MOST_LAG_S, Begun, Exercise, of_formula
from custard.practice.score.item import clock
from custard.process.following.replay import Course
from custard.process.heating import kernel, zones
from custard.process.heating.cook import usual_stove
from custard.process.heating.pan import Constants
from custard.process.heating.state import sieve_percent
from custard.vocabulary import ProbeKind

Floats = NDArray[np.float64]
AIR_STEP_S = 5.0
EVERY_S = 2.0
"""What really happened is kept at so many seconds."""


def batch_conditions(kept: KeptBatch) -> Conditions:
    """The conditions under which a batch is cooked again: its own, with what its kitchen had learned by then.

    Parameters
    ----------
    kept : the batch, as it is kept in its file.
    """
    return conditions_with_learned(kept)


def of_batch(kept: KeptBatch, from_s: float) -> Exercise:
    """A batch from a moment on, to be cooked again beside what really happened.

    Parameters
    ----------
    kept : the batch, as it is kept in its file; `hob.power_w` and `pan.share` as they were found to be.
    from_s : from when on, since it was in the pan [s].

    Returns
    -------
    what is practised: its formula as weighed, hob and pan known, the sauce as it stood, the probe in it.

    Raises
    ------
    Impossible
        when nothing was read of it by a probe, or it was baked.
    OutOfRange
        when it was not in its pan then.
    """
    made = cooked(kept)
    if made.course is None or not kept.readings:
        raise Impossible("batch", kept.formula.name, "was read by no probe in its pan", "Choose another.")
    course, ends = made.course, float(made.course.t_s[-1])
    within("from_s", from_s, float(course.t_s[0]), max(float(course.t_s[0]), ends - 1.0))
    result = assessed(kept)
    k = constants_of(kept, result, made.stove)
    then, later = (_as_it_stood(course, k, result, at_s) for at_s in (from_s, ends))
    exercise = of_formula(kept.formula, pan=made.stove.pan)
    usual_w = usual_stove(result.pan, result.conditions.parameters, over_steam=kept.over_steam).power_w
    at = np.arange(from_s, ends + EVERY_S / 2, EVERY_S)
    real = np.interp(at, course.t_s, course.celsius)
    begun = Begun(
        from_s=from_s,
        y=tuple(then.tolist()),
        power=made.stove.power_w / usual_w,
        base=kept.pan.share,
        lit=made.off_s is None or from_s < made.off_s,
        real=tuple(zip((at - from_s).tolist(), real.tolist(), strict=True)),
        real_off_s=None if made.off_s is None or made.off_s < from_s else made.off_s - from_s,
        real_bits_percent=sieve_percent(later),
    )
    # As its curve counts, from the first that was read.
    since = clock(from_s - float(course.t_s[0]))
    number = "" if kept.number is None else f" {kept.number}"
    return replace(
        exercise,
        name=f"{kept.formula.name}, batch{number} from {since}",
        tell=f"This is how it stood after {since}, at {degrees(then[kernel.SAUCE_C])}"
        f"{'' if begun.lit else ', off the heat'}. Do better than that day. {exercise.tell}",
        power=(1.0, 1.0),
        spread=0.0,
        probe=ProbeKind.GIVEN,
        lag_s=min(MOST_LAG_S, max(LEAST_LAG_S, kept.probe.lag_s)),
        signs=(),
        begun=begun,
    )


def _as_it_stood(course: Course, k: Constants, result: Assessment, at_s: float) -> Floats:
    """Sauce and air, as `zones` keeps them, once the temperatures that were read were followed so far [s]."""
    began = float(course.t_s[0])
    y, _ = zones.at_rest(float(course.celsius[0]))
    if not result.way.foams:
        course.follow(k, y, to_s=at_s)
        return y
    at = zones.local(result.conditions.parameters, foams=True)
    for since in np.arange(began, at_s, AIR_STEP_S):
        course.follow(k, y, from_s=since, to_s=min(at_s, since + AIR_STEP_S))
        most = float(foam.most_overrun(y[kernel.SAUCE_C], at.best_overrun))
        y[zones.AIR] = foam.air_after(
            y[zones.AIR], most, y[kernel.THICKENED], y[kernel.CURDLED], AIR_STEP_S, at.whisk_s,
            at.collapse, at.collapse_s,
        )  # fmt: skip
    return y
