"""Plan and fact of one cook, in words."""

from __future__ import annotations

from custard.advice.mix.assess import Assessment
from custard.advice.stove.account import Equipment, Live, Spoon
from custard.advice.stove.calibrate import Calibration
from custard.advice.stove.stages import degrees

SAME_SHARE = 0.05
"""A hob this near its plan gave what was planned."""
SAME_K = 0.4
LEARNED_K = 0.25


def beside_plan(
    result: Assessment,
    equipment: Equipment,
    end: Live,
    hob: str,
    measured: Calibration | None,
    peak_c: float | None,
    spoons: tuple[Spoon, ...] = (),
) -> tuple[str, ...]:
    """Sentences about how a cook went beside its plan; temperatures in them as "{82.4 C}".

    Parameters
    ----------
    result : an assessed formula.
    equipment : what it was cooked on and in.
    end : the cook as it stood when it came off the heat.
    hob : what the hob is called.
    measured : what the curve says of hob and pan; None where it cannot say.
    peak_c : the hottest the probe read [degC].
    spoons : the spoons tested.
    """
    said = []
    if measured is not None:
        said.append(_hob(equipment.stove.power_w, hob, measured))
    elif end.from_readings:
        share = end.power_w / end.promised_w - 1
        said.append(f"{hob} gave {_more(share)}.")
    if peak_c is not None and not result.stop.boiled:
        off = peak_c - result.stop.at_c
        beside = (
            "as planned"
            if abs(off) <= SAME_K
            else f"{{{abs(off):.1f} K}} {'above' if off > 0 else 'below'} the plan"
        )
        said.append(f"It peaked at {degrees(peak_c)}, {beside}.")
    if result.stop.boiled:
        said.append(f"It stood at the boil for {end.held_s:.0f} s of {equipment.hold_s:.0f} s.")
    if spoons and abs(end.shift_k) >= LEARNED_K:
        when = "later" if end.shift_k > 0 else "sooner"
        said.append(f"The spoon says that this batch set {{{abs(end.shift_k):.1f} K}} {when} than computed.")
    return tuple(said)


def _hob(promised_w: float, hob: str, measured: Calibration) -> str:
    share = measured.power_w / promised_w - 1
    figure = f"{measured.power_w:.0f} W, give or take {measured.power_error_w:.0f}"
    return f"{hob} gave {_more(share)} ({figure})."


def _more(share: float) -> str:
    if abs(share) < SAME_SHARE:
        return "what was planned"
    return f"{abs(100 * share):.0f} % {'more' if share > 0 else 'less'} than planned"
