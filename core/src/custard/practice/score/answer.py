"""A question answered."""

from __future__ import annotations

from custard.practice.question import QuestionAttempt
from custard.practice.score.item import Item, Score, Why, in_g, item, scored
from custard.vocabulary import ExerciseKind

NEAR, FAR = 0.05, 0.10
"""An answer within a twentieth is right, within a tenth half right."""


def of_answer(attempt: QuestionAttempt) -> Score:
    """A question answered; one without an answer is not passed."""
    kind = attempt.exercise.kind
    items = (
        _slip(attempt)
        if kind == ExerciseKind.SLIP
        else _scale(attempt)
        if kind == ExerciseKind.SCALE
        else _spoons(attempt)
    )
    wrong_line = kind == ExerciseKind.SLIP and items[0].lost > 0
    return scored(items, spoiled=wrong_line or attempt.answered is None)


def _slip(attempt: QuestionAttempt) -> list[Item]:
    place, grams = int(float(attempt.right["line"])), float(attempt.right["grams"])
    line = attempt.question.lines[place]
    values = {"line": line.name, "right_g": in_g(grams), "shown_g": in_g(line.grams)}
    found, said = attempt.given("line") == place, attempt.given("grams")
    lost = _share(_off(said, grams), 40) if found else 40
    return [
        item(
            "line",
            "the line",
            60,
            0 if found else 60,
            _named(attempt),
            line.name,
            Why("wrong-line", values),
        ),
        item(
            "grams",
            "what it should say",
            40,
            lost,
            _grams(said),
            values["right_g"],
            Why("wrong-line", values),
        ),
    ]


def _scale(attempt: QuestionAttempt) -> list[Item]:
    names = {line.ingredient.id: line.ingredient.name for line in attempt.exercise.formula.lines}
    each, items = 100 / len(attempt.right), []
    for key, right in attempt.right.items():
        said, grams = attempt.given(key), float(right)
        values = {"name": names[key], "right_g": in_g(grams), "given_g": _grams(said)}
        lost = _share(_off(said, grams), each)
        items.append(
            item(
                key,
                names[key],
                each,
                lost,
                values["given_g"],
                values["right_g"],
                Why("wrong-figure", values),
            )
        )
    return items


def _spoons(attempt: QuestionAttempt) -> list[Item]:
    each, items = 100 / len(attempt.right), []
    for place, (key, right) in enumerate(attempt.right.items()):
        said, word = str(attempt.given(key) or "nothing"), str(right)
        values = {"which": str(place + 1), "right": word, "given": said}
        lost = 0 if said == word else each
        items.append(item(key, f"spoon {place + 1}", each, lost, said, word, Why("wrong-word", values)))
    return items


def _named(attempt: QuestionAttempt) -> str:
    line = attempt.given("line")
    lines = attempt.question.lines
    return lines[int(line)].name if isinstance(line, float) and 0 <= line < len(lines) else "none"


def _off(given: float | str | None, right: float) -> float:
    return abs(given / right - 1) if isinstance(given, float) else 1.0


def _share(off: float, of: float) -> float:
    return 0.0 if off <= NEAR else of / 2 if off <= FAR else of


def _grams(given: float | str | None) -> str:
    return in_g(given) if isinstance(given, float) else "nothing"
