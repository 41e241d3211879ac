"""Rows of kitchens: how long things take, in the pan, in the oven and in the cold."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from custard.advice.mix.assess import assess
from custard.advice.trouble.remedies.rescued import curds
from custard.mixture import Mixture, mix
from custard.process.baking.bake import bake
from custard.process.cooling.chill import CooledBy, chill
from custard.process.heating import kernel
from custard.process.heating.cook import Cook, Stove, cook
from custard.process.heating.temper import temper

from validation.mixes import CUPS, FILLING, SIX, anglaise, of, pastry, sauce
from validation.row import Row


def rows() -> Iterator[Row]:
    """How long things take, in the pan, in the oven and in the cold."""
    yield from _pans()
    yield from _oven()
    yield from _cold()


def _pans() -> Iterator[Row]:
    yield Row("0.7 kg, 350 W, from 60 to {82 C}", "min", 2, 6, lambda: _minutes(_cooked(82)), held_out=True)
    for power_w, shortest, longest in ((250, 10, 16), (500, 5, 8), (800, 3, 5)):
        what = f"0.7 kg, {power_w} W, from 20 to {{82 C}}"
        yield Row(what, "min", shortest, longest, _from_cold(power_w), held_out=True)
    for pan, low, high in (("thin", 1, 2), ("clad", 2, 4), ("cast-iron", 5, 8)):
        yield Row(f"carry-over, {pan}", "K", low, high, _carry(pan))
    for start, low, high in ((20, 8, 20), (60, 4, 10)):
        what = f"0.7 kg over steam from {{{start} C}}"
        yield Row(what, "min", low, high, _steamed(start), held_out=True)
    yield Row(
        "0.7 kg of filling, 350 W, to its stop", "min", 8, 15, lambda: _minutes(_filling()), held_out=True
    )
    yield Row(
        "filling cooked on in a wide pan, lost as steam",
        "%",
        5,
        10,
        lambda: 100 * (1 - assess(FILLING).stop.left),
        held_out=True,
    )
    yield Row("custard with 1 % of starch taken to {98 C}, whisks smooth", "yes", 1, 1, _whisks_smooth)
    yield Row("boiling dairy in one go, curdled where it falls", "%", 0.1, 60, _in_one_go, held_out=True)


def _oven() -> Iterator[Row]:
    def minutes(start_c: float, **oven: float) -> Callable[[], float]:
        return lambda: (bake(mix(CUPS), 120, start_c, **oven).out_s or 1e9) / 60  # type: ignore[arg-type]

    yield Row("cups, {50 C} in, out after", "min", 28, 45, minutes(52))
    yield Row("cups, {8 C} in, out after", "min", 40, 70, minutes(8))
    yield Row("cups, {52 C} into {160 C}, out after", "min", 28, 45, minutes(52, oven_c=160), held_out=True)
    yield Row("cups, rise out of the bath", "K", 2, 3, lambda: bake(mix(CUPS), 120, 52).carry_over_k)


def _cold() -> Iterator[Row]:
    cream, thin = mix(pastry()), sauce()
    for mass_g, depth_mm, hours in ((1000.0, 50.0, 1.2), (3000.0, 100.0, 2.5), (10_000.0, 150.0, 5.5)):
        what = f"{mass_g / 1000:g} kg of pastry cream {depth_mm:g} mm deep in ice, unstirred, 57 to {{21 C}}"
        yield Row(what, "h", 0.75 * hours, 1.35 * hours, _cooled(cream, mass_g, depth_mm, "ice-bath", 95, 57))

    def iced(to_c: float = 21, by: str = "ice-bath", *, stirred: bool = False) -> Callable[[], float]:
        hours = _cooled(thin, 700, 50, by, 82, 82, to_c, stirred=stirred)
        return lambda: 60 * hours()

    yield Row("0.7 kg in ice water, stirred, 82 to {21 C}", "min", 4, 11, iced(stirred=True))
    yield Row("the same unstirred", "min", 12, 30, iced())
    yield Row("the same stirred, to {5 C}", "min", 8, 23, iced(5, stirred=True), held_out=True)
    yield Row("the same unstirred, to {5 C}", "min", 25, 61, iced(5), held_out=True)
    yield Row(
        "0.7 kg in ice alone, unstirred, 82 to {21 C}", "min", 28, 92, iced(by="ice-only"), held_out=True
    )
    trays: tuple[tuple[str, float, str, float, float, float, float], ...] = (
        ("a 50 mm tray in a fridge, 57 to {21 C}", 50, "fridge", 57, 21, 3.2, 9),
        ("a 50 mm tray covered in a fridge, 57 to {21 C}", 50, "fridge-covered", 57, 21, 4.5, 10.5),
        ("a 25 mm tray in a fridge with a fan, 57 to {21 C}", 25, "fan-fridge", 57, 21, 0.7, 1.9),
        ("the same, 21 to {5 C}", 25, "fan-fridge", 21, 5, 1.8, 4.5),
        ("a 50 mm tray in a blast chiller, 57 to {21 C}", 50, "blast", 57, 21, 0.7, 1.6),
    )
    for what, depth_mm, by, left_c, to_c, low, high in trays:
        compute = _cooled(thin, 60 * depth_mm, depth_mm, by, 80, left_c, to_c)
        yield Row(what, "h", low, high, compute, held_out=True)


def _whisks_smooth() -> float:
    mixture = mix(of("pouring-custard", *SIX, ("cornstarch", "7 g")))
    curdled = float(cook(mixture, 60, 98, Stove(500)).final[kernel.CURDLED])
    return float(curds(curdled, mixture.starch_in_aqueous_percent) != "stay")


def _in_one_go() -> float:
    return 100 * temper(anglaise().for_mass(1200), "ladle", 100, 2000).worst_local_curdling


def _cooked(lift_c: float, start_c: float = 60, **stove: object) -> Cook:
    return cook(sauce(), start_c, lift_c, Stove(**stove))  # type: ignore[arg-type]


def _minutes(found: Cook) -> float:
    return 999.0 if found.lift_s is None else found.lift_s / 60


def _carry(pan: str) -> Callable[[], float]:
    return lambda: cook(sauce(), 65, 80, Stove(pan=pan), left_in_pan_s=240).peak_c - 80


def _steamed(start_c: float) -> Callable[[], float]:
    return lambda: _minutes(cook(sauce(), start_c, 80, Stove(1500, over_steam=True)))


def _from_cold(power_w: float) -> Callable[[], float]:
    return lambda: _minutes(_cooked(82, 20, power_w=power_w))


def _filling() -> Cook:
    return cook(mix(FILLING.for_mass(700)), 20, assess(FILLING).stop.at_c, Stove(350))


def _cooled(
    mixture: Mixture,
    mass_g: float,
    depth_mm: float,
    by: str,
    from_c: float,
    left_c: float,
    to_c: float = 21.0,
    **more: bool,
) -> Callable[[], float]:
    """Hours in which the warmest spot goes from one temperature to another, cooled from a third."""

    def compute() -> float:
        found = chill(mixture, from_c, 4.5, CooledBy(by, **more), mass_g, depth_mm)  # type: ignore[arg-type]
        left, reached = (float(found.t_s[found.core_c <= level][0]) for level in (left_c, to_c))
        return (reached - left) / 3600

    return compute
