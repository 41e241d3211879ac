"""The Slip as a mise en place is laid out: pan, yolk bowl and finish tray, each with a tare of its own."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from custard.advice.bench.schools import answers, sugar_in_bowl
from custard.figures import Hundredths, Share
from custard.formula import Formula
from custard.process.heating.temper import share_in_bowl, sides
from custard.vocabulary import Laid

NOTHING_G = 1e-9


@dataclass(frozen=True)
class Weighing:
    """One thing to weigh out.

    Attributes
    ----------
    line : its place in the formula.
    laid : "pan", "yolk bowl" or "finish tray".
    share : share of the line that is weighed here [1]; the rest is weighed elsewhere.
    grams : what is weighed [g]; `tare_g` what stands in this bowl with it [g].
    """

    line: int
    laid: Laid
    share: Share
    grams: Hundredths
    tare_g: Hundredths


def weighings(formula: Formula, schools: Mapping[str, str] | None = None) -> tuple[Weighing, ...]:
    """Everything to weigh out, bowl by bowl; a line that goes two ways is weighed twice.

    Where nothing is tempered all that is heated goes into the one pan or bowl.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    schools : what was chosen where good cooks disagree, school by question.

    Raises
    ------
    UnknownName
        when a school is not one.
    """
    chosen = answers(formula, schools or {})
    tempered = chosen.get("temper") not in (None, "none") and sides(formula) is not None
    sugar = sugar_in_bowl(chosen)
    found: dict[Laid, list[tuple[int, float, float]]] = {Laid.PAN: [], Laid.BOWL: [], Laid.TRAY: []}
    for index, (line, grams) in enumerate(zip(formula.lines, formula.weights_g(), strict=True)):
        if line.join.finishes:
            found[Laid.TRAY].append((index, 1.0, grams))
            continue
        share = share_in_bowl(line, sugar) if tempered and line.join.heated else 0.0
        found[Laid.PAN].append((index, 1 - share, (1 - share) * grams))
        found[Laid.BOWL].append((index, share, share * grams))
    weighed = []
    for laid, parts in found.items():
        tare = 0.0
        for index, share, grams in parts:
            if grams <= NOTHING_G:
                continue
            tare += grams
            weighed.append(Weighing(index, laid, share, grams, tare))
    return tuple(weighed)
