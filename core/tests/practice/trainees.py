"""Simulated trainees: they see what the screen shows, act five times a second, and know nothing else."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

import numpy as np
from custard import practice
from custard.practice import Act, Picture

STEP_S = 0.2


@dataclass
class Mind:
    """What a trainee remembers from one picture to the next."""

    seen: dict[str, float] = field(default_factory=dict)

    def since(self, what: str, at_s: float) -> float:
        """How long ago something was first noticed [s]; notices it now if never before."""
        return at_s - self.seen.setdefault(what, at_s)

    def every(self, what: str, seconds: float, at_s: float) -> bool:
        """Whether it is time again."""
        if at_s - self.seen.get(what, -1e9) < seconds:
            return False
        self.seen[what] = at_s
        return True


Does = Callable[[Picture, Mind], Iterator[dict]]


def spiral(at_s: float, reach: float = 0.75) -> dict:
    """A whisk that goes all over the pan every few seconds."""
    radius = 0.12 + reach * abs(((at_s / 2.2) % 2) - 1)
    turn = 2 * np.pi * at_s / 1.1
    return {"do": "stir", "x": float(radius * np.cos(turn)), "y": float(radius * np.sin(turn))}


def play(key: str, seed: int, does: Does, longest_s: float = 900.0, exercise=None):
    """An attempt by one trainee: its exercise, seed, acts, and when it ended."""
    exercise = exercise or practice.exercise(key)
    attempt, mind, acts, at_s = practice.begin(exercise, seed), Mind(), [], 0.0
    while at_s < longest_s and not attempt.ended:
        attempt.on(at_s)
        for row in does(attempt.picture(), mind):
            act = Act(round(at_s, 3), row.pop("do"), **_told(row))
            acts.append(act)
            attempt.take(act)
        at_s += STEP_S
    return exercise, seed, tuple(acts), at_s


def _told(row: dict) -> dict:
    return {
        "figures": {name: value for name, value in row.items() if not isinstance(value, str)},
        "words": {name: value for name, value in row.items() if isinstance(value, str)},
    }


def debriefed(key: str, seed: int, does: Does, **more):
    """What is said of it afterwards."""
    return practice.debrief(*play(key, seed, does, **more))


def says(picture: Picture, *texts: str) -> bool:
    """Whether any of some words stands on the screen."""
    return any(text in tell for text in texts for tell in (*picture.tells, picture.said))


def lifts(picture: Picture) -> Iterator[dict]:
    """Off the heat and through the sieve."""
    if "off" in picture.can:
        yield {"do": "off"}
    yield {"do": "out"}


def careful(picture: Picture, mind: Mind) -> Iterator[dict]:
    """Does what the words of a sauce that coats say: stir, watch, dip, lift; turn down, leave it safe."""
    if picture.phase == "away":
        return
    if says(picture, "called away") and "off" in picture.can:
        yield {"do": "off"}
        return
    if says(picture, "You are back") and "on" in picture.can:
        yield {"do": "on"}
    if says(picture, "the flame is loud") and picture.flame > 3:
        yield {"do": "flame", "to": 2.5}
    yield spiral(picture.at_s)
    if says(picture, "drags", "rim of foam", "foam has gone") and mind.every("dip", 8.0, picture.at_s):
        yield {"do": "dip"}
    if (
        picture.spoon is not None
        and picture.spoon.word in ("nappe", "heavy coat")
        and picture.spoon.line == "holds"
    ):
        yield from lifts(picture)


def boils(picture: Picture, mind: Mind) -> Iterator[dict]:
    """Does what the words of a starch cream say: whisk through the turn, turn down, a minute of bubbles."""
    yield spiral(picture.at_s)
    if says(picture, "slow bubbles"):
        mind.seen["bubbling"] = mind.seen.get("bubbling", 0.0) + STEP_S
        if picture.flame >= 4:
            yield {"do": "flame", "to": 2.5}
        if mind.seen["bubbling"] > 60:
            yield from lifts(picture)
    elif "bubbling" in mind.seen and mind.every("up", 6.0, picture.at_s):
        yield {"do": "flame", "to": min(3.9, picture.flame + 0.3)}


def mounds(picture: Picture, mind: Mind) -> Iterator[dict]:
    """Does what the words of a sabayon say, whatever the bath: hotter when nothing happens."""
    yield spiral(picture.at_s)
    if says(picture, "it mounds"):
        yield from lifts(picture)
    elif picture.at_s > 150 and says(picture, "froth") and not says(picture, "steam") and picture.flame < 9:
        yield {"do": "flame", "to": 10.0}


def tempers(picture: Picture, mind: Mind) -> Iterator[dict]:
    """A thread until the bowl is warm, then a stream, whisking all the time."""
    yield spiral(picture.at_s)
    if picture.bowl.left_g <= 0:
        yield {"do": "back"}
    elif "pour" in picture.can and picture.at_s > 1:
        yield {"do": "pour", "g_s": 8.0}
    elif says(picture, "bowl is warm", "bowl is hot") and picture.bowl.g_s < 20:
        yield {"do": "stop"}
        yield {"do": "pour", "g_s": 25.0}


def rescues(picture: Picture, mind: Mind) -> Iterator[dict]:
    """Off, out, cream and blender for fine grains; curds and whey are thrown away."""
    if says(picture, "curds and whey"):
        yield {"do": "throw"}
    elif picture.phase == "heat":
        yield {"do": "off"}
    elif "out" in picture.can:
        yield {"do": "out"}
    elif mind.every("cream", 1e6, picture.at_s):
        yield {"do": "cream", "g": 150.0}
    elif mind.every("blend", 1e6, picture.at_s):
        yield {"do": "blend"}
    else:
        yield {"do": "end"}


def chills(picture: Picture, mind: Mind) -> Iterator[dict]:
    """Shallow, in ice and water, stirred, at once."""
    if mind.every("lay", 1e6, picture.at_s):
        yield {"do": "chill", "by": "ice-bath", "depth_mm": 30.0, "stirred": "yes"}
    else:
        yield {"do": "end"}


FOLLOWS = {
    "nappe": careful,
    "lagging": careful,
    "iron": careful,
    "turned-up": careful,
    "called-away": careful,
    "turn": boils,
    "sabayon": mounds,
    "sabayon-hot": mounds,
    "sabayon-cold": mounds,
    "temper": tempers,
    "rescue": rescues,
    "chill": chills,
}
"""Who does what the words of an exercise say."""
