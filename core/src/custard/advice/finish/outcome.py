"""What is told of the additions: each row, and what all of them come to."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

from custard.advice.finish.drinks import Drunk
from custard.figures import Grams, Share, TenthsCelsius, WholeSeconds
from custard.larder.tables import document
from custard.process.baking.crust import Crust
from custard.process.cooling.chocolate import Ladle
from custard.process.whisking.folding import Folded
from custard.vocabulary import When


@dataclass(frozen=True)
class Addition:
    """One row of the stage: what joins, and how.

    Attributes
    ----------
    kind : the name of its text.
    when : the moment at which it joins; `lines` its places in the formula.
    wait_c : the sauce is to be below this first [degC]; `wait_s` how long that takes over ice, stirred [s].
    at_c : where the whole then is [degC]; `mass_g` what it then weighs [g].
    say, why : what to do, and the reason, with degrees and grams as "{60 C}" and "{80 g}".
    ladles : the pours onto chocolate.
    alcohol_g, alcohol_kept : alcohol that it brings [g], and the share of it that stays [1].
    """

    kind: str
    when: When
    lines: tuple[int, ...]
    name: str
    grams: Grams
    wait_c: TenthsCelsius | None
    wait_s: WholeSeconds | None
    at_c: TenthsCelsius
    mass_g: Grams
    say: str
    see: tuple[str, ...]
    why: str
    cautions: tuple[str, ...]
    ladles: tuple[Ladle, ...] = ()
    alcohol_g: Grams = 0.0
    alcohol_kept: Share | None = None


@dataclass(frozen=True)
class Alcohol:
    """Alcohol that went in [g], what stays of it and what goes as vapour [g]."""

    given_g: Grams
    kept_g: Grams
    lost_g: Grams


@dataclass(frozen=True)
class Finishing:
    """What is done after the heat, and what comes of it.

    Attributes
    ----------
    additions : in the order in which they join; empty where nothing does.
    from_c : how warm the sauce is once it is through the sieve [degC].
    alcohol : None where there is none.
    folded : None where nothing is folded in.
    drinks : how thick it is after an hour and after a night; empty without dry things.
    crust : None without sugar on top.
    finished_g : all that reaches the dish [g].
    """

    additions: tuple[Addition, ...]
    from_c: TenthsCelsius
    alcohol: Alcohol | None
    folded: Folded | None
    drinks: tuple[Drunk, ...]
    crust: Crust | None
    finished_g: Grams


@cache
def texts() -> dict[str, Any]:
    """The texts by the kind of an addition."""
    return document("finish")


def degrees(value: float | None) -> str:
    """A temperature [degC] for the reader to put into their own unit, to a whole degree."""
    return "" if value is None else f"{{{value:.0f} C}}"


def grams(value: float) -> str:
    """A weight [g], likewise."""
    return f"{{{value:.0f} g}}" if value >= 10 else f"{{{value:.1f} g}}"
