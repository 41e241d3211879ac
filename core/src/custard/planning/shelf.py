"""What is wanted, from what is there: tubs first, soonest past their time first; what is missing is made."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from custard.figures import Grams

LEAST_G = 1.0
"""Less than this nobody makes a batch for [g]."""


@dataclass(frozen=True)
class Want:
    """So much of a sauce for a dish, at a time.

    Attributes
    ----------
    key : what it is known by.
    sauce : which sauce, by whatever its tubs are known by too.
    grams : how much [g].
    due : when [min].
    """

    key: str
    sauce: str
    grams: Grams
    due: int


@dataclass(frozen=True)
class Tub:
    """What is on the shelf and promised to nobody: which sauce, how much [g], from when until when [min]."""

    key: str
    sauce: str
    grams: Grams
    ready: int
    use_by: int


@dataclass(frozen=True)
class Drawn:
    """So much of a tub for a want [g]."""

    want: str
    tub: str
    grams: Grams


@dataclass(frozen=True)
class ToMake:
    """A batch that is missing: for which wants, how much [g], and when it is first wanted [min]."""

    wants: tuple[str, ...]
    sauce: str
    grams: Grams
    due: int


def shared_out(
    wants: Sequence[Want], tubs: Iterable[Tub], lives: dict[str, int]
) -> tuple[tuple[Drawn, ...], tuple[ToMake, ...]]:
    """What comes out of tubs, and what is to be made.

    Whoever wants first draws first, and from what is past its time soonest. What is missing of one sauce is
    one batch, as long as it is still good when the last of it is wanted.

    Parameters
    ----------
    wants : what is wanted, in order.
    tubs : what there is on the shelf.
    lives : how long each sauce is good once it is ready [min].
    """
    left = {tub.key: tub.grams for tub in tubs}
    there = sorted(tubs, key=lambda tub: (tub.use_by, tub.key))
    drawn: list[Drawn] = []
    missing: list[tuple[Want, float]] = []
    for want in sorted(wants, key=lambda one: (one.due, one.key)):
        needs = want.grams
        for tub in there:
            if tub.sauce != want.sauce or not tub.ready <= want.due <= tub.use_by:
                continue
            takes = min(needs, left[tub.key])
            if takes >= LEAST_G or (takes > 0 and takes >= needs):
                left[tub.key] -= takes
                needs -= takes
                drawn.append(Drawn(want.key, tub.key, takes))
        if needs >= LEAST_G:
            missing.append((want, needs))
    return tuple(drawn), tuple(_batches(missing, lives))


def _batches(missing: Sequence[tuple[Want, float]], lives: dict[str, int]) -> Iterable[ToMake]:
    open_: dict[str, list[tuple[Want, float]]] = {}
    for want, grams in missing:
        mine = open_.setdefault(want.sauce, [])
        if mine and want.due - mine[0][0].due > lives.get(want.sauce, 0):
            yield _batch(mine)
            mine.clear()
        mine.append((want, grams))
    for mine in open_.values():
        yield _batch(mine)


def _batch(parts: Sequence[tuple[Want, float]]) -> ToMake:
    first = parts[0][0]
    return ToMake(tuple(want.key for want, _ in parts), first.sauce, sum(g for _, g in parts), first.due)
