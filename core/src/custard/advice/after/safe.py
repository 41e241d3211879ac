"""The one judge of whether what was made may still be eaten; every door of the product asks it.

It errs to the safe side: what nobody knows counts as the shorter of what could be.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from custard.advice.after.life import DAY_H, Kept, Life, use_by
from custard.vocabulary import Place

NO_REMEDY = "No remedy makes it safe again."


@dataclass(frozen=True)
class Judgement:
    """Whether it may be eaten.

    Attributes
    ----------
    safe : it is within every limit that is known.
    why : what makes it unsafe, in a sentence; "" where it is safe.
    until_h, until_why : until when it may be used, in hours since it was made [h], and what sets that.
    """

    safe: bool
    why: str
    until_h: float
    until_why: str


def judge(known: Life, kept: Kept, age_h: float) -> Judgement:
    """Whether something may still be eaten, `age_h` after it was made [h].

    Parameters
    ----------
    known : how it keeps, by what it is and by how it was cooked and cooled.
    kept : what has happened to it since.
    age_h : hours since it was made, those in the freezer too [h].

    Raises
    ------
    OutOfRange
        when it came out of the freezer before it went in.
    """
    until = use_by(known, kept)
    if known.missing:
        return Judgement(False, f"Not to be used until somebody decides: {known.why}.", 0.0, known.why)
    if known.chilled_h <= 0 and known.freezes_days <= 0:
        return Judgement(False, f"It may not be kept: {known.why}.", 0.0, known.why)
    if age_h <= until.hours:
        return Judgement(True, "", until.hours, until.why)
    return Judgement(False, _past(known, kept, age_h, until.hours, until.why), until.hours, until.why)


def since(
    age_h: float, *, warm_h: float = 0.0, warm_c: float | None = None, frozen_days: float = 0.0
) -> tuple[Kept, float]:
    """What happened to something of which only lengths of time are known, and how old that makes it [h].

    Parameters
    ----------
    age_h : how long it has stood in the fridge [h].
    frozen_days : how long it was in the freezer after that [d].
    warm_h, warm_c : how long it was kept warm at the end [h], and at what temperature [degC]; where nobody
        knows the temperature, it counts as not hot enough.
    """
    kept, now_h = Kept(), age_h
    if frozen_days > 0:
        now_h += DAY_H * frozen_days
        kept = Kept(Place.THAWING, frozen_h=age_h, out_h=now_h)
    if warm_h > 0:
        kept, now_h = replace(kept, place=Place.WARM, warm_h=now_h, warm_c=warm_c), now_h + warm_h
    return kept, now_h


def _past(known: Life, kept: Kept, age_h: float, until_h: float, why: str) -> str:
    if kept.place == "warm" and kept.warm_h is not None:
        return (
            f"It was kept warm for {_long(age_h - kept.warm_h)}; at {{{known.warm_c:.0f} C}} or more it is "
            f"good for {known.warm_h:.1f} h, and cooler for {known.lukewarm_h:.1f} h."
        )
    return f"It is {_long(age_h)} old and was to be used within {_long(until_h)}: {why}."


def _long(hours: float) -> str:
    return f"{hours:.0f} h" if hours < 2 * DAY_H else f"{hours / DAY_H:.1f} days".replace(".0 ", " ")
