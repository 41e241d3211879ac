"""How well recipes are read: three corpora of made-up recipes in six languages.

`written_for.txt` was at hand while the reader was written; `held_out.txt` was not. `met_later.txt` was
written when the reader was done: a person judged each recipe line by line at first sight, and what was wrong
was mended. None of them is a blind measure any more; `docs/model/15-reading.md` has the rates at first sight.
Run as
`python -m validation.reading [--wrong]` from `core`.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from custard.errors import CustardError
from custard.larder.eggs import egg_size
from custard.larder.ingredients import all_ingredients
from custard.quantities import grams, read_quantity
from custard.reading import ReadLine, Recipe, Usual, read

HERE = Path(__file__).parent / "recipes"
CORPORA = ("written_for", "held_out", "met_later")
MOMENTS = {
    "d": "in the dairy", "y": "with the yolks", "p": "in the pan", "i": "infused", "o": "off the heat",
    "u": "under it", "f": "folded when cool", "a": "afterwards", "t": "on top",
}  # fmt: skip
NEAR = 0.04
"""Grams within this share are the same: a density differs by so much from book to book."""


@dataclass(frozen=True)
class Wanted:
    """One line as a person reads it: ingredient, amount and moment; "-" for what is not judged."""

    ingredient: str
    amount: str
    moment: str


@dataclass(frozen=True)
class Case:
    """One recipe and what a person reads in it."""

    key: str
    language: str
    family: str
    text: str
    lines: tuple[Wanted, ...]


@dataclass
class Score:
    """What was right of some recipes."""

    recipes: int = 0
    lines: int = 0
    right: int = 0
    families: int = 0
    moments: int = 0
    moments_right: int = 0
    dropped: int = 0
    wrong_and_sure: int = 0
    seconds: float = 0.0
    wrong: list[str] = field(default_factory=list)


def cases(corpus: str) -> Iterator[Case]:
    """The recipes of a corpus."""
    for part in (HERE / f"{corpus}.txt").read_text(encoding="utf-8").split("\n@ ")[0:]:
        head, _, body = part.removeprefix("@ ").partition("\n")
        key, language, family = head.split()
        text, _, wanted = body.partition("\n=\n")
        lines = tuple(
            Wanted(*(cell.strip() for cell in row.split("|"))) for row in wanted.strip().split("\n")
        )
        yield Case(key, language, "" if family == "none" else family, text, lines)


def score(corpus: str) -> Score:
    """What the reader makes of a corpus."""
    total = Score()
    for case in cases(corpus):
        start = time.perf_counter()
        try:
            found = read(case.text, Usual())
        except CustardError as refused:
            total.recipes, total.lines = total.recipes + 1, total.lines + len(case.lines)
            total.dropped += len(case.lines)
            total.wrong.append(f"{case.key}: {refused.sentence()}")
            continue
        total.seconds += time.perf_counter() - start
        _judge(case, found, total)
    return total


def _judge(case: Case, found: Recipe, total: Score) -> None:
    total.recipes += 1
    if found.family == case.family:
        total.families += 1
    else:
        total.wrong.append(f"{case.key}: family {found.family or 'none'}, wanted {case.family} ({found.why})")
    left = list(found.lines)
    for wanted in case.lines:
        total.lines += 1
        line = _matching(wanted, left, found)
        if line is None:
            total.dropped += not any(wanted.ingredient == one.ingredient for one in found.lines)
            total.wrong.append(
                f"{case.key}: missing {wanted}; left {[(one.text, one.ingredient) for one in left]}"
            )
            continue
        left.remove(line)
        if _right(wanted, line, found):
            total.right += 1
        else:
            total.wrong_and_sure += line.sure
            total.wrong.append(
                f"{case.key}: {line.text!r} read {line.ingredient} {line.amount!r}, wanted {wanted}"
            )
        if wanted.moment != "-":
            total.moments += 1
            if line.when == MOMENTS[wanted.moment]:
                total.moments_right += 1
            else:
                total.wrong.append(
                    f"{case.key}: {line.text!r} joins {line.when}, wanted {MOMENTS[wanted.moment]}"
                )
    for extra in left:
        total.wrong.append(f"{case.key}: too many: {extra.text!r} read {extra.ingredient} {extra.amount!r}")


def _matching(wanted: Wanted, left: list[ReadLine], found: Recipe) -> ReadLine | None:
    """The line that a person means: the same ingredient and amount, else one of the two."""
    same = [line for line in left if wanted.ingredient in ("-", line.ingredient)]
    exact = [line for line in same if _right(wanted, line, found)]
    if exact:
        return exact[0]
    if wanted.ingredient != "-" and same:
        return same[0]
    near = [line for line in left if line.amount and _same_amount(wanted.amount, line, found)]
    return near[0] if near else None


def _right(wanted: Wanted, line: ReadLine, found: Recipe) -> bool:
    if wanted.ingredient not in ("-", line.ingredient):
        return False
    return wanted.amount == "-" or _same_amount(wanted.amount, line, found)


def _same_amount(amount: str, line: ReadLine, found: Recipe) -> bool:
    if line.grams is None or not line.ingredient:
        return False
    try:
        thing = all_ingredients()[line.ingredient]
        weight = grams(read_quantity(amount), thing, egg_size(found.eggs), found.measures)
    except CustardError:
        return False
    return abs(weight - line.grams) <= NEAR * max(weight, line.grams)


COLUMNS = ("recipes", "lines", "right", "families", "moments", "dropped", "wrong, sure", "ms each")


def table(scores: dict[str, Score]) -> str:
    """The scores as a table."""
    rows = [f"{'corpus':14}" + "".join(f"{name:>13}" for name in COLUMNS)]
    for name, one in scores.items():
        cells = (
            one.recipes,
            one.lines,
            f"{100 * one.right / one.lines:.1f}%",
            f"{100 * one.families / one.recipes:.1f}%",
            f"{100 * one.moments_right / max(one.moments, 1):.1f}%",
            one.dropped,
            one.wrong_and_sure,
            f"{1000 * one.seconds / one.recipes:.1f}",
        )
        rows.append(f"{name:14}" + "".join(f"{cell!s:>13}" for cell in cells))
    return "\n".join(rows)


def main() -> None:
    """Print the table, and with --wrong what was read otherwise than a person reads it."""
    scores = {corpus: score(corpus) for corpus in CORPORA if (HERE / f"{corpus}.txt").exists()}
    print(table(scores))
    if "--wrong" in sys.argv:
        for name, one in scores.items():
            if f"--only={name}" in sys.argv or not any(arg.startswith("--only=") for arg in sys.argv):
                print(f"\n{name}")
                print("\n".join(one.wrong))


if __name__ == "__main__":
    main()
