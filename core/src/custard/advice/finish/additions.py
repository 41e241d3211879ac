"""The additions after the heat, in order: grams, what to wait for, where each lands, what comes of it all."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from custard.advice.finish.bowl import FRIDGE_C, Bowl, Row
from custard.advice.finish.drinks import drunk
from custard.advice.finish.folds import fold_in
from custard.advice.finish.kinds import ORDER, fold_of, kind_of
from custard.advice.finish.outcome import Finishing, degrees, grams
from custard.advice.finish.waiting import alcohol
from custard.advice.mix.assess import Assessment
from custard.advice.mix.warnings import splits
from custard.advice.mix.window import EGGLESS_PERCENT
from custard.errors import OutOfRange
from custard.formula import Line
from custard.mixture import blend
from custard.physics import foam, thermal
from custard.process.baking.crust import Crust, crust
from custard.process.baking.cups import POURED_C
from custard.process.cooling.chocolate import MELTED_C, ROOM_C, SHINES, ladles, look, milk_to_shine_g, wetted
from custard.process.heating.pot import Pot, laid_out, stirred
from custard.process.whisking.folding import broken_by_fat
from custard.process.whisking.whisk import whisk
from custard.vocabulary import When

BUTTER_C = 15.0
"""Soft enough to be beaten in in pieces."""
COLD_C = 10.0
"""What is called cold where something sour joins."""
USUAL_DISH_CM = 10.0
HOUR_H, NIGHT_H = 1.0, 12.0


def finishing(result: Assessment, dish_cm: float = USUAL_DISH_CM) -> Finishing:
    """The additions of an assessed formula, in order, and what they come to.

    Parameters
    ----------
    result : the formula as assessed.
    dish_cm : diameter of a dish with a crust [cm].

    Raises
    ------
    OutOfRange
        when the dish cannot be.
    """
    p = result.conditions.parameters
    rows = list(result.formula.joining(*_FINISHES))
    sieved = laid_out(result.pan, _sieved_c(result))
    bowl = Bowl(result, sieved, air_in(result) if result.way.foams and rows else 0.0)
    found: dict[str, list[tuple[int, Line, float]]] = {}
    for row in rows:
        found.setdefault(kind_of(row[1]), []).append(row)
    crusted = crust(dish_cm, p) if "crust" in found else None
    ways = {**_BY_KIND, **_IN_THE_OVEN} if result.way.in_the_oven else _BY_KIND
    if "fold-white" in found:
        # The sugar that is folded in is whipped with the white.
        bowl.sugar = [
            row for row in rows if row[1].when == When.FOLDED and row[1].ingredient.group == "sugar"
        ]
    for kind in ORDER:
        if kind not in found:
            continue
        if kind == "chocolate":
            _onto_chocolate(bowl, found[kind])
            continue
        for row in found[kind]:
            if row not in bowl.sugar:
                ways.get(kind, _stir_in)(bowl, kind, row, crusted)
    dry = tuple(bowl.dry)
    cold_c = p.texture.cold_reference_c
    return Finishing(
        additions=tuple(bowl.done),
        from_c=sieved.at_c,
        alcohol=alcohol(result, bowl.done),
        folded=bowl.folded,
        drinks=tuple(drunk(result.whole, result.stop, cold_c, dry, hours, p) for hours in (HOUR_H, NIGHT_H))
        if dry
        else (),
        crust=crusted,
        finished_g=result.yield_g,
    )


_FINISHES = (When.UNDER_IT, When.OFF_THE_HEAT, When.AFTERWARDS, When.FOLDED, When.ON_TOP)


def _sieved_c(result: Assessment) -> float:
    """How warm it is once it is through the sieve into a bowl of the room's warmth [degC]."""
    p = result.conditions.parameters
    if result.way.in_the_oven:
        # It is raw yet: it goes over what lies in the dish as warm as it was tempered.
        return POURED_C
    if not result.way.may_boil:
        return result.stop.at_c
    mix_j_kgk = float(thermal.heat_capacity(result.pan.proximate, result.stop.at_c))
    bowl_j_kgk = p.temper.bowl_j_kgk
    return (mix_j_kgk * result.stop.at_c + bowl_j_kgk * p.heat.air_c) / (mix_j_kgk + bowl_j_kgk)


def air_in(result: Assessment) -> float:
    """Air in the foam as it comes off the steam [1]; none without egg to hold it.

    So much that its bath never brings it there within an hour is whisked for as long as it takes.
    """
    if result.pan.egg_protein_percent < EGGLESS_PERCENT:
        return 0.0
    try:
        done = whisk(result.pan, ROOM_C, result.stop.at_c, conditions=result.conditions)
    except OutOfRange:
        return float(foam.most_overrun(result.stop.at_c, result.conditions.parameters.foam.best_overrun))
    return float(done.overrun[-1])


def _piece(row: Row, at_c: float) -> Pot:
    return laid_out(blend([(row[1].ingredient, row[2])]), at_c)


def _onto_chocolate(bowl: Bowl, rows: list[Row]) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    pieces = blend([(line.ingredient, g) for _, line, g in rows])
    melted = laid_out(pieces, p.finish.chocolate_c)
    warm = {"chocolate": degrees(p.finish.chocolate_c), "melted": degrees(MELTED_C)}
    if result.way.foams:
        then = stirred(bowl.pot, melted)
        fat_share = float(pieces.mass_g * (pieces.fractions["cocoa_butter"] + pieces.fractions["fat"]))
        left = broken_by_fat(bowl.air, fat_share / then.mass_g, p)
        lost = 0.0 if bowl.air <= 0 else 100 * (1 - left / bowl.air)
        bowl.add("chocolate", rows, then, text="chocolate-foam", words={**warm, "lost": f"{lost:.0f} %"})
        bowl.air = left
        return
    then, poured = ladles(bowl.pot, laid_out(pieces, ROOM_C), p)
    text, words = "chocolate", {**warm, "pours": str(len(poured))}
    if then.at_c < MELTED_C:
        text, words = "chocolate-cold", {**words, "cold": degrees(then.at_c)}
        then, poured = ladles(bowl.pot, melted, p)
        words["pours"] = str(len(poured))
    if look(wetted(then.mixture, p)) != SHINES:
        words["more"] = grams(milk_to_shine_g(then.mixture, p))
    bowl.add("chocolate", rows, then, text=text, ladles=poured, words=words)


def _stir_in(bowl: Bowl, kind: str, row: Row, _: Crust | None) -> None:
    p = bowl.result.conditions.parameters
    wait_c = {"butter": p.finish.butter_c, "spirit": p.finish.spirit_c}.get(kind)
    if kind == "sour" and splits(bowl.result.whole, p):
        wait_c = COLD_C
    elif kind == "sour":
        kind = "other"
    starts_c = {"butter": BUTTER_C, "cream": FRIDGE_C}.get(kind, ROOM_C)
    then = stirred(bowl.cooled_to(wait_c), _piece(row, starts_c))
    bowl.add(kind, [row], then, wait_c=wait_c)


def _stir_in_dry(bowl: Bowl, kind: str, row: Row, _: Crust | None) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    bowl.dry.append((row[1].ingredient, row[2]))
    alone = ((row[1].ingredient, row[2]),)
    cold_c = p.texture.cold_reference_c
    hour, night = (drunk(result.whole, result.stop, cold_c, alone, h, p) for h in (HOUR_H, NIGHT_H))
    words = {"hour": grams(hour.taken_g), "night": grams(night.taken_g), "word": night.word}
    bowl.add(kind, [row], stirred(bowl.pot, _piece(row, ROOM_C)), words=words)


def _gelatine(bowl: Bowl, kind: str, row: Row, _: Crust | None) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    words = {"sets": degrees(p.texture.gelatine_sets_c), "cold": result.cold.word}
    bowl.add(kind, [row], stirred(bowl.pot, _piece(row, ROOM_C)), words=words)


def _poured_over(bowl: Bowl, _: str, row: Row, __: Crust | None) -> None:
    """Cake or bread under a mix that sets in the oven: it is poured on raw, and drinks before and there."""
    result, p = bowl.result, bowl.result.conditions.parameters
    thing = ((row[1].ingredient, row[2]),)
    bowl.dry.append(thing[0])
    oven, night = (drunk(result.whole, result.stop, FRIDGE_C, thing, h, p) for h in (HOUR_H, NIGHT_H))
    words = {"hour": grams(oven.taken_g), "night": grams(night.taken_g), "word": night.word}
    bowl.add("under-raw", [row], stirred(bowl.pot, _piece(row, ROOM_C)), words=words)


def _on_top(bowl: Bowl, kind: str, row: Row, crusted: Crust | None) -> None:
    """It stands on the dish: the bowl is as it was."""
    words = {}
    if crusted is not None and kind == "crust":
        words = {
            "dish": f"{{{crusted.grams:.1f} g}}",
            "diameter": f"{crusted.diameter_cm:g} cm",
            "flame": f"{crusted.flame_s:.0f} s",
            "grill": f"{crusted.grill_s / 60:.0f} min",
            "crisp": f"{crusted.crisp_min:.0f} min",
        }
    bowl.add(kind, [row], bowl.pot, words=words)


_BY_KIND: Mapping[str, Callable[[Bowl, str, Row, Crust | None], None]] = {
    "dry": _stir_in_dry,
    "gelatine": _gelatine,
    **dict.fromkeys((kind for kind in ORDER if fold_of(kind)), fold_in),
    **dict.fromkeys(("crust", "no-crust", "topping"), _on_top),
}
_IN_THE_OVEN: Mapping[str, Callable[[Bowl, str, Row, Crust | None], None]] = {
    "dry": _poured_over,
    "under": _poured_over,
}
"""What differs for a mix that sets in the oven."""
