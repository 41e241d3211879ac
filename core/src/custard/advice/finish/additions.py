"""The additions after the heat, in order: grams, what to wait for, where each lands, what comes of it all."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from custard.advice.finish.drinks import Drunk, drunk
from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import yield_stress
from custard.advice.mix.warnings import splits
from custard.figures import Grams, Share, TenthsCelsius, WholeSeconds
from custard.formula import Line
from custard.larder.ingredients import Ingredient
from custard.larder.joins import AFTERWARDS, FOLDED, OFF_THE_HEAT, ON_TOP, UNDER_IT
from custard.larder.vessels import coolings
from custard.mixture import blend
from custard.physics import foam, thermal
from custard.process import kernel, spirit
from custard.process.chill import flows
from custard.process.chocolate import MELTED_C, ROOM_C, SHINES, Ladle, ladles, look, to_shine_g, wetted
from custard.process.cook import cook, usual_stove
from custard.process.crust import Crust, crust
from custard.process.folding import Folded, broken_by_fat, folded, whips
from custard.process.lying import Lying
from custard.process.pot import Pot, laid_out, stirred
from custard.process.whisk import whisk

FRIDGE_C = 5.0
BUTTER_C = 15.0
"""Soft enough to be beaten in in pieces."""
COLD_C = 10.0
"""What is called cold where something sour joins."""
OVER_ICE_MM = 60.0
"""How deep a sauce lies in the bowl that is turned over ice while one waits."""
DRAINED_C = 20.0
USUAL_DISH_CM = 10.0
SPIRIT_PERCENT = 5.0
"""Alcohol from which a thing is a spirit or a wine, to be kept from a flame [g/100 g]."""
SOUR_PERCENT = 0.5
HOUR_H, NIGHT_H = 1.0, 12.0


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
    when: str
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
def _texts() -> dict[str, Any]:
    return tomllib.loads(files("custard.larder").joinpath("data", "finish.toml").read_text(encoding="utf-8"))


_ORDER = (
    "chocolate", "under", "sugar", "other", "cream", "butter", "extract", "spirit", "sour", "dry",
    "fruit", "unwhipped", "whipped", "crust", "topping",
)  # fmt: skip
"""Hot things first, what must be cool later, what stands on top last."""


def _kind(line: Line) -> str:
    """The first kind whose question is answered with yes."""
    return next(kind for kind, fits in _KINDS if fits(line, line.ingredient))


_KINDS: tuple[tuple[str, Callable[[Line, Ingredient], bool]], ...] = (
    ("crust", lambda line, thing: line.when == ON_TOP and thing.group == "sugar"),
    ("topping", lambda line, _: line.when == ON_TOP),
    ("whipped", lambda line, thing: line.when == FOLDED and whips(thing)),
    ("unwhipped", lambda line, thing: line.when == FOLDED and thing.is_milk),
    ("fruit", lambda line, _: line.when == FOLDED),
    ("dry", lambda line, _: line.when == AFTERWARDS),
    ("chocolate", lambda _, thing: thing.is_chocolate),
    ("under", lambda line, _: line.when == UNDER_IT),
    ("cream", lambda _, thing: thing.is_milk),
    ("butter", lambda _, thing: thing.group == "dairy"),
    ("extract", lambda _, thing: thing.composition["ethanol"] >= SPIRIT_PERCENT and thing.group == "flavour"),
    ("spirit", lambda _, thing: thing.composition["ethanol"] >= SPIRIT_PERCENT),
    ("sour", lambda _, thing: thing.composition["acid"] >= SOUR_PERCENT),
    ("sugar", lambda _, thing: thing.group == "sugar"),
    ("other", lambda _, __: True),
)


@dataclass
class _Bowl:
    """The bowl while things are stirred into it, and what has been found so far."""

    result: Assessment
    pot: Pot
    air: float = 0.0
    done: list[Addition] = field(default_factory=list)
    folded: Folded | None = None
    dry: list[tuple[Any, float]] = field(default_factory=list)

    def add(
        self,
        kind: str,
        rows: list[tuple[int, Line, float]],
        then: Pot,
        *,
        text: str = "",
        wait_c: float | None = None,
        ladles: tuple[Ladle, ...] = (),
        words: Mapping[str, str] | None = None,
        alcohol_g: float = 0.0,
    ) -> None:
        """Put one addition on the list; the bowl is then as `then`."""
        waits = None if wait_c is None or self.pot.at_c <= wait_c else _waits_s(self.pot, wait_c)
        kept = None
        if alcohol_g > 0:
            kept = _alcohol_kept(then, self.result)
        grams = sum(g for _, _, g in rows)
        known = {
            "name": " and ".join(line.ingredient.name for _, line, _ in rows),
            "grams": _grams(grams),
            "wait": _degrees(wait_c),
            "at": _degrees(then.at_c),
            "kept": "" if kept is None else f"{100 * kept:.0f} %",
            **(words or {}),
        }
        told = _texts()[text or kind]
        say = told["say"].format_map(known)
        if "more" in known:
            say += " " + _texts()["more"]["say"].format_map(known)
        self.done.append(
            Addition(
                kind=kind,
                when=rows[0][1].when,
                lines=tuple(i for i, _, _ in rows),
                name=known["name"],
                grams=grams,
                wait_c=wait_c,
                wait_s=waits,
                at_c=then.at_c,
                mass_g=then.mass_g,
                say=say,
                see=tuple(one.format_map(known) for one in told["see"]),
                why=told["why"].format_map(known),
                cautions=tuple(told["cautions"]),
                ladles=ladles,
                alcohol_g=alcohol_g,
                alcohol_kept=kept,
            )
        )
        self.pot = then

    def cooled_to(self, at_c: float | None) -> Pot:
        """The bowl once one has waited for it."""
        if at_c is None or self.pot.at_c <= at_c:
            return self.pot
        return laid_out(self.pot.mixture, at_c)


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
    bowl = _Bowl(result, sieved, air_in(result) if result.way.foams and rows else 0.0)
    found: dict[str, list[tuple[int, Line, float]]] = {}
    for row in rows:
        found.setdefault(_kind(row[1]), []).append(row)
    crusted = crust(dish_cm, p) if "crust" in found else None
    for kind in _ORDER:
        if kind not in found:
            continue
        if kind == "chocolate":
            _onto_chocolate(bowl, found[kind])
            continue
        for row in found[kind]:
            _BY_KIND.get(kind, _stir_in)(bowl, kind, row, crusted)
    dry = tuple(bowl.dry)
    cold_c = p.texture.cold_reference_c
    return Finishing(
        additions=tuple(bowl.done),
        from_c=sieved.at_c,
        alcohol=_alcohol(result, bowl.done),
        folded=bowl.folded,
        drinks=tuple(drunk(result.whole, result.stop, cold_c, dry, hours, p) for hours in (HOUR_H, NIGHT_H))
        if dry
        else (),
        crust=crusted,
        finished_g=result.yield_g,
    )


_FINISHES = (UNDER_IT, OFF_THE_HEAT, AFTERWARDS, FOLDED, ON_TOP)


def _sieved_c(result: Assessment) -> float:
    """How warm it is once it is through the sieve into a bowl of the room's warmth [degC]."""
    p = result.conditions.parameters
    if not result.way.may_boil:
        return result.stop.at_c
    mix_j_kgk = float(thermal.heat_capacity(result.pan.proximate, result.stop.at_c))
    bowl_j_kgk = p.temper.bowl_j_kgk
    return (mix_j_kgk * result.stop.at_c + bowl_j_kgk * p.heat.air_c) / (mix_j_kgk + bowl_j_kgk)


def air_in(result: Assessment) -> float:
    """Air in the foam as it comes off the steam [1]."""
    done = whisk(result.pan, ROOM_C, result.stop.at_c, conditions=result.conditions)
    return float(done.overrun[-1])


def _cooling(pot: Pot, to_c: float) -> tuple[Any, Any]:
    """Times [s] and temperatures [degC] of a bowl turned over ice and stirred, from where it is."""
    area_m2 = pot.mass_g / 1000 / float(pot.mixture.density_kg_m3(40)) / (OVER_ICE_MM / 1000)
    lies = Lying(pot.mixture, coolings()["ice-bath"], pot.at_c, area_m2, True, flows(pot.mixture))
    done = lies.cooled(OVER_ICE_MM)
    end = int(np.argmax(done.mean_c <= to_c)) or done.t_s.size - 1
    return done.t_s[: end + 1], done.mean_c[: end + 1]


def _waits_s(pot: Pot, to_c: float) -> float:
    return float(_cooling(pot, to_c)[0][-1])


def _alcohol_kept(pot: Pot, result: Assessment) -> float:
    """Share of an addition's alcohol that is left once it is stirred in and cooled over ice [1]."""
    p = result.conditions.parameters
    kept = spirit.kept_at(pot.at_c, p.finish.stir_in_min, p)
    if pot.at_c > DRAINED_C:
        kept *= spirit.kept(*_cooling(pot, DRAINED_C), p)
    return kept


def _alcohol(result: Assessment, done: list[Addition]) -> Alcohol | None:
    """All the alcohol of a formula: what cooks with it, and what joins later."""
    cooked_g = float(result.pan.mass_g * result.pan.fractions["ethanol"])
    given_g = cooked_g + sum(one.alcohol_g for one in done)
    if given_g <= 0:
        return None
    kept_g = sum(one.alcohol_g * (one.alcohol_kept or 0.0) for one in done)
    if cooked_g > 0:
        kept_g += cooked_g * _kept_in_the_pan(result)
    return Alcohol(given_g, kept_g, given_g - kept_g)


def _kept_in_the_pan(result: Assessment) -> float:
    """Share of the alcohol that is left of what cooks with the sauce on its usual heat [1]."""
    p = result.conditions.parameters
    stove = usual_stove(result.pan, p, over_steam=result.way.foams)
    start_c = min(ROOM_C, result.stop.at_c - 1)
    hold_s = p.cook.boil_hold_s if result.stop.boiled else 0.0
    done = cook(result.pan, start_c, result.stop.at_c, stove, hold_s, conditions=result.conditions)
    return spirit.kept(done.column(kernel.T_S), done.column(kernel.SAUCE_C), p)


Row = tuple[int, Line, float]


def _piece(row: Row, at_c: float) -> Pot:
    return laid_out(blend([(row[1].ingredient, row[2])]), at_c)


def _onto_chocolate(bowl: _Bowl, rows: list[Row]) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    pieces = blend([(line.ingredient, g) for _, line, g in rows])
    melted = laid_out(pieces, p.finish.chocolate_c)
    warm = {"chocolate": _degrees(p.finish.chocolate_c), "melted": _degrees(MELTED_C)}
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
        text, words = "chocolate-cold", {**words, "cold": _degrees(then.at_c)}
        then, poured = ladles(bowl.pot, melted, p)
        words["pours"] = str(len(poured))
    if look(wetted(then.mixture, p)) != SHINES:
        milk = next((line.ingredient for line in result.formula.lines if line.ingredient.is_milk), None)
        more_g = to_shine_g(then.mixture, result.pan if milk is None else blend([(milk, 100.0)]), p)
        words["more"] = _grams(more_g)
    bowl.add("chocolate", rows, then, text=text, ladles=poured, words=words)


def _stir_in(bowl: _Bowl, kind: str, row: Row, _: Crust | None) -> None:
    p = bowl.result.conditions.parameters
    wait_c = {"butter": p.finish.butter_c, "spirit": p.finish.spirit_c}.get(kind)
    if kind == "sour" and splits(bowl.result.whole, p):
        wait_c = COLD_C
    elif kind == "sour":
        kind = "other"
    starts_c = {"butter": BUTTER_C, "cream": FRIDGE_C}.get(kind, ROOM_C)
    alcohol_g = row[2] * row[1].ingredient.composition["ethanol"] / 100
    then = stirred(bowl.cooled_to(wait_c), _piece(row, starts_c))
    bowl.add(kind, [row], then, wait_c=wait_c, alcohol_g=alcohol_g)


def _stir_in_dry(bowl: _Bowl, kind: str, row: Row, _: Crust | None) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    bowl.dry.append((row[1].ingredient, row[2]))
    alone = ((row[1].ingredient, row[2]),)
    cold_c = p.texture.cold_reference_c
    hour, night = (drunk(result.whole, result.stop, cold_c, alone, h, p) for h in (HOUR_H, NIGHT_H))
    words = {"hour": _grams(hour.taken_g), "night": _grams(night.taken_g), "word": night.word}
    bowl.add(kind, [row], stirred(bowl.pot, _piece(row, ROOM_C)), words=words)


def _fold_in(bowl: _Bowl, kind: str, row: Row, _: Crust | None) -> None:
    result, p = bowl.result, bowl.result.conditions.parameters
    wait_c = p.finish.fold_c
    base = bowl.cooled_to(wait_c)
    into = _piece(row, FRIDGE_C)
    if bowl.folded is None:
        stiff = yield_stress(result.whole, result.stop, base.at_c, p)
        if result.whisked is not None:
            stiff *= p.texture.whisked_share
        if bowl.air > 0:
            stiff += float(
                foam.foam_yield(
                    foam.air_fraction(bowl.air), p.foam.tension_n_m, p.foam.bubble_m, p.foam.wide_pa_scale
                )
            )
    else:
        stiff = bowl.folded.yield_stress_pa
    share = 1.0 if kind == "whipped" else 0.0
    done = folded(base, bowl.air, stiff, into, share, p)
    words = {
        "volume": f"{done.volume_ml:.0f} ml",
        "lost": f"{100 * (1 - done.overmixed_kept):.0f} %",
    }
    bowl.add(kind, [row], stirred(base, into), wait_c=wait_c, words=words)
    bowl.folded, bowl.air = done, done.volume_ratio - 1


def _on_top(bowl: _Bowl, kind: str, row: Row, crusted: Crust | None) -> None:
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


_BY_KIND: Mapping[str, Callable[[_Bowl, str, Row, Crust | None], None]] = {
    "dry": _stir_in_dry,
    "fruit": _fold_in,
    "unwhipped": _fold_in,
    "whipped": _fold_in,
    "crust": _on_top,
    "topping": _on_top,
}


def _degrees(value: float | None) -> str:
    return "" if value is None else f"{{{value:.0f} C}}"


def _grams(value: float) -> str:
    return f"{{{value:.0f} g}}" if value >= 10 else f"{{{value:.1f} g}}"
