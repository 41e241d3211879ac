"""When it has gone wrong: what it is, whether it can be saved, and with how many grams of what."""

from __future__ import annotations

from dataclasses import dataclass, replace

from scipy.optimize import brentq

from custard.advice.bench.solve import texture_pa, with_starch
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.advice.mix.warnings import splits
from custard.conditions import USUAL, Conditions
from custard.errors import within
from custard.formula import Formula
from custard.larder.ingredients import ingredient
from custard.larder.vessels import one_of
from custard.mixture import blend, combined
from custard.physics.texture import NAPPE_PA
from custard.process.cook import CURDLED_AT
from custard.process.state import on_ramp

FAULTS: tuple[str, ...] = (
    "bits",
    "split",
    "too-thin",
    "too-thick",
    "lumps",
    "thin-next-day",
    "raw-starch",
    "caught",
    "cooked-egg-taste",
    "skin",
    "yolk-grains",
    "collapsed",
)
SOFT_PA = 5.0
"""Yield stress [Pa] a too thick sauce is loosened to, and a too thin one brought to: well within nappe."""
MILD_K = 4.0
"""How far past curdling [K] a starchless sauce can still be blended."""
MOST_YOLK = 3.0
"""How many times its yolk a thin sauce is given at most."""
BOILED_C = 85.0
"""Where a sauce thickened with starch is looked at [degC]: just off the boil."""
GUARDED_PERCENT = 0.8
"""Starch in the aqueous phase from which a split sauce comes back when whisked."""


@dataclass(frozen=True)
class Remedy:
    """What to do about a fault.

    Attributes
    ----------
    saved : "yes", "perhaps" or "no".
    add : what to weigh in, as pairs of ingredient and grams.
    """

    fault: str
    cause: str
    saved: str
    steps: tuple[str, ...]
    add: tuple[tuple[str, float], ...] = ()


def curds(curdled: float, starch_percent: float) -> str:
    """What becomes of the curds of a sauce when it is whisked off the heat: none, whisk out, or stay."""
    if curdled < CURDLED_AT:
        return "none"
    return "whisk out" if starch_percent >= GUARDED_PERCENT else "stay"


def rescue(
    formula: Formula,
    fault: str,
    have_g: float | None = None,
    over_k: float = 3.0,
    conditions: Conditions = USUAL,
) -> Remedy:
    """The remedy for a fault in `have_g` grams of a sauce; the whole batch by default.

    `over_k` says how far a split sauce has been above its curdling temperature, or a thick one above its
    stop [K]. Temperatures in the texts stand as "{82.4 C}".

    Raises
    ------
    UnknownName, OutOfRange
        when the fault or an amount cannot be.
    """
    one_of("fault", fault, FAULTS)
    result = assess(formula, conditions)
    mass = result.sauce_g if have_g is None else have_g
    within("have_g", mass, 1, 1_000_000)
    if fault == "too-thick":
        return _too_thick(result, mass, over_k)
    if fault == "too-thin":
        return _too_thin(result, mass)
    if fault == "split":
        return _soured(result) or _split(result.pan.starch_in_aqueous_percent, mass, over_k)
    return _KNOWN[fault]


def _too_thick(result: Assessment, mass_g: float, over_k: float) -> Remedy:
    """Loosened with cream: the overshot network, diluted, back to the middle of the nappe band."""
    p = result.conditions.parameters
    overshot = on_ramp(result.pan, result.course(), min(result.stop.at_c + over_k, result.boiling_c), p)
    sauce, cream = replace(result.pan, mass_g=mass_g), ingredient("whipping-cream-36")

    def stress(grams: float) -> float:
        mixture = combined(sauce, blend([(cream, grams)])) if grams > 0 else sauce
        return yield_stress(mixture, overshot, result.stop.at_c, p)

    if stress(0.0) <= SOFT_PA:
        steps = ("So far above its stop it is still nappe: warm it, and stir; it looks thicker cold.",)
        return Remedy("too-thick", "It looks thicker cold than it is.", "yes", steps)
    most = 3 * mass_g
    if stress(most) > SOFT_PA:
        cream_g = most
    else:
        cream_g = float(brentq(lambda grams: stress(grams) - SOFT_PA, 0.0, most, xtol=1e-3))
    steps = ("Off the heat, whisk the cream in a little at a time, until the spoon shows nappe.",)
    return Remedy(
        "too-thick", "Cooked past its stop, or reduced.", "yes", steps, (("whipping-cream-36", cream_g),)
    )


def _too_thin(result: Assessment, mass_g: float) -> Remedy:
    """Back on the heat when it was stopped early; yolk or starch when the mix cannot get there."""
    formula, at_c = result.formula, result.stop.at_c
    full = replace(result.stop, thickened=1.0)
    if yield_stress(result.pan, full, at_c, result.conditions.parameters) >= 1.2 * NAPPE_PA:
        steps = (
            f"Back on gentle heat, stirring, to {{{at_c:.1f} C}}; it has what it needs to thicken.",
            "Once it has been cooled, use it cold, in butter creams or icings, rather than heat it twice.",
        )
        return Remedy("too-thin", "Stopped too early.", "yes", steps)
    share = mass_g / result.whole.mass_g

    def soft(changed: Formula, read_c: float) -> bool:
        return texture_pa(assess(changed, result.conditions), read_c) < SOFT_PA

    factor = 1.0
    while soft(formula.with_yolks_times(factor), at_c) and factor < MOST_YOLK:
        factor += 0.05
    grams, boiled_c = 0.0, min(BOILED_C, result.boiling_c)
    while soft(with_starch(formula, grams), boiled_c) and grams < 0.05 * formula.mass_g():
        grams += 0.001 * formula.mass_g()
    yolk_g = (factor - 1) * formula.yolks() * formula.egg_size.yolk_g * share
    steps = (
        "Whisk the yolk with a ladle of the warm sauce, pour it back, and cook again; or",
        "whisk the starch into a little cold milk instead, stir it in, and boil for a minute.",
    )
    return Remedy(
        "too-thin",
        "Too little yolk for this much liquid.",
        "yes",
        steps,
        (("egg-yolk", yolk_g), ("cornstarch", grams * share)),
    )


def _soured(result: Assessment) -> Remedy | None:
    """Milk too sour for its casein splits whatever the egg does; nothing takes that back."""
    if not splits(result.pan, result.conditions.parameters):
        return None
    steps = ("Discard it.", "Next time keep the sour part out until it is cold, or take enough starch.")
    return Remedy("split", f"Too sour for the milk, at pH {result.pan.ph:.1f}.", "no", steps)


def _split(starch_percent: float, mass_g: float, over_k: float) -> Remedy:
    """Split above its own limit: starch brings it back, cold cream a little of it, nothing the rest."""
    steps: tuple[str, ...]
    if starch_percent >= GUARDED_PERCENT:
        steps = ("Off the heat, whisk hard or blend; the starch holds the curds small and takes them back.",)
        return Remedy("split", "Above its own limit, with starch to catch it.", "yes", steps)
    if over_k <= MILD_K:
        steps = (
            "Off the heat at once, into a cold bowl; blend with the cold cream; a hot jug must be vented.",
            "Pass through a fine sieve; use it cold. It stays a little grainy.",
        )
        cream = (("whipping-cream-36", mass_g * (0.1 + 0.04 * over_k)),)
        return Remedy("split", "A little above its own limit.", "perhaps", steps, cream)
    steps = ("Discard it and start again; no cream brings this many curds back.",)
    return Remedy("split", "Far above its own limit.", "no", steps)


_KNOWN: dict[str, Remedy] = {
    remedy.fault: remedy
    for remedy in (
        Remedy(
            "bits",
            "Tempered too fast, or a spot not stirred.",
            "yes",
            ("Through a fine sieve at once, into a cold bowl.", "Taste: if it is eggy, start again."),
        ),
        Remedy(
            "lumps",
            "Starch not dispersed, or whisked too slowly as it turned.",
            "yes",
            ("Sieve while hot, pressing through, then whisk hard.",),
        ),
        Remedy(
            "thin-next-day",
            "Not boiled long enough: an enzyme of the yolk eats the starch; or stirred hard after it set.",
            "no",
            ("Use it as a sauce.", "Next time hold the boil for a minute."),
        ),
        Remedy("raw-starch", "Not boiled.", "yes", ("Boil again, whisking, for a minute.",)),
        Remedy(
            "caught",
            "Heat too high, base too thin, or not scraped.",
            "perhaps",
            ("Do not scrape the base.", "Pass into a clean pan; taste before going on."),
        ),
        Remedy(
            "cooked-egg-taste",
            "A spot too hot for too long.",
            "perhaps",
            ("Use it cold, sweet and strongly flavoured, or discard it.",),
        ),
        Remedy(
            "skin", "No film on the surface.", "yes", ("Lift the skin off, then sieve; do not stir it in.",)
        ),
        Remedy(
            "yolk-grains",
            "Sugar lay on the yolks and drew their water.",
            "no",
            ("Discard those yolks; whisk the next ones as the sugar goes on.",),
        ),
        Remedy(
            "collapsed",
            "Too hot, not cooked enough, or it stood.",
            "perhaps",
            ("Whisk it cold over ice and fold in soft cream, or serve it at once as a sauce.",),
        ),
    )
}
