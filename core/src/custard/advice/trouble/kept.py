"""The story of a batch as it is kept: what its readings and its marks tell, in the app or out of a file."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from custard.advice.mix.assess import Assessment
from custard.advice.trouble.faults import figures
from custard.advice.trouble.story import Story, story_of, story_of_cups, unknown_story
from custard.formats.kept_batch import HappenedMark, KeptBatch
from custard.larder.vessels import pans
from custard.process.baking.cups import Cups
from custard.process.heating.cook import Stove, usual_stove

LEAST_READINGS = 4
"""So few readings are no curve."""
LONGEST_STOOD_S = 600.0
"""What it does for longer after the heat is off is no part of its cook [s]."""
ON_THE_SAUCE = 2.0
"""Film that was marked lies right on the sauce."""
AFTER_THE_PAN = ("into-ice", "sieve")


def story_of_batch(
    result: Assessment, kept: KeptBatch, stove: Stove | None = None, cups: Cups | None = None
) -> Story:
    """What is known of a batch.

    Parameters
    ----------
    result : an assessed formula.
    kept : the batch as it is kept.
    stove, cups : what it was cooked on or baked in, where more is known than the file says.
    """
    if stove is None:
        usual = usual_stove(result.pan, result.conditions.parameters, over_steam=kept.over_steam)
        stove = replace(usual, pan=kept.pan.kind if kept.pan.kind in pans() else "clad")
    read = _of_its_curve(result, kept, stove, cups)
    found = unknown_story(result) if read is None else read
    return replace(found, figures={**found.figures, **_of_its_marks(kept.marks)})


def _first(marks: Iterable[HappenedMark], *kinds: str) -> float | None:
    return next((mark.at_s for mark in marks if mark.kind in kinds and mark.at_s >= 0), None)


def out_of_the_pan(marks: Iterable[HappenedMark]) -> float | None:
    """When a batch left its pan [s]: into the ice, through the sieve, or something joined it in its bowl,
    whichever came first; None where nobody marked it."""
    left = (
        mark.at_s
        for mark in marks
        if mark.at_s >= 0 and (mark.kind in AFTER_THE_PAN or mark.stage == "finish")
    )
    return min(left, default=None)


def _of_its_curve(result: Assessment, kept: KeptBatch, stove: Stove, cups: Cups | None) -> Story | None:
    """What its probe tells; None where it read too little."""
    readings = [(t, c) for t, c in kept.true_readings if t >= 0]
    off_s, out_s = _first(kept.marks, "off-heat"), out_of_the_pan(kept.marks)
    if result.way.in_the_oven:
        inside = [(t, c) for t, c in readings if off_s is None or t <= off_s]
        return story_of_cups(result, inside, cups) if len(inside) >= LEAST_READINGS else None
    if off_s is not None:
        ends_s = min(off_s + LONGEST_STOOD_S, out_s if out_s is not None else off_s + LONGEST_STOOD_S)
        readings = [(t, c) for t, c in readings if t <= ends_s]
    if len(readings) < LEAST_READINGS:
        return None
    end_s = max(t for t, _ in readings)
    return story_of(
        result,
        readings,
        stove,
        off_s=off_s,
        out_s=None if out_s is None else min(out_s, end_s),
        still=rests(kept.marks, end_s) or None,
    )


def rests(marks: Iterable[HappenedMark], end_s: float) -> list[tuple[float, float]]:
    """From when to when nobody stirred [s], as it was marked; the last rest until the end."""
    found: list[tuple[float, float]] = []
    since: float | None = None
    for mark in marks:
        if mark.kind == "stirring" and since is not None:
            found.append((since, mark.at_s))
            since = None
        elif mark.kind == "hands-off" and since is None:
            since = mark.at_s
    if since is not None and since < end_s:
        found.append((since, end_s))
    return found


def _of_its_marks(marks: Iterable[HappenedMark]) -> dict[str, float]:
    """What marks tell that no curve does."""
    marks = list(marks)

    def at(kind: str, stage: str = "") -> HappenedMark | None:
        return next((one for one in marks if one.kind == kind and stage in ("", one.stage)), None)

    found: dict[str, float] = {}
    sugar, tempered = at("sugar-on"), at("done", "temper")
    if sugar is not None and tempered is not None:
        found["sugar_waits_s"] = max(0.0, tempered.at_s - sugar.at_s)
    if tempered is not None:
        found["dairy_on"] = 1.0
    film = at("film")
    if film is not None:
        found["film"] = ON_THE_SAUCE
        if film.temperature_c is not None:
            found["film_c"] = film.temperature_c
    off, bubbles = at("off-heat"), at("bubbles")
    if off is not None and bubbles is not None and off.at_s > bubbles.at_s:
        found["boiled_s"] = off.at_s - bubbles.at_s
    known = figures()
    return {name: min(max(value, known[name].least), known[name].most) for name, value in found.items()}
