"""Why one batch came out other than another: what differed, and how much of the result that explains."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.texture import coat_mm, yield_stress
from custard.advice.stove.live import EYE_LOG_PA
from custard.figures import Millimetres, Percent
from custard.learning.cooked import Cooked
from custard.learning.course import Parts, course_from
from custard.learning.evidence import BITS_PERCENT
from custard.learning.factors import Made, factors_of, made_of
from custard.learning.shares import shares
from custard.mixture import blend
from custard.physics.texture import log_interval
from custard.process.following.replay import Course
from custard.process.heating import kernel, pan
from custard.process.heating.cook import constants
from custard.process.heating.pan import Constants, coefficient
from custard.process.heating.state import sieve_percent, state_of
from custard.process.whisking.whisk import under_foam
from custard.vocabulary import Coat, SieveFound

Floats = NDArray[np.float64]

LEAST_TELLING = np.array([0.06, 1.0])
"""A film so much thicker [mm] weighs as much as so many more curds [%]: about what a cook notices."""


@dataclass(frozen=True)
class Both:
    """A figure of the one and of the other batch."""

    a: float
    b: float


@dataclass(frozen=True)
class Difference:
    """Something in which two batches differ.

    Attributes
    ----------
    what : an ingredient, or "size", "pan", "start", "rate", "stirring", "hold", "lift", "carry-over",
        "cooling".
    unit : the unit of `a` and `b`; "" for words.
    a, b : what it was in each.
    film_mm, bits_percent : how much of the change from the one to the other it explains: film on the spoon
        [mm], curds a sieve would hold [% of the egg].
    """

    what: str
    unit: str
    a: float | str
    b: float | str
    film_mm: Millimetres
    bits_percent: Percent


@dataclass(frozen=True)
class Comparison:
    """Two batches side by side.

    Attributes
    ----------
    film_mm, bits_percent : the film on the spoon and the curds of each: as seen where somebody looked, as
        computed where nobody did.
    differences : in what they differ, what explains most first.
    unexplained_film_mm, unexplained_bits_percent : what is left of the change.
    """

    film_mm: Both
    bits_percent: Both
    differences: tuple[Difference, ...]
    unexplained_film_mm: float
    unexplained_bits_percent: float

    def as_json(self) -> dict[str, object]:
        """As the command prints it."""
        return {
            "film_mm": {"a": round(self.film_mm.a, 3), "b": round(self.film_mm.b, 3)},
            "bits_percent": {"a": round(self.bits_percent.a, 2), "b": round(self.bits_percent.b, 2)},
            "differences": [
                {
                    "what": one.what,
                    "unit": one.unit,
                    "a": one.a,
                    "b": one.b,
                    "film_mm": round(one.film_mm, 3),
                    "bits_percent": round(one.bits_percent, 2),
                }
                for one in self.differences
            ],
            "unexplained": {
                "film_mm": round(self.unexplained_film_mm, 3),
                "bits_percent": round(self.unexplained_bits_percent, 2),
            },
        }


def compare(a: Cooked, b: Cooked) -> Comparison:
    """Why `b` came out other than `a`.

    Each difference is put into the other's cook, with and without all the others; its part is its Shapley
    share. What is seen and not computed is unexplained.

    Parameters
    ----------
    a, b : two batches, of one or of two formulas; of each enough was read to follow its cook.

    Raises
    ------
    OutOfRange
        when too little of one was read.
    """
    one, other = made_of(a), made_of(b)
    factors = factors_of(one, other, lambda made: _cooked(a, made) / LEAST_TELLING)

    def outcome(given: tuple[bool, ...]) -> Floats:
        made = one
        for factor, exchanged in zip(factors, given, strict=True):
            made = factor.put(made, other) if exchanged else made
        return _cooked(a, made)

    parts = shares(len(factors), outcome)
    seen_a, seen_b = _seen(a, one), _seen(b, other)
    left = (seen_b - seen_a) - parts.sum(axis=0)
    found = [
        Difference(one.what, one.unit, one.a, one.b, float(film), float(bits))
        for one, (film, bits) in zip(factors, parts, strict=True)
    ]
    film_mm, bits_percent = LEAST_TELLING
    found.sort(key=lambda one: -(abs(one.film_mm) / film_mm + abs(one.bits_percent) / bits_percent))
    return Comparison(
        Both(float(seen_a[0]), float(seen_b[0])),
        Both(float(seen_a[1]), float(seen_b[1])),
        tuple(found),
        float(left[0]),
        float(left[1]),
    )


def _cooked(batch: Cooked, made: Made, off_log_pa: float = 0.0) -> Floats:
    """The film on the spoon [mm] and the curds [%] that a cook ends with.

    `off_log_pa` is how much thicker it was seen to be than it was computed to be [log Pa].
    """
    conditions = batch.result.conditions
    p = under_foam(conditions.parameters) if batch.result.way.foams else conditions.parameters
    pairs = [(made.things[name], share * made.size_g) for name, share in made.shares.items() if share > 0]
    mixture = blend(pairs)
    kind, share = made.pan
    k = constants(mixture, replace(batch.stove, pan=kind), conditions.by(p))
    k = k._replace(traces=1.0, base_j_k=k.base_j_k * share)
    course = course_from(made.parts, float(k.stirring))
    y = kernel.at_rest(float(course.celsius[0]))
    _follow(k, y, course, made.parts)
    boiled = made.parts.held_s > 0
    state = state_of(y, float(mixture.mass_g), boiled=boiled, undisturbed=batch.result.way.undisturbed)
    spoon_c = p.spoon.spoon_c
    stress = yield_stress(mixture, state, spoon_c, p) * float(np.exp(off_log_pa))
    return np.array([float(coat_mm(mixture, stress, spoon_c, p)), sieve_percent(y)])


def _follow(k: Constants, y: Floats, course: Course, parts: Parts) -> None:
    """Take a state along a course; what set on the base while nobody stirred comes loose afterwards.

    The film on a base that rests is that of a base nobody sweeps, and grows as fast as in the practice pan.
    """
    from_s = -np.inf
    for begin, end in parts.still:
        begins_s, ends_s = begin * parts.warmed_s, end * parts.warmed_s
        course.follow(k, y, from_s, begins_s)
        course.follow(k, y, begins_s, ends_s)
        kernel.thicken(k, y)
        h = coefficient(k, y[kernel.SAUCE_C], y[kernel.YIELD_PA], float(pan.STILL))
        rate, _, _ = kernel.film(k, y, y[kernel.BASE_C], k.renew_still, h, kernel.curdling_c(k, y))
        grown = 1 - np.exp(-(rate + k.renew_still) * (ends_s - begins_s))
        loose = kernel.lies(k, y, y[kernel.BASE_C], h) * grown
        y[kernel.BITS] = 1 - (1 - y[kernel.BITS]) * (1 - loose)
        from_s = ends_s
    course.follow(k, y, from_s)


def _seen(batch: Cooked, made: Made) -> Floats:
    """What was seen of it: as computed where that is within the words, else as near as the words allow."""
    film, bits = _cooked(batch, made, _seen_thicker(batch))
    if batch.sieve:
        few, many = BITS_PERCENT
        low, high = {
            SieveFound.CLEAN: (0.0, few),
            SieveFound.A_FEW_BITS: (few, many),
            SieveFound.MANY_BITS: (many, 100.0),
        }[SieveFound(batch.sieve)]
        bits = float(np.clip(bits, low, high))
    return np.array([film, bits])


def _seen_thicker(batch: Cooked) -> float:
    """How much thicker the last spoon was than computed for that moment, beyond what an eye errs [log Pa]."""
    seen = next((one for one in reversed(batch.spoons) if one.coat), None)
    if seen is None or batch.course is None:
        return 0.0
    y = kernel.at_rest(float(batch.course.celsius[0]))
    batch.course.follow(batch.k, y, to_s=seen.t_s)
    kernel.thicken(batch.k, y)
    computed = float(np.log(max(y[kernel.YIELD_PA], 1e-3)))
    low, high = np.add(log_interval(Coat(seen.coat)), (-EYE_LOG_PA, EYE_LOG_PA))
    return float(np.clip(computed, low, high)) - computed
