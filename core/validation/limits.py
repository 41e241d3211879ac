"""Rows of what must not go wrong: deep pails, chillers, freezing, too little egg, remedies, heights."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from custard.advice.after.life import life
from custard.advice.mix.assess import assess
from custard.advice.mix.churning import churning
from custard.advice.trouble.answer import rescue
from custard.conditions import USUAL, Conditions
from custard.mixture import mix
from custard.process.baking.bake import bake
from custard.process.cooling.chill import CooledBy, chill
from custard.process.cooling.later import thawed
from custard.process.heating.temper import temper
from custard.vocabulary import When

from validation.mixes import SIX, of, pastry, sauce
from validation.row import Row


def rows() -> Iterator[Row]:
    """What must not go wrong."""
    yield from _deep()
    yield from _frozen()
    yield from _cups()
    yield from _remedies()
    yield from _heights()


def _deep() -> Iterator[Row]:
    def hours(
        kg: float, mm: float, to_c: float = 21, by: str = "ice-bath", **how: object
    ) -> Callable[[], float]:
        def compute() -> float:
            way = CooledBy(by, **how)  # type: ignore[arg-type]
            found = chill(sauce(), 82, to_c, way, 1000 * kg, mm, deepest=False)
            return 1e9 if found.time_to_goal_s is None else found.time_to_goal_s / 3600

        return compute

    def over(first: Callable[[], float], second: Callable[[], float]) -> Callable[[], float]:
        return lambda: second() / first()

    iced = "in ice, nobody stirs, 82 to {21 C}"
    yield Row(f"0.7 kg of sauce 40 mm deep {iced}", "h", 0.2, 0.5, hours(0.7, 40))
    yield Row(f"0.7 kg of sauce 30 mm deep {iced}", "h", 0.2, 0.5, hours(0.7, 30), held_out=True)
    yield Row(f"5 kg of sauce 150 mm deep {iced}", "h", 2, 5, hours(5, 150))
    yield Row(f"4 kg of sauce 130 mm deep {iced}", "h", 1.5, 4.5, hours(4, 130), held_out=True)
    yield Row(f"20 kg of sauce 400 mm deep {iced}", "h", 10, 30, hours(20, 400), held_out=True)
    seldom, always = hours(5, 150, stirred=True, every_s=600.0), hours(5, 150, stirred=True)
    yield Row("5 kg in ice mixed every 10 min, over stirred all the time", "×", 1.5, 8, over(always, seldom))
    yield Row(
        "5 kg in ice left alone, over mixed every 10 min",
        "×",
        1.5,
        8,
        over(seldom, hours(5, 150)),
        held_out=True,
    )
    four = over(hours(5, 50, by="blast"), hours(20, 50, by="blast"))
    yield Row("20 kg in a small blast chiller, over 5 kg", "×", 1.3, 4, four)
    yield Row(
        "1 kg in a small blast chiller, 82 to {21 C}", "h", 0.7, 1.6, hours(1, 50, by="blast"), held_out=True
    )


def _frozen() -> Iterator[Row]:
    p = USUAL.parameters

    def weeps(starch: str) -> Callable[[], float]:
        return lambda: thawed(mix(pastry(starch, 40)), 20, p).weeps

    def beside(starch: str) -> Callable[[], float]:
        return lambda: weeps(starch)() / weeps("cornstarch")()

    kinds = (
        ("wheat-flour", "flour", 0.85, 1.1, False),
        ("potato-starch", "potato starch", 0.7, 0.95, True),
        ("tapioca-starch", "tapioca", 0.4, 0.75, False),
        ("rice-flour", "rice flour", 0.4, 0.75, True),
    )
    for name, said, low, high, held_out in kinds:
        what = f"a cream of {said}, thawed: water let go over one of maize"
        yield Row(what, "×", low, high, beside(name), held_out=held_out)
    sauce_beside = "an anglaise, thawed: water let go over a cream of maize"
    yield Row(
        sauce_beside,
        "×",
        0.15,
        0.5,
        lambda: thawed(sauce(), 20, p).weeps / weeps("cornstarch")(),
        held_out=True,
    )

    def lowers(grams: float) -> Callable[[], float]:
        lines = (
            ("whole-milk", "600 g"),
            ("whipping-cream-36", "200 g"),
            ("egg-yolk", "80 g"),
            ("white-sugar", "150 g"),
        )

        def point(*more: tuple[str, str]) -> float:
            return churning(mix(of("ice-base", *lines, *more))).freezing_point_c

        return lambda: point() - point(("salt", f"{grams:g} g"))

    # 58.4 g of salt in a kilogram of water lowers it by 3.4 K; there are some 650 g of water.
    yield Row("5 g of salt in a kilogram of ice base, freezes lower by", "K", 0.35, 0.6, lowers(5))
    yield Row(
        "10 g of salt in a kilogram of ice base, freezes lower by", "K", 0.7, 1.2, lowers(10), held_out=True
    )


def _cups() -> Iterator[Row]:
    def sets(*egg: tuple[str, str]) -> Callable[[], float]:
        cups = of("baked-custard", ("whole-milk", "250 ml"), ("white-sugar", "25 g"), *egg)
        return lambda: float(bake(mix(cups), 120, 50).out_s is not None)

    yield Row("cups of milk and sugar alone set", "yes", 0, 0, sets())
    yield Row(
        "cups of a quarter of an egg to 250 ml set", "yes", 0, 0, sets(("whole-egg", "12 g")), held_out=True
    )
    yield Row("cups of an egg to 250 ml set", "yes", 1, 1, sets(("whole-egg", "50 g")))
    yield Row("cups of two yolks to 250 ml set", "yes", 1, 1, sets(("egg-yolk", "36 g")), held_out=True)
    base = of("ice-base", ("whole-milk", "600 g"), ("whipping-cream-36", "200 g"), ("white-sugar", "150 g"))
    yield Row("an ice base without egg, stop", "°C", 80, 85, lambda: assess(base).stop.at_c)
    bare = of("anglaise", ("whole-milk", "500 g"), ("white-sugar", "90 g"))
    yield Row("sweet milk without egg, stop", "°C", 80, 85, lambda: assess(bare).stop.at_c, held_out=True)
    yield Row("raw white folded in after the heat, keeps", "d", 0.5, 1, _folded("egg-white"))
    yield Row(
        "raw cream folded in after the heat, keeps", "d", 1, 2, _folded("whipping-cream-36"), held_out=True
    )


def _folded(name: str) -> Callable[[], float]:
    made = of("anglaise", *SIX, (name, "60 g"))
    *cooked, last = made.lines
    return lambda: life(assess(replace(made, lines=(*cooked, replace(last, when=When.FOLDED))))).days


def _remedies() -> Iterator[Row]:
    def cream_g(grams: float, over_k: float, *lines: tuple[str, str]) -> Callable[[], float]:
        made = of("anglaise", *lines)
        return lambda: sum(one.grams for one in rescue(made, "split", grams, over_k).now.add)

    usual = ("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "90 g")
    rich = (
        ("whole-milk", "300 ml"),
        ("whipping-cream-36", "200 g"),
        ("egg-yolk", "7"),
        ("white-sugar", "100 g"),
    )
    yield Row(
        "600 g of anglaise split 1 K over: cream to blend it with", "g", 30, 90, cream_g(600, 1, *usual)
    )
    yield Row(
        "600 g of a rich anglaise split 1 K over: cream to blend it with",
        "g",
        30,
        90,
        cream_g(600, 1, *rich),
        held_out=True,
    )
    yield Row(
        "600 g of anglaise split 3 K over: cream to blend it with",
        "g",
        0,
        90,
        cream_g(600, 3, *usual),
        held_out=True,
    )


def _heights() -> Iterator[Row]:
    def lands(metres: float) -> Callable[[], float]:
        cream = pastry()
        return lambda: temper(cream, "stream", 98, conditions=Conditions(altitude_m=metres)).landing_c

    yield Row("boiled dairy onto the yolks, lands at the sea", "°C", 70, 85, lands(0))
    yield Row("boiled dairy onto the yolks, lands at 3500 m", "°C", 62, 76, lands(3500), held_out=True)

    def warned(metres: float) -> Callable[[], float]:
        return lambda: float(bool(assess(pastry(), Conditions(altitude_m=metres)).warnings))

    yield Row("a pastry cream at 3500 m is warned of", "yes", 1, 1, warned(3500))
    yield Row("a pastry cream at 500 m is not", "yes", 0, 0, warned(500), held_out=True)
