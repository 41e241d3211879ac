"""What to do about a fault now: one function a fault, each tried in the model before it is said."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from custard.advice.mix.assess import Assessment
from custard.advice.trouble.faults import fault_of
from custard.advice.trouble.remedies import airy, before, cold, late, starchy, stirred
from custard.advice.trouble.remedies.rescued import Added, Asked, Rescued
from custard.advice.trouble.remedies.thin import thin
from custard.advice.trouble.story import Story
from custard.errors import within
from custard.physics.texture import NAPPE_PA
from custard.process.heating.cook import CURDLED_AT

__all__ = ["Added", "Rescued", "rescued", "there_is_g"]


def _thin(asked: Asked) -> Rescued:
    """Back on the heat; what sets in its cup back into the oven. What is boiled on purpose goes back to its
    boil: short of it the starch has not swollen and the enzyme of the yolk is left."""
    if asked.result.way.undisturbed:
        return late.cups(asked)
    if asked.result.stop.boiled:
        boiled = starchy.raw(asked)
        if boiled.saved == "yes" and boiled.spoon and boiled.spoon.yield_stress_pa >= NAPPE_PA:
            return boiled
    return thin(asked)


_REMEDIES: Mapping[str, Callable[[Asked], Rescued]] = {
    "too-thin": _thin,
    "too-thick": stirred.thick,
    "bits": stirred.bits,
    "split": stirred.split,
    "lumps": starchy.lumps,
    "caught": stirred.caught,
    "cooked-egg-taste": stirred.eggy,
    "raw-starch": starchy.raw,
    "skin": cold.skin,
    "yolk-grains": before.grains,
    "thin-next-day": starchy.thin_next_day,
    "weeps": cold.weeps,
    "collapsed": airy.sinks,
    "fold-falls": airy.falls,
    "chocolate": airy.chocolate,
    "bath": before.bath,
    "churn": cold.churn,
    "ice-crystals": cold.crystals,
    "cups": late.cups,
    "crust": late.crust_again,
    "yolks-short": before.yolks_short,
    "too-little": before.too_little,
    "pan-full": before.pan_full,
}

_CURDS_COME_FIRST = frozenset({"too-thin", "too-thick", "lumps", "skin", "too-little"})
"""Seen of a sauce whose egg has curdled through, these are its curds; no cream or yolk mends those."""


def there_is_g(result: Assessment, fault: str) -> float:
    """How much of it there is where nobody says [g]: the sauce, and with what is folded in once it was.

    Parameters
    ----------
    result : an assessed formula.
    fault : what is seen.
    """
    return result.yield_g if fault_of(fault).where == "folds" else result.sauce_g


def rescued(
    result: Assessment, fault: str, story: Story, cause: str = "", have_g: float | None = None
) -> Rescued:
    """The remedy for a fault as it stands now; of the whole sauce where nobody says how much.

    Parameters
    ----------
    result : an assessed formula.
    fault : what is seen.
    story : what is known of how it was cooked.
    cause : what most likely made it, by its name; where that changes what to do.
    have_g : how much of it there is [g].

    Raises
    ------
    UnknownName, OutOfRange
        when nothing of that name is seen, or there is less than nothing of it.
    """
    fault_of(fault)
    mass_g = there_is_g(result, fault) if have_g is None else have_g
    within("have_g", mass_g, 1, 1_000_000)
    asked = Asked(result, story, cause, mass_g)
    stirred_through = not (result.way.foams or result.way.undisturbed or asked.starchy)
    if fault in _CURDS_COME_FIRST and stirred_through and story.state.curdled > CURDLED_AT:
        return stirred.split(asked)
    return _REMEDIES[fault](asked)
