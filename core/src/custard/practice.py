"""The practice table: what cooks find, beside what is computed. Tests, command and docs/model read the same.

Ranges are practice and literature as remembered, not looked up. The parameters were fitted to the rows that
are not held out; those that are were left aside meanwhile and only looked at afterwards.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from custard.advice.bench.solve import with_missing_yolks
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.advice.trouble.rescue import curds, rescue
from custard.conditions import Conditions
from custard.figures import Pascals, plain
from custard.formats.formula_json import read_formula
from custard.formula import Formula
from custard.larder.words import plain_degrees
from custard.mixture import Mixture, mix
from custard.process import kernel
from custard.process.bake import bake
from custard.process.chill import chill
from custard.process.cook import Cook, Stove, cook
from custard.process.ramp import first_reach
from custard.process.state import on_ramp
from custard.process.temper import temper
from custard.process.whisk import whisk

COLD_C = 4.0


@dataclass(frozen=True)
class Row:
    """One thing cooks find: in which range, and how it is computed; `held_out` from fitting."""

    what: str
    unit: str
    low: float
    high: float
    compute: Callable[[], float]
    held_out: bool = False


@dataclass(frozen=True)
class Found:
    """A row with what was computed of it [its unit], and whether that is what cooks find."""

    what: str
    unit: str
    low: float
    high: float
    held_out: bool
    computed: Pascals
    inside: bool


def table() -> list[Found]:
    """Every row, computed now."""
    return [_found(row) for row in rows()]


def _found(row: Row) -> Found:
    value = float(row.compute())
    inside = row.low <= value <= row.high
    return Found(plain_degrees(row.what), row.unit, row.low, row.high, row.held_out, value, inside)


def told() -> dict[str, object]:
    """The table as plain data, and how much of it is inside."""
    found = table()
    held = [row for row in found if row.held_out]
    return {
        "rows": plain(found),
        "inside": sum(row.inside for row in found),
        "of": len(found),
        "held_out_inside": sum(row.inside for row in held),
        "held_out": len(held),
    }


def of(family: str, *lines: tuple[str, object], **more: str) -> Formula:
    """A formula in short."""
    written = [{"ingredient": name, "amount": str(amount)} for name, amount in lines]
    head = {"format": "old-spoon/formula", "version": 1, "name": "practice", "family": family}
    return read_formula({**head, **more, "lines": written})


def anglaise(yolks: float = 8, sugar_g: float = 150, starch_g: float = 0) -> Formula:
    """A litre of milk with yolks, sugar, and perhaps starch."""
    starch = [("cornstarch", f"{starch_g} g")] if starch_g else []
    return of(
        "anglaise", ("whole-milk", "1 l"), ("egg-yolk", yolks), ("white-sugar", f"{sugar_g} g"), *starch
    )


def pastry(starch: str = "cornstarch", grams: float = 45, sugar_g: float = 100) -> Formula:
    """Half a litre of milk, five yolks, and a starch."""
    milk, yolk = ("whole-milk", "500 ml"), ("egg-yolk", 5)
    return of("pastry-cream", milk, yolk, ("white-sugar", f"{sugar_g} g"), (starch, f"{grams} g"))


SIX = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")
CUPS = of("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", 4), ("white-sugar", "80 g"))
RICH_CUPS = of("baked-custard", ("whipping-cream-36", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g"))
CREAM = of("burnt-cream", ("double-cream-48", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g"))
CREMEUX = of(
    "cremeux",
    ("whole-milk", "250 ml"),
    ("whipping-cream-36", "250 ml"),
    ("egg-yolk", 5),
    ("white-sugar", "50 g"),
    ("dark-chocolate-65", "180 g"),
)
BASE = of(
    "ice-base",
    ("whole-milk", "500 ml"),
    ("whipping-cream-36", "250 ml"),
    ("egg-yolk", 6),
    ("white-sugar", "150 g"),
)
LEAN_BASE = of(
    "ice-base",
    ("whole-milk", "600 ml"),
    ("whipping-cream-36", "300 ml"),
    ("egg-yolk", 4),
    ("white-sugar", "170 g"),
)
FILLING = of("milk-filling", ("evaporated-milk", "400 g"), ("egg-yolk", 5), ("white-sugar", "235 g"))


def sabayon(wine: str = "fortified-wine-sweet") -> Formula:
    """Six yolks, sugar and wine."""
    return of("sabayon", ("egg-yolk", 6), ("white-sugar", "100 g"), (wine, "150 ml"))


def _stove(power_w: float = 350, **more: object) -> Stove:
    return Stove(power_w=power_w, **more)  # type: ignore[arg-type]


def _sauce() -> Mixture:
    return mix(of("anglaise", ("whole-milk", "530 g"), ("egg-yolk", "85 g"), ("white-sugar", "85 g")))


def _over(formula: Formula, by_k: float, read_c: float | None = None) -> float:
    """Yield stress of a sauce taken past its stop [Pa], hot or at another temperature [degC]."""
    result = assess(formula)
    state = on_ramp(result.pan, result.course(), result.stop.at_c + by_k, result.conditions.parameters)
    at_c = state.at_c if read_c is None else read_c
    return yield_stress(result.pan, state, at_c, result.conditions.parameters)


def _window(formula: Formula, name: str, **conditions: float) -> Callable[[], float]:
    def compute() -> float:
        found = getattr(assess(formula, Conditions(**conditions)).window, name)  # type: ignore[arg-type]
        return 200.0 if found is None else float(found)

    return compute


def _of(formula: Formula, figure: Callable[[Assessment], float]) -> Callable[[], float]:
    return lambda: figure(assess(formula))


def _hot(result: Assessment) -> float:
    return result.hot.yield_stress_pa


def _cold(result: Assessment) -> float:
    return result.cold.yield_stress_pa


def _stop(result: Assessment) -> float:
    return result.stop.at_c


def _whisked(result: Assessment) -> float:
    return 0.0 if result.whisked is None else result.whisked.yield_stress_pa


def _cooked(lift_c: float, start_c: float = 60, **stove: object) -> Cook:
    return cook(_sauce(), start_c, lift_c, _stove(**stove))  # type: ignore[arg-type]


def _minutes(found: Cook) -> float:
    return 999.0 if found.lift_s is None else found.lift_s / 60


def _carry(pan: str) -> Callable[[], float]:
    return lambda: cook(_sauce(), 65, 80, _stove(pan=pan), left_in_pan_s=240).peak_c - 80


def _steamed(start_c: float) -> Callable[[], float]:
    return lambda: _minutes(cook(_sauce(), start_c, 80, _stove(1500, over_steam=True)))


def _iced(cream: Mixture, mass_g: float, depth_mm: float) -> Callable[[], float]:
    return lambda: _cooled(cream, mass_g, depth_mm, "ice-bath", 95, 57)


def _cooled(
    mixture: Mixture, mass_g: float, depth_mm: float, by: str, from_c: float, left_c: float, **more: bool
) -> float:
    """Hours in which the warmest spot goes from one temperature to 21 degC, cooled from another."""
    found = chill(mixture, from_c, 5, by, mass_g, depth_mm, **more)  # type: ignore[arg-type]
    below = [float(found.t_s[found.core_c <= level][0]) for level in (left_c, 21.0)]
    return (below[1] - below[0]) / 3600


def rows() -> Iterator[Row]:
    """Every row of the table."""
    yield from _windows()
    yield from _textures()
    yield from _foams()
    yield from _kitchens()


def _windows() -> Iterator[Row]:
    for yolks, sugar_g in ((5, 100), (8, 150), (10, 200)):
        name, mixed = f"anglaise of {yolks} yolks and {sugar_g} g of sugar a litre", anglaise(yolks, sugar_g)
        yield Row(f"{name}, nappe", "°C", 80, 84, _window(mixed, "nappe_c"))
        yield Row(f"{name}, curdles", "°C", 85, 88, _window(mixed, "curdles_c"))
        yield Row(
            f"{name}, curdles on a fast flame",
            "°C",
            86,
            92,
            _window(mixed, "curdles_c", rate_k_per_min=10),
            held_out=True,
        )
    yolk = of("anglaise", ("egg-yolk", "100 g"))
    yield Row("plain yolk, thickens", "°C", 63, 67, _window(yolk, "thickens_c"))
    egg = of("baked-custard", ("whole-egg", "100 g"))
    four = Conditions(rate_k_per_min=4)
    yield Row("beaten whole egg, half set", "°C", 70, 73, lambda: _half_set(egg, four))
    series = of(
        "baked-custard",
        ("whole-egg", 1),
        ("whole-milk", "1 cup"),
        ("white-sugar", "2 tbsp"),
        eggs="US-large",
        measures="us",
    )
    yield Row(
        "1 egg, 1 cup of milk, 2 spoons of sugar, half set", "°C", 79, 83, lambda: _half_set(series, four)
    )
    yield Row("ice base of 6 yolks, stop", "°C", 82, 86, _of(BASE, _stop))
    yield Row("lean ice base of 4 yolks, stop", "°C", 82, 86, _of(LEAN_BASE, _stop))
    yield Row("filling of evaporated milk, stop", "°C", 87, 93, _of(FILLING, _stop))
    condensed = of("milk-filling", ("condensed-milk", "400 g"), ("egg-yolk", 5))
    yield Row("filling of condensed milk, stop", "°C", 87, 95, _of(condensed, _stop), held_out=True)
    one = of("pouring-custard", *SIX, ("cornstarch", "7 g"))
    yield Row("custard with 1 % of starch, stop", "°C", 90, 98, _of(one, _stop))
    yield Row("custard with 1 % of starch, curdles", "°C", 93, 99, _window(one, "curdles_c"), held_out=True)
    yield Row(
        "pastry cream, curdled after its boil", "%", 0, 5, _of(pastry(), lambda r: 100 * r.stop.curdled)
    )
    slow, fast = (_window(anglaise(), "thickens_c", rate_k_per_min=rate) for rate in (1, 10))
    yield Row(
        "a ten times faster flame, thickens later by", "K", 4, 9, lambda: fast() - slow(), held_out=True
    )
    yield Row("the same, room from nappe to curdling", "K", 2, 8, lambda: _room(10), held_out=True)
    for wine in ("fortified-wine-sweet", "white-wine-12"):
        yield Row(f"sabayon of {wine}, coats", "°C", 68, 78, _window(sabayon(wine), "nappe_c"))
        yield Row(f"sabayon of {wine}, curdles", "°C", 82, 85, _window(sabayon(wine), "curdles_c"))
    honeyed = of("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("honey", "110 g"))
    yield Row("anglaise with honey, nappe", "°C", 78, 84, _window(honeyed, "nappe_c"), held_out=True)


def _half_set(formula: Formula, conditions: Conditions) -> float:
    course = assess(formula, conditions).course()
    return first_reach(course.temperature_c, course.thickened, 0.5) or 0.0


def _room(rate: float) -> float:
    window = assess(anglaise(), Conditions(rate_k_per_min=rate)).window
    return (window.curdles_c or 0.0) - (window.nappe_c or 0.0)


def _textures() -> Iterator[Row]:
    yield Row("anglaise at nappe, hot", "Pa", 1, 3, _of(anglaise(), _hot))
    yield Row("anglaise at nappe, cold", "Pa", 2, 6, _of(anglaise(), _cold))
    yield Row(
        "anglaise at nappe, hot, flows at",
        "Pa·s",
        0.03,
        0.12,
        _of(anglaise(), lambda r: r.hot.viscosity_pa_s),
    )
    yield Row(
        "anglaise at nappe, cold, flows at",
        "Pa·s",
        0.1,
        0.5,
        _of(anglaise(), lambda r: r.cold.viscosity_pa_s),
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
    yield Row("custard of 48 % cream, cold", "Pa", 15, 60, _of(CREAM, _cold))
    yield Row("pastry cream, hot", "Pa", 10, 40, _of(pastry(), _hot))
    yield Row("pastry cream, cold", "Pa", 80, 300, _of(pastry(), _cold))
    yield Row("pastry cream, cold, whisked", "Pa", 40, 120, _of(pastry(), _whisked))
    flour = pastry("wheat-flour", 55)
    yield Row("pastry cream of flour, cold", "Pa", 60, 300, _of(flour, _cold), held_out=True)
    potato = pastry("potato-starch", 32)
    yield Row("pastry cream of potato starch, cold", "Pa", 60, 300, _of(potato, _cold), held_out=True)
    yield Row("baked whole-egg custard, cold", "Pa", 250, 1000, _of(CUPS, _cold))
    yield Row("baked rich cream, cold", "Pa", 150, 600, _of(RICH_CUPS, _cold))
    yield Row("crémeux, 180 g of 65 % chocolate, cold", "Pa", 80, 400, _of(CREMEUX, _cold))
    yield Row("ice base, aged", "Pa", 1, 5, _of(BASE, _cold))
    yield Row("ice base, aged, flows at", "Pa·s", 0.1, 0.5, _of(BASE, lambda r: r.cold.viscosity_pa_s))
    yield Row("lean ice base, aged", "Pa", 1, 5, _of(LEAN_BASE, _cold), held_out=True)
    yield Row("one yolk of six replaced, starch", "g", 3, 5, _replaced)
    yield Row("600 g of anglaise 3 K over, cream to thin it", "g", 40, 150, lambda: _thinned(3))
    yield Row("the same 4 K over", "g", 40, 200, lambda: _thinned(4), held_out=True)
    less, more = (_of(anglaise(8, 150, grams), _cold) for grams in (0, 4))
    yield Row("4 g of starch in a litre, cold, firmer by", "Pa", 0, 3, lambda: more() - less(), held_out=True)


def _replaced() -> float:
    fewer = with_missing_yolks(of("anglaise", *SIX), 5)[1].formula
    return next(
        (
            g
            for line, g in zip(fewer.lines, fewer.weights_g(), strict=True)
            if line.ingredient.id == "cornstarch"
        ),
        0.0,
    )


def _thinned(over_k: float) -> float:
    return sum(grams for _, grams in rescue(of("anglaise", *SIX), "too-thick", 600, over_k).add)


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
        fast = whisk(mix(sabayon()), 20, 74, stove=_stove(3000, stir="whisk", over_steam=True))
        return float(foam(74, "t_s") / fast.t_s[-1])

    yield Row("the same over a rolling boil, times as fast", "1", 1.2, 3, rolling, held_out=True)


def _kitchens() -> Iterator[Row]:
    yield Row("0.7 kg, 350 W, from 60 to {82 C}", "min", 2, 6, lambda: _minutes(_cooked(82)), held_out=True)
    yield Row(
        "0.7 kg, 500 W, from 20 to {82 C}",
        "min",
        5,
        8,
        lambda: _minutes(_cooked(82, 20, power_w=500)),
        held_out=True,
    )
    for pan, low, high in (("thin", 1, 2), ("clad", 2, 4), ("cast-iron", 5, 8)):
        yield Row(f"carry-over, {pan}", "K", low, high, _carry(pan))
    for start, low, high in ((20, 8, 20), (60, 4, 10)):
        what = f"0.7 kg over steam from {{{start} C}}"
        yield Row(what, "min", low, high, _steamed(start), held_out=True)
    yield Row(
        "cups, {50 C} in, out after", "min", 28, 45, lambda: (bake(mix(CUPS), 120, 52).out_s or 1e9) / 60
    )
    yield Row("cups, {8 C} in, out after", "min", 40, 70, lambda: (bake(mix(CUPS), 120, 8).out_s or 1e9) / 60)
    yield Row("cups, rise out of the bath", "K", 2, 3, lambda: bake(mix(CUPS), 120, 52).carry_over_k)
    cream = mix(pastry())
    for mass_g, depth_mm, hours in ((1000, 50, 1.2), (3000, 100, 2.5), (10_000, 150, 5.5)):
        what = f"{mass_g / 1000:g} kg of pastry cream {depth_mm} mm deep in ice, unstirred, 57 to {{21 C}}"
        yield Row(what, "h", 0.75 * hours, 1.35 * hours, _iced(cream, mass_g, depth_mm), held_out=True)
    sauce = _sauce()
    yield Row(
        "0.7 kg in ice water, stirred, 82 to {21 C}",
        "min",
        4,
        11,
        lambda: 60 * _cooled(sauce, 700, 50, "ice-bath", 82, 82, stirred=True),
    )
    yield Row("the same unstirred", "min", 12, 30, lambda: 60 * _cooled(sauce, 700, 50, "ice-bath", 82, 82))
    yield Row(
        "a 50 mm tray in a fridge, 57 to {21 C}",
        "h",
        3.2,
        9,
        lambda: _cooled(sauce, 3000, 50, "fridge", 80, 57),
        held_out=True,
    )
    yield Row("custard with 1 % of starch taken to {98 C}, whisks smooth", "yes", 1, 1, _whisks_smooth)
    yield Row("boiling dairy in one go, curdled where it falls", "%", 0.1, 60, _in_one_go, held_out=True)


def _whisks_smooth() -> float:
    mixture = mix(of("pouring-custard", *SIX, ("cornstarch", "7 g")))
    curdled = float(cook(mixture, 60, 98, _stove(500)).final[kernel.CURDLED])
    return float(curds(curdled, mixture.starch_in_aqueous_percent) != "stay")


def _in_one_go() -> float:
    return 100 * temper(anglaise().for_mass(1200), "ladle", 100, 2000).worst_local_curdling
