"""After an attempt: points, the curve with what was done, what it looked like, what mattered most."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.window import Window
from custard.advice.stove.stages import degrees
from custard.conditions import USUAL, Conditions
from custard.figures import Rounding, Seconds, Tenths, TenthsCelsius
from custard.physics.texture import NAPPE_PA
from custard.practice.acts import DIP, FLAME, REST, STIR, Act
from custard.practice.best import CLEAN_BITS, Best, best_run
from custard.practice.bowl import BowlAttempt
from custard.practice.exercises import Begun, Exercise, sentence
from custard.practice.hob import TICK_S
from custard.practice.pan import PROBE_C, PanAttempt
from custard.practice.played import begin, replayed
from custard.practice.question import QuestionAttempt
from custard.practice.rescue import RescueAttempt
from custard.practice.score import Attempt, Item, advised, best_bowl, best_tub, score
from custard.practice.score.item import clock
from custard.practice.seen import SHEEN, Picture
from custard.practice.tub import TubAttempt
from custard.process.heating import kernel
from custard.process.heating.cook import THICKENED_AT
from custard.vocabulary import Surprise

EVERY_TICKS = 10
AGAIN_BEFORE_S = 12.0
"""So long before what mattered one begins again [s]."""
APART_S = 4.0
SURPRISED_S = 10.0
MOMENTS = 5
CELSIUS = Rounding(2)


@dataclass(frozen=True)
class AttemptCurve:
    """A curve as it is drawn: equally long lists; `base_c` and `probe_c` may be empty."""

    t_s: Annotated[list[float], Rounding(1)]
    sauce_c: Annotated[list[float], CELSIUS]
    base_c: Annotated[list[float], CELSIUS]
    probe_c: Annotated[list[float], CELSIUS]


@dataclass(frozen=True)
class Done:
    """Something done, on the curve."""

    at_s: Seconds
    say: str


@dataclass(frozen=True)
class SeenThen:
    """What it looked like at a moment, and why that moment."""

    at_s: Seconds
    title: str
    picture: Picture


@dataclass(frozen=True)
class Debrief:
    """Everything said afterwards; temperatures in sentences as "{82.4 C}".

    Attributes
    ----------
    points, passed : of a hundred, beside the best run on that hob.
    most : the one sentence on what mattered most; `reason` its name.
    again_s : from where to play again and do better [s]; None where only from the start.
    hidden : what the trainee was not shown.
    window, boiling_c : of the mix [degC], to draw beside the curve; None for a question.
    best : the best run in words; `best_curve` as it goes, where there is one.
    signs : what it teaches once passed without the probe.
    real, real_curve : what really came of a batch that was cooked again, in words and as it was read.
    saved : what would have saved that batch from there, or how much sooner it could still be saved.
    """

    points: int
    passed: bool
    reason: str
    most: str
    items: tuple[Item, ...]
    again_s: Tenths | None
    curve: AttemptCurve
    done: tuple[Done, ...]
    moments: tuple[SeenThen, ...]
    best: str
    best_curve: AttemptCurve
    hidden: str
    window: Window | None
    boiling_c: TenthsCelsius | None
    signs: tuple[str, ...]
    real: str = ""
    real_curve: AttemptCurve = field(default_factory=lambda: AttemptCurve([], [], [], []))
    saved: str = ""


NO_CURVE = AttemptCurve([], [], [], [])


def debrief(
    exercise: Exercise, seed: int, acts: Sequence[Act], until_s: float, conditions: Conditions = USUAL
) -> Debrief:
    """What is said of an attempt once it is over; the same for the same acts, wherever it is asked.

    Parameters
    ----------
    exercise : what is practised.
    seed : chooses what is left to chance; the same seed gives the same answer.
    acts : what the trainee did, in order of time.
    until_s : how long it went on [s].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    attempt = replayed(exercise, seed, acts, until_s, conditions)
    rescued = isinstance(attempt, RescueAttempt)
    best = best_run(attempt) if isinstance(attempt, PanAttempt) and not rescued else None
    judged = score(attempt, best)
    worst = judged.most
    reason = worst.reason if worst is not None and worst.reason else "good"
    values = worst.values if worst is not None else {}
    moments = _moments(attempt)
    fresh = begin(exercise, seed, conditions)
    return Debrief(
        points=judged.points,
        passed=judged.passed,
        reason=reason,
        most=sentence(reason, values),
        items=judged.items,
        again_s=_again_s(attempt, worst),
        curve=_curve(attempt),
        done=tuple(Done(act.at_s, _said(act)) for act in acts if act.do not in (STIR, REST)),
        moments=tuple(_seen(fresh, acts, moments)),
        best=_best(attempt, best),
        best_curve=_best_curve(attempt, best),
        hidden=_hidden(attempt),
        window=None if isinstance(attempt, QuestionAttempt) else attempt.result.window,
        boiling_c=None if isinstance(attempt, QuestionAttempt) else attempt.result.boiling_c,
        signs=exercise.signs if judged.passed and not getattr(attempt, "asked_probe", False) else (),
        real=_real(exercise.begun),
        real_curve=_real_curve(exercise.begun),
        saved=_saved(exercise.begun, attempt, best),
    )


def _again_s(attempt: Attempt, worst: Item | None) -> float | None:
    if worst is None or worst.at_s is None or not isinstance(attempt, PanAttempt | BowlAttempt):
        return None
    return max(0.0, worst.at_s - AGAIN_BEFORE_S) or None


def _curve(attempt: Attempt) -> AttemptCurve:
    if isinstance(attempt, PanAttempt):
        rows = attempt.record()[::EVERY_TICKS]
        t = np.arange(len(rows)) * EVERY_TICKS * TICK_S
        probe = rows[:, PROBE_C].tolist() if attempt.probe_in else []
        return AttemptCurve(
            t.tolist(), rows[:, kernel.SAUCE_C].tolist(), rows[:, kernel.BASE_C].tolist(), probe
        )
    if isinstance(attempt, BowlAttempt):
        bowl = attempt.record()[::EVERY_TICKS]
        return AttemptCurve([row[0] for row in bowl], [row[1] for row in bowl], [], [])
    return _cooled(attempt) if isinstance(attempt, TubAttempt) else NO_CURVE


def _cooled(attempt: TubAttempt) -> AttemptCurve:
    done = attempt.cooling()
    t = np.linspace(0.0, float(done.t_s[-1]), 200)
    return AttemptCurve(t.tolist(), np.interp(t, done.t_s, done.core_c).tolist(), [], [])


def _said(act: Act) -> str:
    if act.do == FLAME:
        return f"flame {act.figures['to']:.0f}"
    if act.do == DIP:
        return "spoon"
    values = [f"{value:g}" for value in act.figures.values()] + list(act.words.values())
    return " ".join((act.do, *values))


def _moments(attempt: Attempt) -> list[tuple[float, str]]:
    """Five moments worth seeing again, in order."""
    if not isinstance(attempt, PanAttempt):
        return [(attempt.t_s, "at the end")]
    record = attempt.record()
    found = [(0.0, "at the start")]

    def first(there: NDArray[np.bool_], title: str) -> None:
        if there.any():
            found.append((float(np.argmax(there)) * TICK_S, title))

    first(record[:, kernel.THICKENED] >= THICKENED_AT, "it begins to set")
    first(record[:, kernel.YIELD_PA] >= NAPPE_PA, "the first coat")
    if attempt.hob.surprise_s is not None:
        found.append((attempt.hob.surprise_s + SURPRISED_S, "ten seconds after the surprise"))
    first(record[:, kernel.CURDLED] >= SHEEN[0], "the sheen goes")
    if attempt.off_s is not None:
        found.append((attempt.off_s, "off the heat"))
    found.append((attempt.t_s, "at the end"))
    apart: list[tuple[float, str]] = []
    for at_s, title in sorted(moment for moment in found if moment[0] <= attempt.t_s):
        if apart and at_s - apart[-1][0] < APART_S:
            # Of two that fall together the later says more.
            apart.pop()
        apart.append((at_s, title))
    kept = apart[-MOMENTS:]
    while 1 < len(kept) < MOMENTS:
        # A short attempt has few turns: what lies between is shown, too.
        longest = max(range(1, len(kept)), key=lambda i: kept[i][0] - kept[i - 1][0])
        middle = (kept[longest - 1][0] + kept[longest][0]) / 2
        kept.insert(longest, (middle, "on the way"))
    return kept


def _seen(fresh: Attempt, acts: Sequence[Act], moments: list[tuple[float, str]]) -> list[SeenThen]:
    """What it looked like at some moments, in one go through the acts."""
    seen, left = [], list(acts)
    for at_s, title in moments:
        while left and left[0].at_s <= at_s:
            fresh.take(left.pop(0))
        fresh.on(at_s)
        seen.append(SeenThen(at_s, title, fresh.picture()))
    return seen


def _best(attempt: Attempt, best: Best | None) -> str:
    if isinstance(attempt, RescueAttempt):
        return advised(attempt).say
    if best is not None:
        lift = clock(best.lift_s)
        held = "" if best.hold_flame is None else f", then at {best.hold_flame:g} through a minute of bubbles"
        lands = degrees(best.peak_c)
        return f"Flame at {best.flame:g}{held}, whisked all over, off at {lift}; it lands at {lands}."
    if isinstance(attempt, BowlAttempt):
        sure = best_bowl(attempt)
        lands = degrees(sure.landing_c)
        return f"A thread until the bowl is warm, then a stream: in {sure.t_s:.0f} s, landing at {lands}."
    if isinstance(attempt, TubAttempt):
        name, run = best_tub(attempt)
        return f"{name[0].upper()}{name[1:]}: cold in {run.cold_s() / 3600:.1f} h."
    return ""


def _best_curve(attempt: Attempt, best: Best | None) -> AttemptCurve:
    if best is not None:
        return AttemptCurve(best.t_s.tolist(), best.sauce_c.tolist(), [], [])
    return _cooled(best_tub(attempt)[1]) if isinstance(attempt, TubAttempt) else NO_CURVE


def _real(begun: Begun | None) -> str:
    """What really came of a batch from there."""
    if begun is None:
        return ""
    hottest = degrees(max(c for _, c in begun.real))
    off = "" if begun.real_off_s is None else f"off the heat after {clock(begun.real_off_s)}, "
    return f"That day: {off}at most {hottest}, {begun.real_bits_percent:.1f} % of the egg in bits."


def _real_curve(begun: Begun | None) -> AttemptCurve:
    if begun is None:
        return NO_CURVE
    return AttemptCurve([t for t, _ in begun.real], [c for _, c in begun.real], [], [])


def _saved(begun: Begun | None, attempt: Attempt, best: Best | None) -> str:
    """What would have saved a batch from there."""
    if begun is None or best is None or not isinstance(attempt, PanAttempt):
        return ""
    if not best.reached or best.bits_percent > CLEAN_BITS:
        least = min(best.bits_percent, begun.real_bits_percent)
        return f"Nothing saves it from there: {least:.1f} % of the egg is in bits at the least. Begin sooner."
    if begun.real_bits_percent <= CLEAN_BITS:
        return "It needed no saving: it came out clean that day."
    if begun.real_off_s is None or best.lift_s >= begun.real_off_s:
        return f"A gentler end saves it: {_best(attempt, best)}"
    sooner = begun.real_off_s - best.lift_s
    return f"Off the heat {sooner:.0f} s sooner saves it: {_best(attempt, best)}"


def _hidden(attempt: Attempt) -> str:
    if not isinstance(attempt, PanAttempt):
        return ""
    hob = attempt.hob
    if attempt.exercise.begun is not None:
        return ""
    gives = 100 * (hob.power - 1)
    said = f"The hob gave {abs(gives):.0f} % {'more' if gives >= 0 else 'less'} than it is taken for"
    if hob.surprise_s is not None:
        what = (
            "it was turned up" if attempt.exercise.surprise == Surprise.TURNED_UP else "you were called away"
        )
        said += f"; {what} at {clock(hob.surprise_s)}"
    return f"{said}."
