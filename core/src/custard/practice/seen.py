"""What a cook could see, and nothing else: steps of signs, never a temperature that nobody asked for.

How far foam has drawn back, when milk smells of the base and the like are estimates: they follow what is
computed (setting, steam, viscosity, film, browning), in steps as coarse as an eye is.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.figures import Hundredths, Tenths, TenthsCelsius
from custard.physics.spoon import Film
from custard.physics.texture import WORDS
from custard.practice.exercises import signs
from custard.process.heating import zones
from custard.vocabulary import Coat, FingerLine

Floats = NDArray[np.float64]

STEAM_FLUX = (0.6, 2.2, 5.5)
"""Steam off the surface [g/m2s] from which there is a wisp, a steady cloud, a rolling one: about 50, 72
and 92 degrees in a still kitchen; estimates."""
TRAIL_S = (0.6, 1.2)
"""How long the trail of the whisk stays open [s] when it drags a little, and when it has body."""
FILM = (0.02, 0.25)
"""Film on a spot [0 to 1] that can be seen, and that lies thick."""
BITS_PERCENT = (1.0, 6.0)
SHEEN = (0.01, 0.05, 0.3)
"""Curdled share of the egg at which the sheen goes, it looks grainy, it has split."""
BROWNED = (0.45, 1.0)
TURNED = (0.25, 0.8)
LUMPY = (0.06, 0.2)
LOUD = (0.6,)
"""A flame that gives so much of what the knob can give is heard [1]."""
RIM_K, BUBBLES_K = 9.0, 1.5
"""So far under the boil small bubbles come at the rim, and slow ones break through [K]."""


def step(value: float, levels: tuple[float, ...]) -> int:
    """How many of some levels a figure has come to."""
    return sum(value >= level for level in levels)


@dataclass(frozen=True)
class Spot:
    """A spot of the pan as it looks: film and flecks in steps."""

    film: int
    flecks: int


@dataclass(frozen=True)
class PanSeen:
    """The pan from above. Steps count from 0 for nothing; `trail_s` is None where a trail stays open."""

    foam: Tenths
    steam: int
    trail_s: Tenths | None
    bits: int
    sheen: int
    bubbles: int
    turned: int
    lumps: int
    stands: int | None
    flame: int
    spots: tuple[Spot, ...]


@dataclass(frozen=True)
class Dipped:
    """What the spoon showed: coat [mm], what the line did and how soon it closed [s], the cook's word."""

    at_s: Tenths
    film_mm: Hundredths
    line: FingerLine
    closes_s: Tenths | None
    word: Coat
    say: str


def dipped(at_s: float, film: Film, word: Coat) -> Dipped:
    """What a spoon showed, in words too."""
    if film.line == "holds":
        say = "The line holds."
    elif film.line == "runs" or word == WORDS[0][1]:
        say = "It runs off; no line stays."
    else:
        say = f"The line closed in about {film.closes_s or 1.0:.0f} s."
    return Dipped(at_s, film.film_mm, film.line, film.closes_s, word, say)


def where(spot: int) -> str:
    """A spot of the pan in words, as the cook stands before it."""
    if spot == 0:
        return "in the middle"
    if spot < zones.RINGS[0] + zones.RINGS[1]:
        return f"half way out {('on the right', 'behind', 'on the left', 'in front')[spot - 1]}"
    sides = ("right", "far right", "far side", "far left", "left", "near left", "near side", "near right")
    return f"at the edge, {sides[spot - zones.RINGS[0] - zones.RINGS[1]]}"


def shown(sign: str, level: int, at: str = "") -> str:
    """A step of a sign in words; "" where it is not worth saying."""
    return signs()[sign].shown[level].replace("{where}", at).strip()


def tells(pan: PanSeen, *, starchy: bool, whisked_air: bool) -> tuple[str, ...]:
    """What can be told, most telling last; the same that is drawn, for whoever reads or listens."""
    worst_film = max(range(len(pan.spots)), key=lambda i: pan.spots[i].film)
    worst_base = max(range(len(pan.spots)), key=lambda i: pan.spots[i].flecks)
    foam = 3 if pan.foam <= 0.02 else 2 if pan.foam < 0.35 else 1 if pan.foam < 0.8 else 0
    drag = 3 if pan.trail_s is None else step(pan.trail_s, TRAIL_S)
    told = [shown("flame", pan.flame), shown("steam", pan.steam)]
    if whisked_air and pan.stands is not None:
        told.append(shown("foam-stands", pan.stands))
    else:
        told += [shown("foam", foam), shown("drag", drag)]
    if starchy:
        told += [shown("turn", pan.turned), shown("lumps", pan.lumps)]
    told += [
        shown("bubbles", pan.bubbles),
        shown("film", pan.spots[worst_film].film, where(worst_film)),
        shown("bits", pan.bits),
        shown("sheen", pan.sheen),
        shown("base", pan.spots[worst_base].flecks, where(worst_base)),
    ]
    return tuple(text for text in told if text)


@dataclass(frozen=True)
class BowlSeen:
    """Yolks being tempered: what is in and what is left [g, to ten], and how the bowl feels, in steps."""

    poured_g: Tenths
    left_g: Tenths
    g_s: Tenths
    warm: int
    threads: int


@dataclass(frozen=True)
class TubSeen:
    """Something that cools: how, how deep [mm], stirred or not, how long since it left the heat [s]."""

    by: str
    depth_mm: Tenths
    stirred: bool
    since_s: Tenths
    warm: int


@dataclass(frozen=True)
class Picture:
    """What there is to see at a moment.

    Attributes
    ----------
    at_s : since the start [s].
    phase : "heat", "off", "away", "bowl", "cooling", "asked" or "ended".
    can : what can be done now.
    flame : where the knob stands, 0 to 10.
    tells : the same in words.
    said : what somebody says just now.
    so_far : what went well or badly and could be seen.
    probe_c : what the probe reads, where it is in [degC].
    """

    at_s: Tenths
    phase: str
    can: tuple[str, ...]
    flame: Tenths
    tells: tuple[str, ...]
    said: str
    so_far: tuple[str, ...]
    probe_c: TenthsCelsius | None = None
    pan: PanSeen | None = None
    bowl: BowlSeen | None = None
    tub: TubSeen | None = None
    spoon: Dipped | None = None
