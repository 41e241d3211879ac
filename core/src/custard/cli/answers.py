"""What the command prints of what was computed: plain data, texts with their degrees written out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import fields
from typing import Any

import numpy as np

from custard.advice.after.safe import Judgement
from custard.advice.bench.solve import Solution
from custard.advice.finish.outcome import Finishing
from custard.advice.mix.assess import Assessment
from custard.advice.mix.bands import Band
from custard.advice.mix.keeping import Keeping
from custard.advice.mix.texture import texture_at
from custard.advice.trouble.answer import Answer
from custard.figures import plain
from custard.formats.formula_json import write_formula
from custard.larder.ingredients import groups_of_allergens
from custard.larder.parameters import Origin, Parameters
from custard.larder.words import plain_degrees
from custard.mixture import Mixture
from custard.physics.foam import foam_word
from custard.process.baking.bake import Bake, wobble
from custard.process.cooling.chill import Chill
from custard.process.cooling.later import Held
from custard.process.heating.cook import MOST_LOGS, NEVER_CLEARANCE
from custard.process.heating.infusing import Infusing
from custard.process.heating.temper import Temper
from custard.process.whisking.whisk import Whisk

CODES_FIRST = "Local food codes and trained people come first."
EVERY_BAKED = 6
"""Of the points of a baking so many are passed over for each that is printed."""


def logs(value: float) -> float:
    """Logs of Salmonella as they are told: never more than the count is good for."""
    return round(min(MOST_LOGS, value), 2)


def of_assessment(result: Assessment, used: Iterable[Origin]) -> dict[str, Any]:
    """What a formula is and becomes, and the parameters that rests on."""
    return {
        "name": result.formula.name,
        "family": result.formula.family,
        "mass_g": round(result.weighed_g, 2),
        "fractions": {name: round(part, 6) for name, part in result.whole.fractions.items()},
        "finished_fractions": {name: round(part, 6) for name, part in result.finished.fractions.items()},
        "starch_by_kind": {kind: round(part, 6) for kind, part in result.whole.starch_by_kind.items()},
        "sugars_in_aqueous_percent": round(result.pan.sugars_in_aqueous_percent, 3),
        "ethanol_in_aqueous_percent": round(result.pan.ethanol_in_aqueous_percent, 3),
        "egg_protein_percent": round(result.pan.egg_protein_percent, 4),
        "starch_in_aqueous_percent": round(result.pan.starch_in_aqueous_percent, 3),
        "ph": round(result.pan.ph, 2),
        "boiling_c": round(result.boiling_c, 2),
        "window": plain(result.window),
        "stop_c": round(result.stop.at_c, 2),
        "texture": {"hot": plain(result.hot), "cold": plain(result.cold), "whisked": plain(result.whisked)},
        "warnings": [plain_degrees(text) for text in result.warnings],
        "yield_g": round(result.yield_g, 1),
        "keeps": of_keeping(result.keeping),
        "whites_left_g": round(result.whites_left_g, 1),
        "allergens": list(groups_of_allergens(result.allergens)),
        "named_allergens": list(result.allergens),
        "parameters_used": [_of_origin(one) for one in used],
    }


def of_keeping(found: Keeping) -> dict[str, Any]:
    """Days it keeps, and why no longer."""
    return {"days": found.days, "why": plain_degrees(found.why)}


def of_judgement(found: Judgement) -> dict[str, Any]:
    """Whether it may still be eaten, and until when, in hours since it was made."""
    words = {"why": plain_degrees(found.why), "until_why": plain_degrees(found.until_why)}
    return {"safe": found.safe, "until_h": round(found.until_h, 1), **words}


def of_held(found: Held, mixture: Mixture, p: Parameters) -> dict[str, Any]:
    """A sauce kept warm or warmed again: what has become of it."""
    state = found.state
    return {
        "at_c": state.at_c,
        "thickened": round(state.thickened, 4),
        "curdled": round(state.curdled, 4),
        "texture": plain(texture_at(mixture, state, state.at_c, min(p.spoon.spoon_c, state.at_c), p)),
        "hot_enough_to_hold": found.safe,
        "salmonella_logs": logs(found.salmonella_logs),
        "caution": NEVER_CLEARANCE,
    }


def banded(bands: Mapping[str, Band]) -> dict[str, Any]:
    """Each figure's lower and upper edge; none where it has no band."""
    return {"band": {name: None if band is None else list(band) for name, band in bands.items()}}


def _of_origin(one: Origin) -> dict[str, Any]:
    """Where a number comes from; the source is marked as remembered."""
    told = plain(one)
    return {
        "name": f"{one.group}.{told.pop('name')}",
        "source_as_remembered": told.pop("source"),
        **{name: part for name, part in told.items() if name != "group"},
    }


def of_tempering(done: Temper, stop_c: float) -> dict[str, Any]:
    """A tempering, and what is left to heat to the stop [K]."""
    return {**plain(done), "to_go_c": round(max(0.0, stop_c - done.landing_c), 2)}


def of_cooling(done: Chill) -> dict[str, Any]:
    """A cooling, its verdict, and the greatest depth that passes."""
    told = plain(done)
    curve = {name: told.pop(name) for name in ("t_s", "core_c", "mean_c")}
    texts = {"rule": plain_degrees(done.rule.text), "why": plain_degrees(done.why)}
    return {"curve": curve, **told, **texts, "caution": CODES_FIRST}


def of_baking(done: Bake) -> dict[str, Any]:
    """A baking, and where centre and edge are when it comes out."""
    at = -1 if done.out_s is None else int(np.searchsorted(done.t_s, done.out_s))
    told = plain(done)
    names = ("t_s", "centre_c", "edge_c", "set_centre", "curdled_edge")
    curve = {name: told.pop(name)[::EVERY_BAKED] for name in names}
    return {
        "curve": curve,
        **told,
        "centre_at_out_c": round(float(done.centre_c[at]), 2),
        "edge_curdled": round(float(done.curdled_edge[at]), 4),
        "wobble": wobble(float(done.set_centre[at])),
        "salmonella_logs": logs(done.salmonella_logs),
        "caution": NEVER_CLEARANCE,
    }


def of_finishing(done: Finishing, infusion: Infusing | None) -> dict[str, Any]:
    """What is infused, what joins after the heat, and what comes of it."""
    told = plain(done)
    for one in told["additions"]:
        for part in ("say", "why"):
            one[part] = plain_degrees(one[part])
        for part in ("see", "cautions"):
            one[part] = [plain_degrees(text) for text in one[part]]
    return {"infusing": plain(infusion), **told, "caution": CODES_FIRST}


def of_whisking(done: Whisk) -> dict[str, Any]:
    """A foam, where it stood highest, and what it is in the end."""
    end = float(done.overrun[-1])
    told = plain(done)
    names = ("t_s", "sauce_c", "thickened", "curdled", "yield_stress_pa")
    curve = {name: told[name] for name in names}
    curve["overrun_percent"] = [round(100 * share, 1) for share in done.overrun.tolist()]
    return {
        "curve": curve,
        "volume_ratio": round(1 + end, 2),
        "best_c": round(float(done.sauce_c[int(np.argmax(done.overrun))]), 1),
        "end_c": round(float(done.sauce_c[-1]), 1),
        "word": foam_word(end, float(done.yield_stress_pa[-1])),
        "weeps_percent_per_h": round(100 * done.weeps_per_h, 1),
        "salmonella_logs": logs(done.salmonella_logs),
        "caution": NEVER_CLEARANCE,
    }


def of_solution(found: Solution) -> dict[str, Any]:
    """A changed formula, and what was changed."""
    return {
        "changes": [plain_degrees(change) for change in found.changes],
        "reached": plain_degrees(found.reached),
        **({} if found.lift_c is None else {"lift_c": found.lift_c}),
        "formula": write_formula(found.formula),
    }


def of_remedy(found: Answer) -> dict[str, Any]:
    """What to do about a fault."""
    return {
        "fault": found.fault,
        "cause": plain_degrees(found.causes[0].say),
        "saved": found.now.saved,
        "steps": [plain_degrees(step) for step in found.now.steps],
        "add": [{"ingredient": one.ingredient, "grams": round(one.grams, 1)} for one in found.now.add],
        "caution": f"When in doubt about safety, discard. {CODES_FIRST}",
    }


def of_trouble(found: Answer) -> dict[str, Any]:
    """Everything that is said of a trouble; degrees in words as degrees Celsius."""
    names = (one.name for one in fields(found) if one.name != "after")
    told: dict[str, Any] = {name: in_celsius(plain(getattr(found, name))) for name in names}
    after = found.after
    told["after"] = {
        "yields_g": round(after.yields_g, 1),
        "days": after.life.days,
        "why": plain_degrees(after.life.why),
        "allergens": list(groups_of_allergens(after.allergens)),
        "named_allergens": list(after.allergens),
        "formula": write_formula(after.formula),
    }
    return told


def in_celsius(value: Any) -> Any:
    """Plain data with every text's degrees written out."""
    if isinstance(value, str):
        return plain_degrees(value)
    if isinstance(value, dict):
        return {key: in_celsius(part) for key, part in value.items()}
    return [in_celsius(part) for part in value] if isinstance(value, list) else value
