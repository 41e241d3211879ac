"""Hot sauce onto chocolate: ladle by ladle, where it lands, and what it looks like on the way.

Chocolate is fat with sugar and cocoa in it. A little water makes those cling together: a stiff paste that
sweats its fat. As more comes they are wetted through, the fat is taken up in drops, and it shines.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from custard.figures import Grams, Hundredths, TenthsCelsius
from custard.formula import Formula
from custard.larder.ingredients import ingredient
from custard.larder.parameters import Parameters, standard
from custard.mixture import Mixture, blend, mix
from custard.process.heating.pot import HOTTEST_C, Pot, laid_out, rising_to, stirred
from custard.vocabulary import When

MELTED_C = 35.0
"""Above this no cocoa butter is solid."""
ROOM_C = 20.0
MELTED, STIFF, SPLITTING, COMES_BACK, SHINES = "melts", "stiff", "splitting", "comes back", "shines"
LOOKS: tuple[tuple[float, str], ...] = (
    (0.05, MELTED),
    (0.6, STIFF),
    (1.0, SPLITTING),
    (1.5, COMES_BACK),
)
"""What it looks like, by its water over what wets all that is not fat; above the last it shines."""
MOST_LADLES = 12


@dataclass(frozen=True)
class OntoChocolate:
    """Landing temperature [degC], whether all melts, and the least the sauce must have for that [degC]."""

    landing_c: TenthsCelsius
    melts: bool
    least_sauce_c: TenthsCelsius


@dataclass(frozen=True)
class Ladle:
    """One addition of sauce onto chocolate: how much [g], where all comes to [degC], what it looks like.

    `wetted` is its water over what wets all sugar and cocoa [1].
    """

    grams: Grams
    at_c: TenthsCelsius
    look: str
    wetted: Hundredths


def under(formula: Formula) -> Mixture | None:
    """The chocolate that a sauce goes onto, or that joins off the heat; None without."""
    found = [
        (line.ingredient, g)
        for _, line, g in formula.joining(When.UNDER_IT, When.OFF_THE_HEAT)
        if line.ingredient.is_chocolate
    ]
    return blend(found) if found else None


def onto_chocolate(formula: Formula, sauce_c: float, chocolate_c: float = ROOM_C) -> OntoChocolate | None:
    """The formula's cooked part at `sauce_c` onto its chocolate at `chocolate_c` [degC].

    Mass and heat are conserved, the melting of fat paid for. None when no chocolate joins after the heat.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    sauce_c : temperature of the sauce as it is poured [degC].
    chocolate_c : temperature of the chocolate [degC].
    """
    chocolate = under(formula)
    if chocolate is None:
        return None
    sauce, cold = mix(formula.in_the_pan()), laid_out(chocolate, chocolate_c)
    landing = stirred(laid_out(sauce, sauce_c), cold).at_c

    def lands(sauce_at: float) -> float:
        return stirred(laid_out(sauce, sauce_at), cold).at_c

    least = rising_to(lands, MELTED_C, chocolate_c, HOTTEST_C)
    return OntoChocolate(landing, landing >= MELTED_C, least)


def wetted(mixture: Mixture, p: Parameters) -> float:
    """Water of chocolate and sauce together over what wets all the sugar and cocoa that came dry [1]."""
    f = mixture.fractions
    dry = f["cocoa_solids"] + f["milk_protein"] + f["sucrose"] + f["lactose"] + f["other_sugars"] + f["rest"]
    return float((f["water"] + f["ethanol"]) / max(p.finish.chocolate_water * dry, 1e-9))


def look(wet: float) -> str:
    """What chocolate with so much water looks like."""
    return next((word for limit, word in LOOKS if wet < limit), SHINES)


def ladles(sauce: Pot, chocolate: Pot, p: Parameters | None = None) -> tuple[Pot, tuple[Ladle, ...]]:
    """A sauce onto chocolate, each addition about as large as what is smooth already; and what comes of it.

    The first is small against the chocolate: it wets it through and is worked to a paste before more comes.
    """
    p = p or standard()
    left_g, now = sauce.mass_g, chocolate
    size_g = p.finish.first_pour_share * chocolate.mass_g
    # A large batch is not ladled for ever: the last takes what is left.
    found: list[Ladle] = []
    while left_g > 1e-9:
        last = left_g <= 1.25 * size_g or len(found) == MOST_LADLES - 1
        portion = left_g if last else size_g
        part = portion / sauce.mass_g
        piece = Pot(
            replace(sauce.mixture, mass_g=portion),
            sauce.at_c,
            part * sauce.solid_cocoa_g,
            part * sauce.solid_milk_g,
        )
        now = stirred(now, piece)
        wet = wetted(now.mixture, p)
        found.append(Ladle(portion, now.at_c, look(wet), wet))
        left_g -= portion
        size_g = now.mass_g
    return now, tuple(found)


def milk_to_shine_g(mixture: Mixture, p: Parameters) -> float:
    """How much more milk [g] brings a stiff or split chocolate to shine; 0 when it does already.

    Milk brings far more water than its own dry part needs, so there is always an amount that does.
    """
    milk = blend([(ingredient("whole-milk"), 1.0)])
    wanted = LOOKS[-1][0]

    def with_more(more_g: float) -> float:
        parts = laid_out(mixture, ROOM_C), laid_out(replace(milk, mass_g=more_g), ROOM_C)
        return wetted(stirred(*parts).mixture, p)

    if wetted(mixture, p) >= wanted:
        return 0.0
    return rising_to(with_more, wanted, 1e-6, MOST_LADLES * float(mixture.mass_g))
