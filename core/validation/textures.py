"""Rows of textures: sauces, creams, gels and foams."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from custard.advice.bench.solve import with_missing_yolks
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import Texture, texture_at, yield_stress
from custard.advice.trouble.answer import answer
from custard.formula import Formula
from custard.mixture import mix
from custard.process.heating.cook import Stove
from custard.process.heating.state import on_ramp
from custard.process.whisking.whisk import whisk

from validation.mixes import (
    BASE,
    CREAM,
    CREMEUX,
    CUPS,
    FILLING,
    LEAN_BASE,
    LESS_CHOCOLATE,
    POURED,
    RICH_CUPS,
    SIX,
    anglaise,
    of,
    pastry,
    sabayon,
)
from validation.row import Row, of_assessment

COLD_C = 4.0


def rows() -> Iterator[Row]:
    """What a sauce, a cream, a gel and a foam are like."""
    yield from _sauces()
    yield from _between()
    yield from _foams()


def _sauces() -> Iterator[Row]:
    yield Row("anglaise at nappe, hot", "Pa", 1, 3, of_assessment(anglaise(), _hot))
    yield Row("anglaise at nappe, cold", "Pa", 2, 6, of_assessment(anglaise(), _cold))
    yield Row(
        "anglaise at nappe, hot, flows at",
        "Pa·s",
        0.03,
        0.12,
        of_assessment(anglaise(), lambda r: r.hot.viscosity_pa_s),
    )
    yield Row(
        "anglaise at nappe, cold, flows at",
        "Pa·s",
        0.1,
        0.5,
        of_assessment(anglaise(), lambda r: r.cold.viscosity_pa_s),
    )
    yield Row("anglaise 3 K over, hot", "Pa", 3, 9, lambda: _over(anglaise(), 3))
    yield Row("anglaise 3 K over, cold", "Pa", 6, 20, lambda: _over(anglaise(), 3, COLD_C))
    yield Row(
        "rich anglaise 3 K over, cold",
        "Pa",
        6,
        20,
        lambda: _over(anglaise(12, 220), 3, COLD_C),
        held_out=True,
    )
    yield Row("custard of 48 % cream, cold", "Pa", 15, 60, of_assessment(CREAM, _cold))
    yield Row("pastry cream, hot", "Pa", 10, 40, of_assessment(pastry(), _hot))
    yield Row("pastry cream, cold", "Pa", 80, 300, of_assessment(pastry(), _cold))
    yield Row("pastry cream, cold, whisked", "Pa", 40, 120, of_assessment(pastry(), _whisked))
    flour = pastry("wheat-flour", 55)
    yield Row("pastry cream of flour, cold", "Pa", 60, 300, of_assessment(flour, _cold), held_out=True)
    potato = pastry("potato-starch", 32)
    yield Row(
        "pastry cream of potato starch, cold", "Pa", 60, 300, of_assessment(potato, _cold), held_out=True
    )
    yield Row("baked whole-egg custard, cold", "Pa", 250, 1000, of_assessment(CUPS, _cold))
    yield Row("baked rich cream, cold", "Pa", 150, 600, of_assessment(RICH_CUPS, _cold))
    yield Row("crémeux, 180 g of 65 % chocolate, cold", "Pa", 80, 400, of_assessment(CREMEUX, _cold))
    yield Row("ice base, aged", "Pa", 1, 5, of_assessment(BASE, _cold))
    yield Row(
        "ice base, aged, flows at", "Pa·s", 0.1, 0.5, of_assessment(BASE, lambda r: r.cold.viscosity_pa_s)
    )
    yield Row("lean ice base, aged", "Pa", 1, 5, of_assessment(LEAN_BASE, _cold), held_out=True)
    yield Row("one yolk of six replaced, starch", "g", 3, 5, _replaced)
    yield Row("600 g of anglaise 3 K over, cream to thin it", "g", 40, 150, lambda: _thinned(3))
    yield Row("the same 4 K over", "g", 40, 200, lambda: _thinned(4), held_out=True)
    less, more = (of_assessment(anglaise(8, 150, grams), _cold) for grams in (0, 4))
    yield Row("4 g of starch in a litre, cold, firmer by", "Pa", 0, 3, lambda: more() - less(), held_out=True)


def _between() -> Iterator[Row]:
    """From remembered rheology of dishes that nothing was fitted to."""
    # What is remembered of starchy ones was measured in a viscometer, which stirs them first.
    soft = pastry(grams=34)
    rows: tuple[tuple[str, str, float, float, Callable[[], float]], ...] = (
        ("custard of 3 % starch, cold, whisked", "Pa", 5, 20, of_assessment(POURED, _whisked)),
        ("custard of 3 % starch, cold, flows at", "Pa·s", 0.5, 2, _read(POURED, COLD_C, _flow)),
        ("custard of 3 % starch at {70 C}, flows at", "Pa·s", 0.2, 0.5, _read(POURED, 70, _flow)),
        ("pastry cream of 4.5 % starch, cold, whisked", "Pa", 20, 60, of_assessment(soft, _whisked)),
        ("crémeux of 15 % chocolate, cold", "Pa", 15, 150, _read(LESS_CHOCOLATE, COLD_C, _stress)),
        ("lean ice base, aged, flows at", "Pa·s", 0.1, 0.5, _read(LEAN_BASE, COLD_C, _flow)),
    )
    for what, unit, low, high, compute in rows:
        yield Row(what, unit, low, high, compute, held_out=True)
    yield Row(
        "anglaise at {20 C}, flows at",
        "Pa·s",
        0.03,
        0.15,
        _read(anglaise(), 20, _flow),
        held_out=True,
        gap="a sauce thickens sooner as it cools than is remembered",
    )
    yield Row(
        "filling, cooked on, {20 C}",
        "Pa",
        20,
        150,
        _read(FILLING, 20, _stress),
        held_out=True,
        gap="milk solids that set with the egg, and dry additions that drink water, are not in the model",
    )


def _read(formula: Formula, at_c: float, figure: Callable[[Texture], float]) -> Callable[[], float]:
    """A figure of the whole at a temperature [degC]."""

    def compute() -> float:
        result = assess(formula)
        return figure(texture_at(result.whole, result.stop, at_c, at_c, result.conditions.parameters))

    return compute


def _stress(told: Texture) -> float:
    return told.yield_stress_pa


def _flow(told: Texture) -> float:
    return told.viscosity_pa_s


def _replaced() -> float:
    fewer = with_missing_yolks(of("anglaise", *SIX), 5)[1].formula
    weighed = zip(fewer.lines, fewer.weights_g(), strict=True)
    return sum(grams for line, grams in weighed if line.ingredient.id == "cornstarch")


def _thinned(over_k: float) -> float:
    found = answer(assess(of("anglaise", *SIX)), "too-thick", said={"over_stop_k": over_k}, have_g=600)
    return sum(one.grams for one in found.now.add)


def _foams() -> Iterator[Row]:
    def foam(at_c: float, figure: str = "yield_stress_pa", wine: str = "fortified-wine-sweet") -> float:
        done = whisk(mix(sabayon(wine)), 20, at_c)
        values = getattr(done, figure)
        return float(values if figure == "weeps_per_h" else values[-1])

    yield Row("sabayon at ribbons, {70 C}", "Pa", 1, 10, lambda: foam(70))
    yield Row("sabayon at {82 C}", "Pa", 5, 25, lambda: foam(82))
    yield Row("sabayon at {72 C}, volume over the mix", "1", 2.5, 4.5, lambda: 1 + foam(72, "overrun"))
    yield Row("sabayon at {72 C}, weeps", "% an hour", 0, 30, lambda: 100 * foam(72, "weeps_per_h"))
    yield Row(
        "sabayon of dry wine at {70 C}", "Pa", 1, 10, lambda: foam(70, wine="white-wine-12"), held_out=True
    )
    yield Row("sabayon over a bare simmer", "min", 5, 12, lambda: foam(74, "t_s") / 60)

    def rolling() -> float:
        fast = whisk(mix(sabayon()), 20, 74, stove=Stove(3000, stir="whisk", over_steam=True))
        return float(foam(74, "t_s") / fast.t_s[-1])

    yield Row("the same over a rolling boil, times as fast", "1", 1.2, 3, rolling, held_out=True)


def _over(formula: Formula, by_k: float, read_c: float | None = None) -> float:
    """Yield stress of a sauce taken past its stop [Pa], hot or at another temperature [degC]."""
    result = assess(formula)
    state = on_ramp(result.pan, result.course(), result.stop.at_c + by_k, result.conditions.parameters)
    at_c = state.at_c if read_c is None else read_c
    return yield_stress(result.pan, state, at_c, result.conditions.parameters)


def _hot(result: Assessment) -> float:
    return result.hot.yield_stress_pa


def _cold(result: Assessment) -> float:
    return result.cold.yield_stress_pa


def _whisked(result: Assessment) -> float:
    return 0.0 if result.whisked is None else result.whisked.yield_stress_pa
