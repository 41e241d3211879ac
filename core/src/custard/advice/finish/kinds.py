"""Which kind of addition a line is, and in what order the kinds join."""

from __future__ import annotations

from collections.abc import Callable

from custard.formula import Line
from custard.larder.ingredients import Ingredient
from custard.process.whisking.folding import BUTTER, CHEESE, NUTS, PUREE, THIN, WHIPPED, WHITE, fold_kind
from custard.vocabulary import When

SPIRIT_PERCENT = 5.0
"""Alcohol from which a thing is a spirit or a wine, to be kept from a flame [g/100 g]."""
SOUR_PERCENT = 0.5

ORDER = (
    "chocolate", "under", "gelatine", "sugar", "other", "cream", "butter", "extract", "spirit", "sour", "dry",
    "fold-white", "fold-cheese", "fold-puree", "fold-pieces", "fold-nuts", "fold-thin", "fold-butter",
    "fold-whipped", "crust", "no-crust", "topping",
)  # fmt: skip
"""Hot things first, what must be cool later, what stands on top last."""


CRUST_PERCENT = 90.0
"""Less sucrose than this melts to no glass: honey and syrups stay wet [g/100 g]."""


def kind_of(line: Line) -> str:
    """The first kind whose question is answered with yes."""
    return next(kind for kind, fits in _KINDS if fits(line, line.ingredient))


def fold_of(kind: str) -> str:
    """Which kind of thing it is that is folded in; "" for a kind that is not."""
    return kind.removeprefix(_FOLD) if kind.startswith(_FOLD) else ""


_FOLD = "fold-"


def _folds(kind: str) -> Callable[[Line, Ingredient], bool]:
    return lambda line, thing: line.when == When.FOLDED and fold_kind(thing) == kind


_KINDS: tuple[tuple[str, Callable[[Line, Ingredient], bool]], ...] = (
    ("crust", lambda line, thing: line.when == When.ON_TOP and thing.composition["sucrose"] >= CRUST_PERCENT),
    ("no-crust", lambda line, thing: line.when == When.ON_TOP and thing.group == "sugar"),
    ("topping", lambda line, _: line.when == When.ON_TOP),
    *((_FOLD + kind, _folds(kind)) for kind in (WHIPPED, WHITE, BUTTER, CHEESE, PUREE, THIN, NUTS)),
    ("fold-pieces", lambda line, _: line.when == When.FOLDED),
    ("dry", lambda line, _: line.when == When.AFTERWARDS),
    ("chocolate", lambda _, thing: thing.is_chocolate),
    ("under", lambda line, _: line.when == When.UNDER_IT),
    ("cream", lambda _, thing: thing.is_milk),
    ("gelatine", lambda _, thing: thing.bloom > 0),
    ("butter", lambda _, thing: thing.is_butter),
    ("cream", lambda _, thing: thing.group == "dairy"),
    ("extract", lambda _, thing: thing.composition["ethanol"] >= SPIRIT_PERCENT and thing.group == "flavour"),
    ("spirit", lambda _, thing: thing.composition["ethanol"] >= SPIRIT_PERCENT),
    ("sour", lambda _, thing: thing.composition["acid"] >= SOUR_PERCENT),
    ("sugar", lambda _, thing: thing.group == "sugar"),
    ("other", lambda _, __: True),
)
