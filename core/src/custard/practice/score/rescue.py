"""A split sauce: saved in time, or thrown away where it is past saving."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from custard.advice.trouble.remedies import rescued
from custard.advice.trouble.remedies.rescued import Rescued
from custard.advice.trouble.story import unknown_story
from custard.practice.rescue import RescueAttempt
from custard.practice.score.item import Score, Why, in_g, item, scored
from custard.process.heating import kernel

SPOILS = 0.35
"""So much of the egg in curds is past what a blender mends [1]."""


def advised(attempt: RescueAttempt) -> Rescued:
    """What Trouble says of it as it stood at the beginning: the same remedy as everywhere else."""
    fresh = RescueAttempt(attempt.exercise, attempt.seed, attempt.conditions)
    story = unknown_story(fresh.result)
    as_it_stood = replace(story, state=fresh.state(), read=True)
    return rescued(fresh.result, "split", as_it_stood, have_g=float(fresh.mixture.mass_g))


def of_rescue(attempt: RescueAttempt) -> Score:
    """A split sauce: saved in time, or thrown away where it is past saving."""
    fresh = RescueAttempt(attempt.exercise, attempt.seed, attempt.conditions)
    advice, done = advised(attempt), attempt.mended
    off_s = attempt.off_s if attempt.off_s is not None else attempt.t_s
    now = float(attempt.y[kernel.CURDLED])
    values = {"percent": f"{100 * fresh.y[kernel.CURDLED]:.0f}", "off_s": f"{off_s:.0f}"}
    if advice.saved == "no":
        yours, lost = ("thrown away", 0.0) if done.thrown else ("kept", 60.0)
        choice = item("choice", "choice", 100, lost, yours, "thrown away", Why("kept-lost", values, at_s=0.0))
        return scored([choice], spoiled=not done.thrown)
    if done.thrown:
        # Thrown away too soon; or rightly, because nobody took it off in time.
        reason = "slow-off" if now > SPOILS else "threw-good"
        choice = item("choice", "choice", 100, 60, "thrown away", "kept", Why(reason, values, at_s=0.0))
        return scored([choice], spoiled=True)
    grams = sum(one.grams for one in advice.add)
    off_by = abs(np.log2(max(done.cream_g / max(grams, 1.0), 1e-3)))
    values |= {"cream_g": in_g(done.cream_g), "advised_g": in_g(grams)}
    out = attempt.out_s is not None
    items = [
        item("choice", "choice", 60, 0, "kept", "kept"),
        item(
            "off",
            "off the heat",
            25,
            2.5 * (off_s - 6),
            f"{off_s:.0f} s",
            "at once",
            Why("slow-off", values, at_s=0.0),
        ),
        item(
            "pan", "the pan", 15, 0 if out else 15, "out" if out else "left in it", "out", Why("still-in-pan")
        ),
        item(
            "cream",
            "cold cream",
            15,
            15 * (off_by - 1),
            values["cream_g"],
            values["advised_g"],
            Why("cream-wrong", values),
        ),
        item(
            "blend",
            "blender",
            35,
            0 if done.blended else 35,
            "yes" if done.blended else "no",
            "yes",
            Why("no-blend"),
        ),
    ]
    return scored(items, spoiled=now > SPOILS)
