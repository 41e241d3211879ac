"""Rows of steam, of what is folded in, of gelatine, curds, fillings and cake under a custard."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from custard.advice.finish.additions import finishing
from custard.advice.mix.assess import assess
from custard.formats.formula_json import read_formula
from custard.formula import Formula
from custard.mixture import mix
from custard.process.heating import kernel
from custard.process.heating.cook import Stove, cook
from custard.process.whisking.folding import Folded
from custard.process.whisking.whisk import whisk

from validation.mixes import CUPS, anglaise, of, sabayon, sauce
from validation.row import Row, of_assessment

SIMMER_W, ROLLING_W = 1500.0, 3000.0
CREAM = (
    ("whole-milk", "500 ml"), ("egg-yolk", "5"), ("white-sugar", "100 g"), ("cornstarch", "45 g"),
)  # fmt: skip


def rows() -> Iterator[Row]:
    """Steam, folding, gelatine, curds, fillings, cake under a custard."""
    yield from _steam()
    yield from _unstirred()
    yield from _folded()
    yield from _gelatine()
    yield from _curds()
    yield from _poured_over()


def _steam() -> Iterator[Row]:
    def minutes(kg: float, flame_w: float, start_c: float = 20) -> Callable[[], float]:
        def compute() -> float:
            mixture = mix(anglaise().for_mass(1000 * kg))
            done = cook(mixture, start_c, 80, Stove(flame_w, over_steam=True), longest_s=4 * 3600)
            return 1e9 if done.lift_s is None else done.lift_s / 60

        return compute

    def times(kg: float) -> Callable[[], float]:
        return lambda: minutes(kg, SIMMER_W)() / minutes(kg, ROLLING_W)()

    yield Row("5 kg over a bare simmer, 20 to {80 C}", "min", 10, 50, minutes(5, SIMMER_W))
    yield Row("5 kg over a rolling boil, 20 to {80 C}", "min", 10, 50, minutes(5, ROLLING_W), held_out=True)
    yield Row(
        "5 kg over as many flames as for 1 kg each, 20 to {80 C}", "min", 10, 50, minutes(5, 5 * SIMMER_W),
        held_out=True,
    )  # fmt: skip
    yield Row("0.7 kg, a bare simmer over a rolling boil", "×", 1.2, 4, times(0.7))
    yield Row("2 kg, a bare simmer over a rolling boil", "×", 1.2, 4, times(2), held_out=True)
    yield Row("5 kg, a bare simmer over a rolling boil", "×", 1.2, 4, times(5), held_out=True)

    def foams(flame_w: float) -> float:
        return float(whisk(mix(sabayon()), 20, 74, stove=Stove(flame_w, over_steam=True)).t_s[-1])

    yield Row("a sabayon, a bare simmer over a rolling boil", "×", 1.2, 4, lambda: foams(1500) / foams(3000))


def _unstirred() -> Iterator[Row]:
    def bits(power_w: float, stir: str = "none") -> Callable[[], float]:
        return lambda: 100 * float(cook(sauce(), 20, 82, Stove(power_w, stir=stir)).final[kernel.BITS])

    yield Row("0.7 kg that nobody stirs, bits once it is poured out", "%", 0.5, 10, bits(350))
    yield Row("the same on a hotter flame, over that", "×", 1.02, 4, lambda: bits(800)() / bits(350)())
    yield Row(
        "the same on a low flame, over that", "×", 0.2, 0.98, lambda: bits(150)() / bits(350)(), held_out=True
    )
    yield Row("the same whisked all the time", "%", 0, 0.3, bits(350, "whisk"), held_out=True)


def _made(*more: tuple[str, str, str], family: str = "pastry-cream") -> Formula:
    """A pastry cream, or cups, with what joins later: ingredient, amount, moment."""
    lines = [{"ingredient": name, "amount": amount} for name, amount in CREAM]
    if family != "pastry-cream":
        lines = [{"ingredient": line.ingredient.id, "amount": line.amount} for line in CUPS.lines]
    later = [{"ingredient": name, "amount": amount, "when": when} for name, amount, when in more]
    head = {"format": "old-spoon/formula", "version": 2, "name": "practice", "family": family}
    return read_formula({**head, "lines": [*lines, *later]})


def _fold(figure: Callable[[Folded], float], *more: tuple[str, str, str]) -> Callable[[], float]:
    def compute() -> float:
        done = finishing(assess(_made(*more))).folded
        return 0.0 if done is None else figure(done)

    return compute


COOL, OFF = "folded when cool", "off the heat"


def _folded() -> Iterator[Row]:
    def now(one: Folded) -> float:
        return one.yield_stress_pa

    def cold(one: Folded) -> float:
        return one.cold_pa or 0.0

    def room(one: Folded) -> float:
        return one.volume_ratio

    white = ("egg-white", "150 g", COOL)
    butter = ("butter-unsalted", "200 g", COOL)
    whipped = ("whipping-cream-36", "350 g", COOL)
    yield Row("mousseline of 200 g of butter, at room warmth", "Pa", 40, 120, _fold(now, butter))
    yield Row(
        "mousseline of 250 g of butter, at room warmth", "Pa", 40, 120,
        _fold(now, ("butter-unsalted", "250 g", COOL)), held_out=True,
    )  # fmt: skip
    firmer = _fold(lambda one: (one.cold_pa or 0.0) / one.yield_stress_pa, butter)
    yield Row("mousseline in the fridge, over that", "×", 1.5, 10, firmer, held_out=True)
    sugared = white, ("white-sugar", "75 g", COOL)
    yield Row("chiboust of half as much sugar as white, volume", "×", 1.6, 2.6, _fold(room, *sugared))
    sweeter = white, ("white-sugar", "225 g", COOL)
    yield Row(
        "chiboust of 1.5 times as much sugar, volume", "×", 1.6, 2.6, _fold(room, *sweeter), held_out=True
    )
    kept = _fold(lambda one: one.air_kept, *sugared)
    yield Row("whipped white folded into hot cream, keeps of its air", "1", 0.8, 0.95, kept, held_out=True)
    kept = _fold(lambda one: one.air_kept, whipped)
    yield Row("whipped cream folded in cool, keeps of its air", "1", 0.7, 0.9, kept)
    diplomat = ("gelatine-sheets-200", "5 g", OFF), whipped
    yield Row("diplomat of 0.5 % of gelatine, cold", "Pa", 80, 250, _fold(cold, *diplomat))
    less = ("gelatine-powder-220", "4 g", OFF), ("whipping-cream-36", "300 g", COOL)
    yield Row("diplomat of less cream, cold", "Pa", 80, 250, _fold(cold, *less), held_out=True)
    yield Row(
        "mascarpone folded in, over the cream, cold", "×", 1.1, 4,
        lambda: _fold(cold, ("mascarpone", "250 g", COOL))() / _fold(cold, ("soft-fruit", "1 g", COOL))(),
        held_out=True,
    )  # fmt: skip


def _gelatine() -> Iterator[Row]:
    def cold(percent: float) -> Callable[[], float]:
        milk = of("anglaise", ("whole-milk", "1 kg"), ("gelatine-sheets-200", f"{10 * percent:g} g"))
        return of_assessment(milk, lambda found: found.cold.yield_stress_pa)

    yield Row("milk of 0.6 % of gelatine, cold", "Pa", 30, 150, cold(0.6))
    yield Row("milk of 0.4 % of gelatine, cold", "Pa", 12, 80, cold(0.4), held_out=True)
    yield Row("milk of 1 % of gelatine, cold", "Pa", 90, 400, cold(1.0), held_out=True)

    def warned(grams: int) -> Callable[[], float]:
        return lambda: float(bool(assess(_made(("gelatine-sheets-200", f"{grams} g", OFF))).warnings))

    yield Row("so much gelatine that it is rubber (3 %) is warned of", "yes", 1, 1, warned(22))
    yield Row("1 % of gelatine is not", "yes", 0, 0, warned(7), held_out=True)


def _curds() -> Iterator[Row]:
    def curd(egg: str, grams: int, butter_g: int) -> Formula:
        lines = ("white-sugar", "200 g"), ("lemon-juice", "150 g"), ("butter-unsalted", f"{butter_g} g")
        return of("pouring-custard", (egg, f"{grams} g"), *lines)

    def cold(formula: Formula) -> Callable[[], float]:
        return of_assessment(formula, lambda found: found.cold.yield_stress_pa)

    yield Row(
        "curd of whole egg and a fifth of butter, cold", "Pa", 15, 400, cold(curd("whole-egg", 200, 150))
    )
    for egg, grams, butter_g in (("egg-yolk", 120, 100), ("whole-egg", 200, 300)):
        what = f"curd of {egg.replace('-', ' ')} and {butter_g} g of butter, cold"
        yield Row(what, "Pa", 15, 400, cold(curd(egg, grams, butter_g)), held_out=True)
    sets = of_assessment(curd("whole-egg", 200, 150), lambda found: found.stop.at_c)
    yield Row("curd of whole egg, stop", "°C", 70, 84, sets)


def _poured_over() -> Iterator[Row]:
    def over(thing: str, figure: str) -> Callable[[], float]:
        def compute() -> float:
            done = finishing(assess(_made((thing, "120 g", "under it"), family="baked-custard")))
            return done.additions[0].at_c if figure == "at" else done.drinks[0].taken_g / 120

        return compute

    yield Row("raw mix poured over bread, where it lands", "°C", 40, 55, over("bread-white", "at"))
    yield Row("bread under a custard, drinks of its weight", "×", 1, 2, over("bread-white", "drinks"))
    yield Row(
        "raw mix poured over cake, where it lands", "°C", 40, 55, over("cake-crumbs", "at"), held_out=True
    )
