"""What things are, and their numbers: ingredients, eggs, families and ways, vessels, rules, parameters."""

from custard.larder.eggs import EggSize, all_sizes, egg_size
from custard.larder.families import WAYS, Family, Way, all_families, patterns
from custard.larder.ingredients import (
    COMPONENTS,
    DECLARED,
    Ingredient,
    all_ingredients,
    also_called,
    ingredient,
    own_ingredient,
)
from custard.larder.joins import JOINS, Join, usual_when
from custard.larder.parameters import Origin, Parameters, origins, read_parameters, standard
from custard.larder.vessels import OWN, USUAL_RULE, CoolingRule, cooling_rules, coolings, own_rule, pans

__all__ = [
    "COMPONENTS",
    "DECLARED",
    "JOINS",
    "OWN",
    "USUAL_RULE",
    "WAYS",
    "CoolingRule",
    "EggSize",
    "Family",
    "Ingredient",
    "Join",
    "Origin",
    "Parameters",
    "Way",
    "all_families",
    "all_ingredients",
    "all_sizes",
    "also_called",
    "cooling_rules",
    "coolings",
    "egg_size",
    "ingredient",
    "origins",
    "own_ingredient",
    "own_rule",
    "pans",
    "patterns",
    "read_parameters",
    "standard",
    "usual_when",
]
