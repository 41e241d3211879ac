"""The faults that no curve of a pan tells of: made by simulation, asked about by touch, and put right.

What really happened is drawn by a seed and hidden; the cook answers the two questions with the nearest words.
The remedy is then carried out on what really is there.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, replace

import custard
import numpy as np
import pytest
from custard import trouble
from custard.advice.mix.churning import FREEZES_SHARE, draws_share
from custard.advice.mix.texture import yield_stress
from custard.larder import ingredient
from custard.mixture import blend, combined
from custard.physics.foam import foam_word
from custard.physics.texture import NAPPE_PA, word
from custard.process import Cups, StoveRehearsal
from custard.process.baking.bake import SET_AT
from custard.process.baking.crust import crust
from custard.process.cooling.chocolate import onto_chocolate, wetted
from custard.process.following.replay import boiled_on
from custard.process.heating.cook import usual_stove
from custard.process.heating.pot import laid_out
from custard.process.whisking.folding import WHIPPED, Base, folded
from custard.process.whisking.whisk import whisk

pytestmark = pytest.mark.xdist_group("test_trouble_rest")
"""What is made here is made once, and asked about in many ways."""

SEEDS = 8


@functools.cache
def made_of(family, *lines, altitude_m=0.0):
    """An assessed formula; each line as "amount of ingredient" with perhaps "@ when"."""
    found = []
    for line in lines:
        written, _, when = line.partition(" @ ")
        amount, _, name = written.rpartition(" of ")
        found.append({"ingredient": name, "amount": amount, **({"when": when} if when else {})})
    content = {"format": "old-spoon/formula", "version": 2, "name": "one", "family": family, "lines": found}
    return custard.assess(custard.read_formula(content), custard.Conditions(altitude_m=altitude_m))


def anglaise(dice):
    yolks, sugar = ((5, 80), (6, 100), (8, 120), (7, 90))[dice.integers(4)]
    return made_of("anglaise", "500 ml of whole-milk", f"{yolks} of egg-yolk", f"{sugar} g of white-sugar")


def pastry(dice):
    starch, high = (35, 40, 45)[dice.integers(3)], float((0, 0, 1600)[dice.integers(3)])
    lines = ("500 ml of whole-milk", "4 of egg-yolk", "110 g of white-sugar", f"{starch} g of cornstarch")
    return made_of("pastry-cream", *lines, altitude_m=high)


def sabayon(dice, yolks=6, wine=120):
    return made_of(
        "sabayon",
        f"{yolks} of egg-yolk",
        f"{int(dice.choice([90, 100, 110]))} g of white-sugar",
        f"{wine} ml of fortified-wine-sweet",
        "150 g of whipping-cream-36 @ folded when cool",
    )


def ice(dice, sugar=None):
    sugar = sugar or int(dice.choice([130, 150]))
    lines = ("500 ml of whole-milk", "200 g of whipping-cream-36", "6 of egg-yolk")
    return made_of("ice-base", *lines, f"{sugar} g of white-sugar")


def ganache(dice, chocolate=180):
    lines = ("250 g of whole-milk", "250 g of whipping-cream-36", "5 of egg-yolk", "50 g of white-sugar")
    return made_of("cremeux", *lines, f"{chocolate} g of dark-chocolate-70 @ under it")


def cup(dice, eggs=4):
    return made_of("baked-custard", "500 ml of whole-milk", f"{eggs} of whole-egg", "90 g of white-sugar")


def burnt(dice):
    return made_of("burnt-cream", "500 g of whipping-cream-36", "6 of egg-yolk", "90 g of white-sugar")


@dataclass
class Case:
    """What really happened, and whether a remedy carried out on it lands."""

    result: custard.Assessment
    truth: dict
    lands: Callable[[trouble.Answer], bool]
    story: trouble.Story | None = None


def said(case, fault):
    """The two questions, each answered with the words nearest to what is true."""
    story = case.story or trouble.unknown_story(case.result)
    found = {}
    for place in range(2):
        asked = trouble.questions(case.result, fault, story, found)
        if place >= len(asked):
            break
        question = asked[place]
        found |= min(question.answers, key=lambda one: far(question, one, case.truth)).sets
    return found


def far(question, answer, truth):
    """How far an answer is from what is true, in each of its figures, beside how far they lie apart."""
    found = 0.0
    for name, value in answer.sets.items():
        values = [one.sets[name] for one in question.answers if name in one.sets]
        found += abs(value - truth.get(name, value)) / (max(values) - min(values) or 1.0)
    return found


def real_mix(result, answer, **instead):
    """The sauce as it really is with what was weighed in: ingredient by ingredient, some not as written."""
    share = 1.0
    rows = [
        (line.ingredient, g * instead.get(line.ingredient.id, 1.0))
        for line, g in zip(result.formula.lines, result.weights_g, strict=True)
        if line.join.in_the_sauce
    ]
    return blend([*rows, *((ingredient(one.ingredient), share * one.grams) for one in answer.now.add)])


def hot_word(result, mixture, state):
    return word(yield_stress(mixture, state, result.stop.at_c, result.conditions.parameters))


def lumps(dice, cause):
    result, lost = pastry(dice), float(dice.uniform(0.03, 0.16))
    truth = {
        "dry": {"starch_c": dice.uniform(66, 92), "gap_s": dice.uniform(0, 6)},
        "turned": {"starch_c": dice.uniform(5, 30), "gap_s": dice.uniform(24, 50)},
        "skin": {"starch_c": dice.uniform(5, 30), "gap_s": dice.uniform(0, 6)},
    }[cause]

    def lands(answer):
        mixture, state = real_mix(result, answer, cornstarch=1 - lost), result.stop
        if answer.now.heat_to_c is not None:
            state, _ = boiled_on(mixture, state, result.boiling_c, answer.now.for_s, 1.0, result.conditions)
        return hot_word(result, mixture, state) == answer.now.wanted

    return Case(result, {**truth, "lumps_share": lost}, lands)


def cooked_egg_taste(dice, cause):
    result = anglaise(dice)
    over, warm, gap = {"hot": (4, 0, 0), "warm": (0.5, 2.5, 0), "spot": (0.5, 0, 40)}[cause]
    truth = {"over_stop_k": over + dice.uniform(-0.6, 1.5), "warm_h": warm * dice.uniform(0.6, 1.2)}
    truth["gap_s"] = gap * dice.uniform(0.7, 1.3)
    return Case(result, truth, lambda answer: answer.now.saved != "yes" and answer.unknown != "")


def skin(dice, cause):
    truth = {
        "bare": {"film": 0.0, "film_c": dice.uniform(10, 30)},
        "rim": {"film": 1.0, "film_c": dice.uniform(60, 80)},
        "late": {"film": 2.0, "film_c": dice.uniform(8, 35)},
    }[cause]
    result = pastry(dice) if dice.integers(2) else anglaise(dice)
    return Case(result, truth, lambda answer: answer.now.lands and answer.after.yields_g < result.yield_g)


def yolk_grains(dice, cause):
    result, lost = anglaise(dice), float(dice.uniform(0.02, 0.09))
    waits = dice.uniform(200, 1200) if cause == "sugar" else dice.uniform(0, 40)
    truth = {"sugar_waits_s": waits, "open_min": dice.uniform(8, 50), "dairy_on": float(dice.integers(2))}

    def lands(answer):
        if not truth["dairy_on"]:
            return any(one.anew and one.ingredient == "egg-yolk" for one in answer.now.add)
        found = custard.assess(result.formula.with_yolks_times(1 - lost))
        return found.hot.word == answer.now.wanted

    return Case(result, truth, lands)


def weeps(dice, cause):
    result = pastry(dice) if cause in ("frozen", "old") else anglaise(dice)
    truth = {
        "frozen": {"frozen_days": dice.uniform(4, 60), "age_h": 10.0, "over_stop_k": 0.2},
        "over": {"frozen_days": 0.0, "age_h": dice.uniform(4, 30), "over_stop_k": dice.uniform(3.5, 7)},
        "old": {"frozen_days": 0.0, "age_h": dice.uniform(62, 120), "over_stop_k": 0.2},
        "drips": {"frozen_days": 0.0, "age_h": dice.uniform(4, 20), "over_stop_k": 0.2},
    }[cause]

    def lands(answer):
        if answer.unsafe:
            # Thrown away: rightly where it is nearer to "three days or more" than to "since yesterday".
            return truth["age_h"] > 53
        # Nobody is promised more than there is: a thawed starch cream is never called whole again.
        return answer.now.lands or answer.now.saved == "perhaps"

    return Case(result, truth, lands)


def collapsed(dice, cause):
    result = sabayon(dice, 1, 400) if cause == "slack" else sabayon(dice)
    curdles_k = result.window.curdles_c - result.stop.at_c
    lift = {"cool": dice.uniform(-16, -8), "hot": curdles_k + dice.uniform(0, 2)}.get(
        cause, dice.uniform(-1, 1)
    )
    stood = dice.uniform(9, 40) if cause == "stood" else dice.uniform(0, 3)
    stove = usual_stove(result.pan, result.conditions.parameters, over_steam=True)
    hidden = replace(stove, power_w=stove.power_w * dice.uniform(0.8, 1.25))
    done = whisk(result.pan, 20, result.stop.at_c + lift, stove=hidden)
    if cause == "cool":
        assert done.weeps_per_h > 0.3
    if cause == "slack":
        assert result.hot.yield_stress_pa < NAPPE_PA
    if cause == "hot":
        assert done.curdled[-1] > 0.05
    truth = {"over_stop_k": lift, "stood_min": stood}

    def lands(answer):
        if cause == "hot":
            return answer.now.saved == "perhaps" and any("cream" in one.name for one in answer.now.add)
        rows = [(line.ingredient, g) for line, g in zip(result.formula.lines, result.weights_g, strict=True)]
        cooked = [row for row, line in zip(rows, result.formula.lines, strict=True) if line.join.heated]
        share = sum(g for _, g in cooked) / answer.after.yields_g
        more = [(ingredient(one.ingredient), one.grams * share) for one in answer.now.add]
        again = whisk(blend([*cooked, *more]), 20, answer.now.heat_to_c, stove=hidden)
        assert again.weeps_per_h < 0.2
        return foam_word(float(again.overrun[-1]), float(again.yield_stress_pa[-1])) == "mounds"

    return Case(result, truth, lands)


def fold_falls(dice, cause):
    result, p = sabayon(dice), custard.larder.standard()
    at_c = dice.uniform(42, 65) if cause == "warm" else dice.uniform(8, 20)
    peaks = {"runny": 0.0, "butter": 2.0}.get(cause, 1.0)
    truth = {"fold_c": at_c, "mixed": float(cause == "overmixed"), "peaks": peaks}
    cream = laid_out(blend([(ingredient("whipping-cream-36"), 150.0)]), 5.0)
    fell = folded(Base(laid_out(result.pan, at_c), 2.0, 1.0, 1.0), cream, WHIPPED, p)
    if cause == "warm":
        assert fell.air_kept < 0.85

    def lands(answer):
        new = laid_out(blend([(ingredient("whipping-cream-36"), answer.now.add[0].grams)]), 5.0)
        base = combined(result.pan, cream.mixture)
        left = laid_out(replace(base, mass_g=answer.after.yields_g - new.mass_g), 18.0)
        again = folded(Base(left, 0.1, 1.0, 1.0), new, WHIPPED, p)
        return again.volume_ratio >= 1.15

    return Case(result, truth, lands)


def chocolate(dice, cause):
    p = custard.larder.standard()
    result = ganache(dice, int(dice.choice([2300, 2600]))) if cause == "little" else ganache(dice)
    sauce_c = dice.uniform(34, 41) if cause == "cold" else dice.uniform(70, 82)
    look = {"cold": 2.0, "little": float(dice.integers(2)), "at-once": float(dice.integers(3))}[cause]
    truth = {"chocolate_look": look, "sauce_c": sauce_c, "poured_at_once": float(cause == "at-once")}
    if cause == "little":
        assert wetted(result.whole, p) < 1.5
    if cause == "cold":
        assert not onto_chocolate(result.formula, sauce_c, 16.0).melts

    def lands(answer):
        return wetted(real_mix(result, answer), p) >= 1.5 and answer.now.lands

    return Case(result, truth, lands)


def bath(dice, cause):
    result = sabayon(dice)
    steams, touches = {"still": (0.0, 0.0), "far": (1.0, 0.0), "touches": (1.0, 1.0), "hard": (2.0, 0.0)}[
        cause
    ]
    truth = {"bath_look": float(cause in ("touches", "hard")), "steams": steams, "touches": touches}
    stove = usual_stove(result.pan, result.conditions.parameters, over_steam=True)
    factor = {"still": 0.15, "far": 0.4, "touches": 3.0, "hard": 2.2}[cause] * dice.uniform(0.85, 1.15)
    real = StoveRehearsal(result.pan, stove, 25.0, int(dice.integers(1e6)), foam=True)
    real.turned(factor)
    while real.sauce_c < 55 and real.t_s < 240:
        real.on(5.0)

    def lands(answer):
        assert (answer.now.flame < 1) == (cause in ("touches", "hard"))
        real.turned(1 / factor)
        begins = real.t_s
        while real.sauce_c < answer.now.heat_to_c and real.t_s < begins + 3600:
            real.on(1.0)
        return real.curdled < 0.05 and real.t_s - begins < 3600

    return Case(result, truth, lands)


def churn(dice, cause):
    result = ice(dice, 330) if cause == "sweet" else ice(dice)
    base_c = dice.uniform(32, 60) if cause == "warm" else dice.uniform(3, 6)
    bowl_h = dice.uniform(1, 4) if cause == "bowl" else dice.uniform(14, 24)
    assert draws_share(result.whole, base_c, bowl_h) < FREEZES_SHARE <= draws_share(ice(dice).whole, 4, 24)

    def lands(answer):
        after_h = 12.0 if any("freezer" in step for step in answer.now.steps) else bowl_h
        after_c = 4.0 if base_c > 8 and answer.now.for_s else min(base_c, 6.0)
        return draws_share(real_mix(result, answer), after_c, after_h) >= FREEZES_SHARE

    return Case(result, {"churned_at_c": base_c, "bowl_h": bowl_h}, lands)


def ice_crystals(dice, cause):
    result = ice(dice)
    if cause == "watery":
        result = made_of("ice-base", "800 ml of whole-milk", "3 of egg-yolk", "120 g of white-sugar")
    truth = {
        "frozen_days": dice.uniform(50, 150) if cause == "kept" else dice.uniform(0, 10),
        "swings": float(cause == "swings"),
        "churn_min": dice.uniform(40, 70) if cause == "slow" else dice.uniform(18, 30),
    }
    return Case(result, truth, lambda answer: answer.now.becomes == "freezes" and answer.unknown != "")


def cups(dice, cause):
    result = cup(dice, 1) if cause == "lean" else cup(dice)
    vessel = Cups(count=6)
    bath_c = {"cold-bath": dice.uniform(69, 72), "fierce": dice.uniform(95, 99)}.get(
        cause, dice.uniform(80, 84)
    )
    real = vessel.baked(result.pan, 50.0, bath_c)
    goal_s = float(vessel.baked(result.pan, 50.0).out_s or 3600.0)
    true_s = real.out_s or 3600.0
    out_s = {"early": true_s * dice.uniform(0.7, 0.85), "late": true_s + dice.uniform(700, 1500)}.get(
        cause, goal_s
    )
    if cause == "fierce":
        out_s = true_s + 240
    here = int(np.searchsorted(real.t_s, out_s))
    if cause in ("early", "cold-bath"):
        assert real.set_centre[here] < SET_AT
    if cause == "lean":
        assert result.hot.yield_stress_pa < result.family.target_pa
    readings = [
        (float(t), float(c) + dice.normal(0, 0.2))
        for t, c in zip(real.t_s[:here:6], real.centre_c[:here:6], strict=True)
    ]
    story = trouble.story_of_cups(result, readings, vessel)
    truth = {"cups_look": float(cause in ("late", "fierce")), "out_over_s": out_s - goal_s, "baths_c": bath_c}

    def lands(answer):
        if cause == "lean":
            return answer.now.saved == "no"
        if cause in ("late", "fierce"):
            return answer.now.saved == "perhaps"
        then = vessel.baked(result.pan, 50.0) if cause == "cold-bath" else real
        at = int(np.searchsorted(then.set_centre, real.set_centre[here])) + round(answer.now.for_s / 5)
        at = min(at, then.t_s.size - 1)
        return then.set_centre[at] >= 0.75 and then.curdled_edge[at] < 0.3

    return Case(result, truth, lands, story)


def crusts(dice, cause):
    result, p = burnt(dice), custard.larder.standard()
    truth = {
        "stood": {"crust_min": dice.uniform(70, 300), "burnt": 1.0, "crust_share": dice.uniform(0.9, 1.3)},
        "pale": {"crust_min": dice.uniform(1, 8), "burnt": dice.uniform(0, 0.3), "crust_share": 1.0},
        "thin": {"crust_min": dice.uniform(1, 20), "burnt": 1.0, "crust_share": dice.uniform(0.3, 0.5)},
    }[cause]
    crisp = crust(10, p).crisp_min
    assert (truth["crust_min"] > crisp) == (cause == "stood")

    def lands(answer):
        on = sum(one.grams for one in answer.now.add) + (
            0 if cause == "stood" else truth["crust_share"] * crust(10, p).grams
        )
        return on >= 0.8 * crust(10, p).grams and answer.now.cautions != ()

    return Case(result, truth, lands)


def yolks_short(dice, cause):
    result = anglaise(dice)
    short = float(dice.integers(1, 4)) if cause == "counted" else 1.0
    size = 1.0 if cause == "counted" else dice.uniform(0.8, 0.88)
    have = (result.formula.yolks() - short) * size

    def lands(answer):
        factor = have / result.formula.yolks()
        more = [one for one in answer.now.add if one.ingredient == "cornstarch"]
        if "Make less" in answer.now.say:
            return custard.assess(result.formula.times(factor)).hot.word == answer.now.wanted
        formula = result.formula.with_yolks_times(factor)
        if more:
            formula = custard.bench.with_starch(formula, more[0].grams)
        return custard.assess(formula).hot.word == answer.now.wanted

    return Case(result, {"short": short, "yolk_size": size}, lands)


def too_little(dice, cause):
    result, lack = anglaise(dice), float(dice.uniform(0.08, 0.5))
    truth = {
        "lack_share": lack,
        "left": dice.uniform(0.8, 0.88) if cause == "steamed" else dice.uniform(0.95, 0.99),
        "lost_share": dice.uniform(0.12, 0.2) if cause == "lost" else dice.uniform(0.01, 0.05),
    }

    def lands(answer):
        need_g = result.yield_g * said_lack / (1 - said_lack)
        if answer.now.add:
            mixture = combined(
                result.pan, blend([(ingredient(one.ingredient), one.grams) for one in answer.now.add])
            )
            return yield_stress(mixture, result.stop, result.stop.at_c, custard.larder.standard()) >= NAPPE_PA
        weighed = sum(float(step.split()[0][1:]) for step in answer.now.steps if " g} of " in step)
        return weighed >= need_g

    case = Case(result, truth, lands)
    said_lack = said(case, "too-little")["lack_share"]
    return case


def pan_full(dice, cause):
    result, fill = anglaise(dice), float(dice.uniform(0.72, 1.0))
    truth = {"pan_fill": fill, "asked_share": 1.0 if cause == "pan" else dice.uniform(1.4, 2)}

    def lands(answer):
        left = fill * (1 - answer.now.aside_g / result.yield_g)
        return left <= 0.68 and answer.after.yields_g == pytest.approx(result.sauce_g, abs=0.5)

    return Case(result, truth, lands)


MAKERS = {
    "lumps": lumps,
    "cooked-egg-taste": cooked_egg_taste,
    "skin": skin,
    "yolk-grains": yolk_grains,
    "weeps": weeps,
    "collapsed": collapsed,
    "fold-falls": fold_falls,
    "chocolate": chocolate,
    "bath": bath,
    "churn": churn,
    "ice-crystals": ice_crystals,
    "cups": cups,
    "crust": crusts,
    "yolks-short": yolks_short,
    "too-little": too_little,
    "pan-full": pan_full,
}
MADE = [(fault, cause) for fault in MAKERS for cause in trouble.faults()[fault].causes]


@functools.cache
def answered(fault, cause):
    """Eight hidden batches of one cause, with what was answered of each."""
    found = []
    for seed in range(SEEDS):
        case = MAKERS[fault](np.random.default_rng(7000 + seed), cause)
        found.append((case, trouble.answer(case.result, fault, case.story, said(case, fault))))
    return found


@pytest.mark.parametrize(("fault", "cause"), MADE)
def test_the_cause_that_made_it_is_named_first(fault, cause):
    assert np.mean([answer.causes[0].cause == cause for _, answer in answered(fault, cause)]) >= 0.75


def test_over_all_of_them_nine_times_in_ten():
    came = [answer.causes[0].cause == cause for fault, cause in MADE for _, answer in answered(fault, cause)]
    assert len(came) >= 200
    assert np.mean(came) >= 0.9


@pytest.mark.parametrize(("fault", "cause"), MADE)
def test_the_remedy_lands_on_what_is_really_there(fault, cause):
    assert np.mean([case.lands(answer) for case, answer in answered(fault, cause)]) >= 0.85


def test_over_all_of_them_nineteen_remedies_in_twenty_land():
    landed = [case.lands(answer) for fault, cause in MADE for case, answer in answered(fault, cause)]
    assert len(landed) >= 200
    assert np.mean(landed) >= 0.95


@pytest.mark.parametrize(("fault", "cause"), MADE)
def test_no_remedy_is_less_safe_than_what_it_mends(fault, cause):
    """It never keeps longer than it did, and what was cold before says how warm it must be made."""
    for case, answer in answered(fault, cause):
        plain = custard.after.life(case.result)
        assert answer.after.life.chilled_h <= plain.chilled_h
        assert set(answer.after.allergens) >= set(case.result.allergens)
        assert answer.now.warmed_again or not (answer.now.heat_to_c and case.truth.get("age_h", 0) > 1)
        assert 1 <= len(answer.questions) <= 2


def test_every_fault_is_made_here_or_at_the_pan():
    at_the_pan = {"too-thin", "too-thick", "bits", "split", "caught", "raw-starch", "thin-next-day"}
    assert {*at_the_pan, *MAKERS} == set(trouble.faults())
