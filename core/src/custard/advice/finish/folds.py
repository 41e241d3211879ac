"""What is folded in: each by its own kind, as it is then and as it is cold."""

from __future__ import annotations

from custard.advice.finish.bowl import FRIDGE_C, Bowl, Row
from custard.advice.finish.kinds import fold_of
from custard.advice.mix.texture import gel_pa, yield_stress
from custard.mixture import blend
from custard.physics import foam
from custard.process.baking.crust import Crust
from custard.process.cooling.chocolate import ROOM_C
from custard.process.heating.pot import Pot, laid_out, stirred
from custard.process.whisking.folding import (
    BUTTER,
    CHEESE,
    NUTS,
    PIECES,
    PUREE,
    THIN,
    WHIPPED,
    WHITE,
    Base,
    folded,
)

SETS_BELOW_C = 40.0
"""A starch cream that was colder than this has set, and was whisked smooth again."""


def fold_in(bowl: Bowl, kind: str, row: Row, _: Crust | None) -> None:
    """Fold one thing into what stands in the bowl."""
    result, p = bowl.result, bowl.result.conditions.parameters
    fold = fold_of(kind)
    # Hot starch cream sets the bubbles of a white; everything else is folded in cool.
    hot = fold == WHITE and result.stop.boiled
    wait_c = None if hot else p.finish.butter_joins_c if fold == BUTTER else p.finish.fold_c
    into = laid_out(blend([(line.ingredient, g) for line, g in bowl.whipped_with(row)]), _FOLDS_AT_C[fold])
    base = bowl.cooled_to(wait_c)
    done = folded(_base(bowl, base), into, fold, p)
    words = {
        "volume": f"{done.volume_ml:.0f} ml",
        "lost": f"{100 * (1 - done.overmixed_kept):.0f} %",
        "word": done.word,
        "cold": done.cold_word,
    }
    rows = [row, *(bowl.sugar if fold == WHITE and bowl.folded is None else ())]
    if fold == NUTS:
        bowl.dry.append((row[1].ingredient, row[2]))
    text = f"{kind}-hot" if hot else kind
    bowl.add(kind, rows, stirred(base, into), wait_c=wait_c, text=text, words=words)
    bowl.folded, bowl.air = done, done.volume_ratio - 1


_FOLDS_AT_C = {
    **dict.fromkeys((WHIPPED, THIN, CHEESE, PUREE), FRIDGE_C),
    **dict.fromkeys((BUTTER, WHITE, NUTS, PIECES), ROOM_C),
}


def _base(bowl: Bowl, pot: Pot) -> Base:
    """What stands in the bowl, as something is folded into it."""
    if bowl.folded is not None:
        before = bowl.folded
        return Base(pot, bowl.air, before.yield_stress_pa, before.cold_pa or before.yield_stress_pa)
    result, p = bowl.result, bowl.result.conditions.parameters

    def stiff(at_c: float) -> float:
        gel = gel_pa(result.whole, at_c, p)
        found = yield_stress(result.whole, result.stop, at_c, p) - gel
        if result.whisked is not None and pot.at_c < SETS_BELOW_C:
            found *= p.texture.whisked_share
        if bowl.air > 0:
            share = foam.air_fraction(bowl.air)
            found += float(foam.foam_yield(share, p.foam.tension_n_m, p.foam.bubble_m, p.foam.wide_pa_scale))
        return found + gel

    # Gelatine sets after the folding, whatever the whisk did before.
    now = stiff(pot.at_c) - gel_pa(result.whole, pot.at_c, p)
    return Base(pot, bowl.air, now, stiff(FRIDGE_C))
