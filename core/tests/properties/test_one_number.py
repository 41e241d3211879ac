"""Whatever two parts of the product say of one mix is the same number: every formula of the demo kitchen, at
three heights, for every target."""

from __future__ import annotations

import functools
import json
import re
from pathlib import Path

import custard
import numpy as np
import pytest
from custard.advice.bench.solve import well_cooked
from custard.cli import commands
from custard.cli.main import main

FORMULAS = json.loads((Path(__file__).parents[3] / "server/demo/formulas.json").read_text(encoding="utf-8"))
NAMES = [content["name"] for content in FORMULAS]
HEIGHTS = (0, 1500, 3000)
ENDS = (HEIGHTS[0], HEIGHTS[-1])
"""What takes long is asked at the sea and on the mountain only."""
DEGREES = re.compile(r"\{(-?[\d.]+) C\}")


@functools.cache
def assessed(name: str, height: int) -> custard.Assessment:
    """A formula of the demo kitchen at a height; each is assessed once for all tests."""
    formula = custard.read_formula(FORMULAS[NAMES.index(name)])
    return custard.assess(formula, custard.Conditions(altitude_m=height, rule="codex"))


@pytest.fixture(
    params=[(name, height) for name in NAMES for height in HEIGHTS], ids=lambda one: f"{one[0]}-{one[1]}"
)
def result(request):
    return assessed(*request.param)


@pytest.fixture(
    params=[(name, height) for name in NAMES for height in ENDS], ids=lambda one: f"{one[0]}-{one[1]}"
)
def at_an_end(request):
    return assessed(*request.param)


@pytest.fixture
def conditions(result):
    return result.conditions


def said(text: str, before: str) -> float | None:
    """The temperature that follows some words in a text."""
    found = re.search(rf"{before} \{{(-?[\d.]+) C\}}", text)
    return float(found[1]) if found else None


def test_the_plan_says_the_stop_and_the_window_of_the_assessment(result):
    stages = {stage.stage: stage for stage in custard.stove.stages(result)}
    assert stages["cook"].at_c == result.stop.at_c
    known = [result.stop.at_c, result.boiling_c, *vars(result.window).values()]
    rounded = {f"{value:.1f}" for value in known if value is not None}
    for text in DEGREES.findall(stages["cook"].say + stages["cook"].why):
        assert text in rounded


@pytest.mark.parametrize("name", NAMES)
def test_the_command_line_says_what_the_library_says(name, tmp_path, capsys, monkeypatch):
    """The bands are drawn with few draws, for the same formula under the same conditions."""
    few = functools.partial(custard.bands.window_band, draws=8)
    monkeypatch.setattr(commands, "window_band", few)
    monkeypatch.setattr(commands, "texture_band", lambda *_: {})
    result = assessed(name, 1500)
    path = tmp_path / "mix.json"
    path.write_text(json.dumps(FORMULAS[NAMES.index(name)]))
    assert main(["assess", str(path), "--altitude-m", "1500"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["stop_c"] == round(result.stop.at_c, 2)
    assert told["boiling_c"] == round(result.boiling_c, 2)
    window = custard.plain(result.window)
    assert {name: told["window"][name] for name in window} == window
    assert told["texture"]["cold"] == custard.plain(result.cold)
    expected = few(result.formula, result.conditions)
    assert told["window"]["band"] == {
        name: None if band is None else list(band) for name, band in expected.items()
    }


def test_a_band_is_drawn_about_the_window_that_is_said(result, conditions):
    """Not about that of another height or another rate."""
    bands = custard.bands.window_band(result.formula, conditions, draws=20)
    both = [
        (band, getattr(result.window, name))
        for name, band in bands.items()
        if band is not None and getattr(result.window, name) is not None
    ]
    assert both
    assert all(low - 2.5 < value < high + 2.5 for (low, high), value in both)


def test_scaling_reaches_the_yield_that_is_said(result, conditions):
    sized = custard.bench.for_portions(result.formula, 10, 60, conditions)
    assert custard.assess(sized, conditions).yield_g == pytest.approx(600, rel=2e-3)


def test_a_handle_left_where_it_is_changes_no_number(result, conditions):
    same = custard.bench.turned(result.formula, custard.bench.handle_values(result.formula))
    again = custard.assess(same, conditions)
    assert again.stop.at_c == pytest.approx(result.stop.at_c, abs=0.05)
    assert again.boiling_c == pytest.approx(result.boiling_c, abs=0.01)


def test_the_map_lifts_where_the_formula_is_stopped(result, conditions):
    seen = custard.bench.ratio_map(result.formula, side=5, conditions=conditions)
    assert seen.lift_c == result.stop.at_c
    assert seen.boiled == result.stop.boiled
    reached = seen.nappe_c[np.isfinite(seen.nappe_c)]
    assert (reached <= result.boiling_c + 2.5).all()


def test_no_school_goes_past_the_boil(result):
    for question in custard.bench.questions(result):
        for school in question.schools:
            for text in DEGREES.findall(school.consequence):
                if question.question in ("temper",):
                    assert float(text) <= result.boiling_c + 0.05


@pytest.mark.parametrize("fault", ["too-thin", "too-thick", "bits", "split", "caught", "yolk-grains"])
def test_a_remedy_goes_back_to_the_stop_and_to_no_other_number(at_an_end, fault):
    """Its own, or that of the mix it becomes; where its curve is known it may have a number of its own."""
    result, conditions = at_an_end, at_an_end.conditions
    if not custard.trouble.met(result, custard.trouble.faults()[fault]):
        with pytest.raises(custard.Impossible, match="cannot be in"):
            custard.trouble.rescue(result.formula, fault, conditions=conditions)
        return
    found = custard.trouble.rescue(result.formula, fault, conditions=conditions)
    after = custard.assess(found.after.formula, conditions)
    fewer = (
        custard.assess(result.formula.with_yolks_times(0.94), conditions) if fault == "yolk-grains" else after
    )
    stops = {round(one.stop.at_c, 1) for one in (result, after, fewer)}
    told = {float(text) for step in found.now.steps for text in DEGREES.findall(step)}
    assert not any("°" in step for step in found.now.steps)
    if result.way.undisturbed:
        assert not told, "what is in the oven goes by its wobble"
    elif found.now.heat_to_c is not None:
        assert round(found.now.heat_to_c, 1) in stops
        # The boil is told in whole degrees.
        assert any(abs(found.now.heat_to_c - each) <= 0.5 for each in told)
    elif fault == "too-thin":
        assert found.now.add, "it is neither put back on the heat nor thickened"


@pytest.mark.parametrize("target", custard.bench.TARGETS)
@pytest.mark.parametrize("at_c", [4.0, 60.0])
def test_solve_says_what_the_assessment_of_its_answer_says(at_an_end, target, at_c):
    result, conditions = at_an_end, at_an_end.conditions
    try:
        found = custard.bench.for_texture(result.formula, target, at_c, conditions=conditions)
    except custard.bench.OutOfReach as refused:
        # What is nearest is said with the refusal, and has to be as true as an answer.
        found = refused.nearest
        assert found.reached in str(refused)
    after = custard.assess(found.formula, conditions)
    stopped, taken = said(found.reached, "stopped at"), said(found.reached, "cooked on to")
    assert (stopped is None) != (taken is None)
    if stopped is not None:
        assert stopped == round(after.stop.at_c, 1)
        if at_c == after.conditions.parameters.texture.cold_reference_c:
            assert found.reached.startswith(after.cold.word)
    else:
        # Past its stop, which is told too; never past the margin from curdling, nor past its own boil.
        assert said(found.reached, "past its stop at") == round(after.stop.at_c, 1)
        assert taken == (found.lift_c or round(well_cooked(after).at_c, 1))
        assert taken <= round(after.boiling_c, 1)
        assert after.way.may_boil or after.way.foams


def test_a_cup_is_solved_for_the_stop_that_the_bench_shows():
    """It was said to be stopped at 82.4 where the Bench said 78.6."""
    cups = next(content for content in FORMULAS if content["family"] == "baked-custard")
    formula = custard.read_formula(cups)
    if formula.yolks() <= 0:
        lines = [*cups["lines"], {"ingredient": "egg-yolk", "amount": "2"}]
        formula = custard.read_formula({**cups, "lines": lines})
    found = custard.bench.swap_dairy(formula, "whole-milk")
    assert said(found.reached, "stopped at") == round(custard.assess(found.formula).stop.at_c, 1)


def test_eggs_in_the_house_are_meant_everywhere(anglaise):
    large = custard.Conditions(eggs="EU-XL")
    as_made = custard.assess(anglaise, large)
    assert as_made.formula.eggs == "EU-XL"
    assert as_made.weights_g[1] > custard.assess(anglaise).weights_g[1]
    assert custard.process.landing_c(anglaise, 92, conditions=large) == custard.process.landing_c(
        as_made.formula, 92
    )
    seen = custard.bench.ratio_map(anglaise, side=5, conditions=large)
    assert seen.here == custard.bench.ratio_map(as_made.formula, side=5).here


ROOT = Path(custard.__file__).parent
UNITS = re.compile(r"\d\s*°[CF]|\}\s*°[CF]|degrees? (?:C|F)\b")


@pytest.mark.parametrize(
    "path",
    [path for path in ROOT.rglob("*") if path.suffix in (".py", ".toml") and "__pycache__" not in path.parts],
    ids=lambda path: str(path.relative_to(ROOT)),
)
def test_no_temperature_in_a_text_is_written_with_a_fixed_unit(path):
    """The reader chooses the unit; only `words.plain_degrees` writes one, for reading outside."""
    if path.name == "words.py":
        return
    for number, line in enumerate(path.read_text(encoding="utf-8").splitlines(), 1):
        if path.suffix == ".py" and not re.search(r"[\"']", line):
            continue
        code = re.sub(r'""".*?"""', "", line)
        assert not UNITS.search(code) or line.lstrip().startswith(("#", '"""')), f"line {number}: {line}"
