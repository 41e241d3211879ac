"""Changing a mix: handles, maps, what-ifs, solving, sizes, schools."""

from custard.advice.bench.compare import changed_from, changed_lines, differences
from custard.advice.bench.destinations import Part, Shared, for_destinations, shared
from custard.advice.bench.handles import HANDLES, Handle, handle_values, turned
from custard.advice.bench.layers import Course, Dish, Layer, is_laid, layers
from custard.advice.bench.limits import Limits, cost
from custard.advice.bench.portions import SHAPES, PanFit, TopUp, dish_ml, fit_pan, top_up
from custard.advice.bench.ratio_map import QUICK_SIDE, RatioMap, ratio_map
from custard.advice.bench.scale import finished_ml, for_dish, for_finished_g, for_pan, for_portions
from custard.advice.bench.schools import Question, School, answers, questions, sugar_in_bowl, usual
from custard.advice.bench.sensitivity import STARCHES, Sensitivity, sensitivities, with_starch_kind
from custard.advice.bench.solve import (
    OutOfReach,
    Solution,
    swap_chocolate,
    swap_dairy,
    with_missing_yolks,
)
from custard.advice.bench.thickness import TARGETS, for_texture, ways_to_texture
from custard.advice.bench.weighing import Weighing, weighings

__all__ = [
    "HANDLES",
    "QUICK_SIDE",
    "SHAPES",
    "STARCHES",
    "TARGETS",
    "Course",
    "Dish",
    "Handle",
    "Layer",
    "Limits",
    "OutOfReach",
    "PanFit",
    "Part",
    "Question",
    "RatioMap",
    "School",
    "Sensitivity",
    "Shared",
    "Solution",
    "TopUp",
    "Weighing",
    "answers",
    "changed_from",
    "changed_lines",
    "cost",
    "differences",
    "dish_ml",
    "finished_ml",
    "fit_pan",
    "for_destinations",
    "for_dish",
    "for_finished_g",
    "for_pan",
    "for_portions",
    "for_texture",
    "handle_values",
    "is_laid",
    "layers",
    "questions",
    "ratio_map",
    "sensitivities",
    "shared",
    "sugar_in_bowl",
    "swap_chocolate",
    "swap_dairy",
    "top_up",
    "turned",
    "usual",
    "ways_to_texture",
    "weighings",
    "with_missing_yolks",
    "with_starch_kind",
]
