"""Exercises that are a question: a slip with one mistake in it, seven yolks, three spoons."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import Texture, texture_at
from custard.conditions import USUAL, Conditions
from custard.figures import Hundredths, Tenths
from custard.formula import Formula
from custard.practice import seen
from custard.practice.acts import ANSWER, END, Act
from custard.practice.exercises import Exercise, exercises, mix_named
from custard.process.heating.state import on_ramp
from custard.vocabulary import Coat, ExerciseKind, FingerLine

MISTAKES = (0.1, 0.33, 3.0, 10.0)
"""A comma moved, a tablespoon read as a teaspoon, the other way round [1]."""
MIXES = ("anglaise", "pastry-cream", "cream")
YOLK, YOLKS = "egg-yolk", 7.0
SPOONS_SHOWN = 3
WORD_ORDER = tuple(Coat)


@dataclass(frozen=True)
class QuestionLine:
    """A line of a slip as it is written [g]; of yolks how many, where that is what is counted."""

    name: str
    grams: Hundredths
    yolks: Tenths | None = None


@dataclass(frozen=True)
class SpoonShown:
    """A spoon as it is seen: its coat [mm], and what the line did."""

    film_mm: Hundredths
    line: FingerLine


@dataclass(frozen=True)
class AskedFor:
    """One thing an answer holds."""

    key: str
    name: str


@dataclass(frozen=True)
class PracticeQuestion:
    """What is asked.

    Attributes
    ----------
    lines : the slip, or the formula to be scaled.
    wants : what an answer holds: its key, and what it is called.
    words : what may be chosen for a spoon.
    spoons : the three spoons.
    """

    lines: tuple[QuestionLine, ...] = ()
    wants: tuple[AskedFor, ...] = ()
    words: tuple[str, ...] = ()
    spoons: tuple[SpoonShown, ...] = ()


class QuestionAttempt:
    """A question, and what was answered; one answer counts."""

    kinds: ClassVar[tuple[str, ...]] = (ExerciseKind.SLIP, ExerciseKind.SCALE, ExerciseKind.SPOONS)

    def __init__(self, exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> None:
        self.exercise, self.seed, self.conditions = exercise, seed, conditions
        draw = np.random.default_rng(seed)
        self.t_s, self.ended = 0.0, False
        self.answered: Act | None = None
        self.right: dict[str, float | str] = {}
        make = {
            ExerciseKind.SLIP: self._slip,
            ExerciseKind.SCALE: self._scale,
            ExerciseKind.SPOONS: self._spoons,
        }[exercise.kind]
        self.question = make(draw)

    def _slip(self, draw: np.random.Generator) -> PracticeQuestion:
        formula = mix_named(MIXES[draw.integers(len(MIXES))]).times(float(draw.choice((1.0, 1.5, 2.0))))
        grams = list(formula.weights_g())
        wrong = int(draw.integers(len(grams)))
        self.right = {"line": float(wrong), "grams": grams[wrong]}
        grams[wrong] *= float(draw.choice(MISTAKES))
        wants = (AskedFor("line", "the line"), AskedFor("grams", "what it should say"))
        return PracticeQuestion(_lines(formula, grams), wants)

    def _scale(self, draw: np.random.Generator) -> PracticeQuestion:
        yolks = float(draw.choice((4, 5, 6, 8, 10)))
        formula = self.exercise.formula
        base = formula.times(yolks / formula.yolks())
        scaled = base.times(YOLKS / yolks)
        wants = []
        for line, grams in zip(scaled.lines, scaled.weights_g(), strict=True):
            if line.ingredient.id != YOLK:
                self.right[line.ingredient.id] = grams
                wants.append(AskedFor(line.ingredient.id, line.ingredient.name))
        return PracticeQuestion(_lines(base, list(base.weights_g()), yolks), wants=tuple(wants))

    def _spoons(self, draw: np.random.Generator) -> PracticeQuestion:
        shown: list[SpoonShown] = []
        result = assess(self.exercise.formula, self.conditions)
        cream = assess(exercises()["turn"].formula, self.conditions)
        words = draw.permutation(len(WORD_ORDER) - 1)[:SPOONS_SHOWN]
        for place, word in enumerate(words):
            texture = _with_word(WORD_ORDER[word], result, cream, draw)
            self.right[f"spoon-{place}"] = texture.word
            shown.append(SpoonShown(texture.film_mm, texture.line))
        wants = tuple(AskedFor(key, f"spoon {place + 1}") for place, key in enumerate(self.right))
        return PracticeQuestion(wants=wants, words=WORD_ORDER, spoons=tuple(shown))

    def on(self, until_s: float) -> None:
        """Let it go on."""
        self.t_s = self.t_s if self.ended else max(self.t_s, until_s)

    def take(self, act: Act) -> None:
        """An answer, or none."""
        self.on(act.at_s)
        if not self.ended and act.do in (ANSWER, END):
            self.answered = act if act.do == ANSWER else None
            self.ended = True

    def can(self) -> tuple[str, ...]:
        """What can be done now."""
        return () if self.ended else (ANSWER, END)

    def given(self, name: str) -> float | str | None:
        """What was answered by a name; None for nothing."""
        if self.answered is None:
            return None
        figure = self.answered.figures.get(name)
        return self.answered.words.get(name) if figure is None else figure

    def picture(self) -> seen.Picture:
        """The question stands in what the exercise is; there is nothing to see change."""
        phase = "ended" if self.ended else "asked"
        return seen.Picture(self.t_s, phase, self.can(), 0.0, (), "", ())


def _lines(formula: Formula, grams: list[float], yolks: float | None = None) -> tuple[QuestionLine, ...]:
    return tuple(
        QuestionLine(
            line.ingredient.name,
            round(mass, 1 if mass < 10 else 0),
            yolks if line.ingredient.id == YOLK else None,
        )
        for line, mass in zip(formula.lines, grams, strict=True)
    )


def _with_word(word: Coat, sauce: Assessment, cream: Assessment, draw: np.random.Generator) -> Texture:
    """A texture of that word on the way up of a sauce, or of a cream once it is thicker than a sauce gets."""
    found: list[Texture] = []
    for result in (sauce, cream):
        p, course = result.conditions.parameters, result.course()
        for at_c in np.linspace(70.0, result.boiling_c - 0.5, 80):
            state = on_ramp(result.pan, course, float(at_c), p)
            for spoon_c in (min(p.spoon.spoon_c, float(at_c)), 20.0):
                shown = texture_at(result.pan, state, spoon_c, spoon_c, p)
                if shown.word == word and state.curdled < 0.02:
                    found.append(shown)
        if found:
            break
    return found[int(draw.integers(len(found)))]
