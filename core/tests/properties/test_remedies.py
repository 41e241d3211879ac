"""Every remedy, done again by its own steps, is what it said: what is weighed, what it becomes, how much."""

from __future__ import annotations

import re
from dataclasses import replace

import custard
import pytest
from custard.advice.mix.texture import texture_at
from custard.advice.trouble.answer import answer
from custard.advice.trouble.faults import faults
from custard.errors import CustardError
from custard.larder.ingredients import ingredient
from custard.mixture import blend, combined
from custard.process.heating.state import on_ramp
from validation import mixes

MIXES = {
    "anglaise": mixes.anglaise(),
    "lean anglaise": mixes.anglaise(5, 100),
    "pastry cream": mixes.pastry(),
    "pouring custard": mixes.POURED,
    "ice base": mixes.BASE,
    "crémeux": mixes.CREMEUX,
    "cream": mixes.CREAM,
    "filling": mixes.FILLING,
    "sabayon": mixes.sabayon(),
    "cups": mixes.CUPS,
}
HAVE_G = 600.0
WEIGHT = re.compile(r"\{([\d.]+) g\}")
CLOSE = 0.03


def answers(name, **said):
    """The answers to every fault that a mix can have."""
    result = custard.assess(MIXES[name])
    for fault in faults():
        try:
            yield result, fault, answer(result, fault, said=said, have_g=HAVE_G)
        except CustardError:
            continue  # this mix cannot have it


@pytest.mark.parametrize("over_k", [-3.0, 1.0, 4.0])
@pytest.mark.parametrize("name", MIXES)
def test_what_is_weighed_stands_in_the_steps_to_the_gram(name, over_k):
    seen = 0
    for _, fault, found in answers(name, over_stop_k=over_k):
        shown = [float(one) for text in (found.now.say, *found.now.steps) for one in WEIGHT.findall(text)]
        for one in found.now.add:
            assert any(abs(said - one.grams) <= max(CLOSE * one.grams, 0.06) for said in shown), (fault, one)
            seen += 1
        more = sum(one.grams for one in found.now.add if not one.anew)
        assert found.after.yields_g == pytest.approx(HAVE_G + more - found.now.takes_g, rel=CLOSE), fault
    assert seen or name == "cups"  # nothing is stirred into what has set


@pytest.mark.parametrize("over_k", [1.0, 2.0, 4.0, 6.0])
@pytest.mark.parametrize("name", ["anglaise", "lean anglaise", "pouring custard", "ice base", "cream"])
def test_a_thick_sauce_loosened_by_the_steps_is_what_they_say(name, over_k):
    """What is stirred in is read off the step, rounded as it is said, and mixed in again."""
    result, said = custard.assess(MIXES[name]), {"over_stop_k": over_k}
    found = answer(result, "too-thick", said=said, have_g=HAVE_G).now
    if not found.add or found.takes_g:
        return
    grams = next(float(one) for text in found.steps for one in WEIGHT.findall(text))
    p = result.conditions.parameters
    happened = on_ramp(result.pan, result.course(), result.stop.at_c + over_k, p)
    mixed = combined(
        replace(result.pan, mass_g=HAVE_G), blend([(ingredient(found.add[0].ingredient), grams)])
    )
    at_c = result.stop.at_c
    spoon = texture_at(mixed, happened, at_c, min(p.spoon.spoon_c, at_c), p)
    assert spoon.word == found.becomes
    assert spoon.film_mm == pytest.approx(found.spoon.film_mm, rel=CLOSE)


@pytest.mark.parametrize("name", MIXES)
def test_what_is_cooked_again_with_more_in_it_is_what_the_new_formula_gives(name):
    """Where nothing is sieved off, the formula that stands after a remedy is assessed by itself."""
    for _, fault, found in answers(name, over_stop_k=-3.0):
        now = found.now
        if now.heat_to_c is None or not now.add or now.spoon is None or fault in ("lumps", "thin-next-day"):
            continue
        hot = custard.assess(found.after.formula).hot
        assert hot.word == now.becomes, fault
        assert hot.film_mm == pytest.approx(now.spoon.film_mm, rel=CLOSE), fault
