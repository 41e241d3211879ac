"""Every table within physical bounds, every number with its origin, every name loaded once."""

from __future__ import annotations

import re
from importlib.resources import files

import custard
import pytest
from custard.larder import parameters, starches
from custard.larder.tables import rows

TABLES = sorted(
    path.name[:-4]
    for path in files("custard.larder").joinpath("data").iterdir()
    if path.name.endswith(".csv")
)


@pytest.mark.parametrize("table", TABLES)
def test_every_row_says_where_it_comes_from_and_how_sure_it_is(table):
    found = list(rows(table))
    assert found
    for row in found:
        assert row["confidence"] in ("H", "M", "L"), row
        assert row["source"].strip(), row


@pytest.mark.parametrize("name", sorted(custard.larder.all_ingredients()))
def test_an_ingredient_is_possible(name):
    thing = custard.larder.ingredient(name)
    assert sum(thing.composition.values()) == pytest.approx(100)
    assert all(0 <= share <= 100 for share in thing.composition.values())
    assert 0.78 < thing.density_g_ml < 2.3
    assert 0.04 < thing.level_g_ml < 1.5
    assert 2 <= thing.ph <= 9.5
    assert bool(thing.composition["starch"]) == bool(thing.starch_kind)


def test_ingredient_rows_add_up_before_they_are_normalised():
    parts = [*custard.larder.COMPONENTS, "other_protein", "fibre", "dextrin"]
    for row in rows("ingredients"):
        assert sum(float(row[part]) for part in parts) == pytest.approx(100, abs=0.1), row["id"]


def test_eggs_are_their_parts():
    for size in custard.larder.all_sizes().values():
        assert 0.25 < size.yolk_g / size.edible_g < 0.37
        assert 40 < size.edible_g + size.shell_g < 80


def test_every_parameter_is_in_the_table_and_within_its_range():
    assert {f"{o.group}.{o.name}" for o in custard.larder.origins()} == set(parameters.names())
    for origin in custard.larder.origins():
        assert origin.low <= origin.value <= origin.high, origin.name
        assert origin.unit


def test_starch_kinds_cover_every_ingredient():
    used = {thing.starch_kind for thing in custard.larder.all_ingredients().values()} - {""}
    assert used <= set(starches.all_kinds())


BOUNDS = {
    "pans": {"heat_j_m2k": (5_000, 100_000)},
    "cooling": {"medium_c": (-25, 25), "stirred_w_m2k": (5, 500), "still_w_m2k": (3, 200)},
    "cooling_rules": {"from_c": (55, 70), "first_c": (3, 25), "first_h": (1, 3), "second_h": (1, 24)},
    "starches": {"reference_c": (55, 95), "z_k": (4, 12), "swelling_ml_g": (8, 60), "setback": (1, 5)},
    "swelling_capacity": {"temperature_c": (40, 100), "share": (0, 1)},
    "evaporation": {"temperature_c": (0, 101), "flux_g_m2s": (0, 20)},
    "foam": {"temperature_c": (0, 100), "share": (0, 1)},
    "freezing": {"sucrose_g_per_100g_water": (0, 250), "depression_k": (0, 20)},
    "sweetness": {"freezing_factor": (0.5, 12), "sweetness": (0, 2)},
    "boiling_shift": {"percent": (0, 100), "kelvin": (0, 25)},
    "families": {
        "target_pa": (1, 60),
        "keeps_days": (0, 7),
        "freezes_days": (0, 90),
        "rests_h": (0, 12),
        "rate_k_per_min": (0.2, 10),
    },
    "whites_uses": {"sugar_per_white": (0.5, 3), "other_per_white": (0, 3)},
    "eggs": {"yolk_g": (12, 24), "white_g": (24, 55), "shell_g": (4, 10)},
}


@pytest.mark.parametrize("table", sorted(BOUNDS))
def test_every_number_is_physically_possible(table):
    for row in rows(table):
        for column, (low, high) in BOUNDS[table].items():
            assert low <= float(row[column]) <= high, (table, row, column)


@pytest.mark.parametrize(
    ("table", "over"),
    [
        ("evaporation", "temperature_c"),
        ("swelling_capacity", "temperature_c"),
        ("freezing", "sucrose_g_per_100g_water"),
        ("foam", "temperature_c"),
    ],
)
def test_tables_that_are_interpolated_rise_in_their_first_column(table, over):
    values = [float(row[over]) for row in rows(table)]
    assert values == sorted(set(values))


def test_no_source_claims_to_have_been_looked_up():
    for table in TABLES:
        for row in rows(table):
            assert not re.search(r"doi|https?:|verified|pp\.", row["source"]), row
