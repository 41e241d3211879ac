"""The ratio map: one handle against another, every cell a simulated cook."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.advice.bench.handles import HANDLES, handle_g, handle_values, weighed
from custard.advice.mix.assess import assess
from custard.advice.mix.texture import coat_mm
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.figures import Celsius, Rounding, Thousandths
from custard.formula import Formula
from custard.mixture import blend
from custard.physics import texture
from custard.physics.texture import WORDS
from custard.process.heating import kernel
from custard.process.heating.cook import NEVER_C, Stove, constants, step_s
from custard.process.heating.many import simulate_many
from custard.process.heating.pan import rows_of
from custard.vocabulary import Coat

SIDE = 25
"""Points a side of a map at rest."""
QUICK_SIDE = 17
"""Points a side while a hand is moving."""
START_C = 62.0
"""Where a tempered mix starts; what happens below is the same in every cell."""
LONGEST_S = 3600.0
STEP_S = 5.0
"""A longer step than one cook is given: a third of a kelvin is not seen on a map."""
LEAST_ROOM = 0.08
"""Share of a side that a word needs between itself and the edge of its region."""
Grid = NDArray[np.float64]


@dataclass(frozen=True)
class RatioMap:
    """Grids of `y` rows by `x` columns.

    Attributes
    ----------
    x_name, y_name : the handles, with their units; `x`, `y` their values in those; `x_g`, `y_g` what those
        weigh in this formula [g].
    lift_c : where every cell is lifted [degC]; `boiled`: at the boil and held there.
    stress_pa : yield stress at the lift, hot [Pa]; `film_mm` what it leaves on a spoon [mm].
    nappe_c, curdles_c : where each cell first coats and first curdles on its way to the boil [degC];
        nan when it does not.
    labels : a word for each region and where in it there is most room, as (word, x, y).
    """

    x_name: str
    y_name: str
    x_unit: str
    y_unit: str
    x: Annotated[Grid, Rounding(3)]
    y: Annotated[Grid, Rounding(3)]
    x_g: Annotated[Grid, Rounding(1)]
    y_g: Annotated[Grid, Rounding(1)]
    here: tuple[Thousandths, Thousandths]
    lift_c: Celsius
    boiled: bool
    stress_pa: Annotated[Grid, Rounding(3)]
    film_mm: Annotated[Grid, Rounding(2)]
    nappe_c: Annotated[Grid, Rounding(1)]
    curdles_c: Annotated[Grid, Rounding(1)]
    labels: tuple[tuple[str, Thousandths, Thousandths], ...]


def ratio_map(
    formula: Formula,
    x_name: str = "yolk",
    y_name: str = "starch",
    lift_c: float | None = None,
    side: int = SIDE,
    conditions: Conditions = USUAL,
) -> RatioMap:
    """What becomes of a formula as two of its handles are turned.

    Every cell is heated at the standard rate from a tempered start to its boil, on the same pan. Its
    texture is read at `lift_c`, by default where this formula is stopped; for one that is boiled, after
    the held boil.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    x_name : the handle along the base.
    y_name : the handle up the side.
    lift_c : taken off there [degC]; None for where each mix itself should be.
    side : cells a side [1].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    OutOfRange, Impossible
        when a handle is not one, is used twice, or has nothing to turn on.
    """
    for field, name in (("x_name", x_name), ("y_name", y_name)):
        if name not in HANDLES:
            raise OutOfRange(field, name, f"must be one of {', '.join(HANDLES)}")
    if x_name == y_name:
        raise OutOfRange("y_name", y_name, "is on the other axis already")
    within("side", side, 5, 101)
    result = assess(formula, conditions)
    # With the boil that the recipe of the formula says.
    conditions = result.conditions
    p = conditions.parameters
    formula = result.formula
    boiled = result.stop.boiled and lift_c is None
    lift = result.stop.at_c if lift_c is None else lift_c
    within("lift_c", lift, 40, 130)
    here = handle_values(formula)
    x, y = (_axis(name, here.get(name, 0.0), side) for name in (x_name, y_name))
    across, up = np.meshgrid(x, y)
    cells = weighed(formula.in_the_pan(), {x_name: across.ravel(), y_name: up.ravel()})
    mixture = blend((line.ingredient, grams) for line, grams in cells)
    whole = blend(zip((line.ingredient for line in formula.lines), formula.weights_g(), strict=True))
    heat_j_k = whole.mass_g / 1000 * whole.heat_capacity_j_kgk(70)
    stove = Stove(power_w=float(1.2 * heat_j_k * p.cook.rate_k_per_min / 60))
    k = constants(mixture, stove, conditions, look_c=NEVER_C if boiled else lift)
    count = side * side
    ends = simulate_many(
        rows_of(k, count),
        np.full(count, START_C),
        np.full(count, 200.0),
        p.cook.boil_hold_s if boiled else 0.0,
        0.0,
        LONGEST_S,
        step_s(k, STEP_S),
    )

    def grid(column: int) -> Grid:
        return np.asarray(ends[:, column].reshape(side, side))

    def reached(column: int) -> Grid:
        return np.where(grid(column) < 0, np.nan, grid(column))

    looked = grid(kernel.LOOK_PA)
    stress = grid(kernel.YIELD_PA) if boiled else np.where(looked < 0, grid(kernel.YIELD_PA), looked)
    spoon_c = min(p.spoon.spoon_c, lift)
    # At the spoon's temperature all fat is still liquid: the network alone firms.
    hot, cold = (texture.setback(t, k.hot_c, k.cold_c, k.setback) for t in (lift, spoon_c))
    on_spoon = stress.ravel() * cold / hot
    return RatioMap(
        x_name=x_name,
        y_name=y_name,
        x_unit=HANDLES[x_name].unit,
        y_unit=HANDLES[y_name].unit,
        x=x,
        y=y,
        x_g=np.asarray(handle_g(formula, x_name, x)),
        y_g=np.asarray(handle_g(formula, y_name, y)),
        here=(here.get(x_name, 0.0), here.get(y_name, 0.0)),
        lift_c=lift,
        boiled=boiled,
        stress_pa=stress,
        film_mm=coat_mm(mixture, on_spoon, spoon_c, p).reshape(side, side),
        nappe_c=reached(kernel.NAPPE_C),
        curdles_c=reached(kernel.CURDLES_C),
        labels=_labels(stress, x, y),
    )


def _axis(name: str, here: float, side: int) -> Grid:
    """From nothing, or a little, to well past where the formula is; round numbers, so that the map stands
    still while a handle is turned."""
    handle = HANDLES[name]
    steps = {"yolk": (240.0, 320.0, 640.0), "sugar": (30.0, 60.0, 150.0), "starch": (3.0, 10.0, 25.0)}
    if name == "cream":
        return np.linspace(0.0, 100.0, side)
    high = next((step for step in steps[name] if here <= 0.9 * step), 1.25 * here)
    return np.linspace(handle.low, high, side)


def _labels(stress: Grid, x: Grid, y: Grid) -> tuple[tuple[str, float, float], ...]:
    """Each region's word, at the cell furthest from the region's edge."""
    levels = np.array([end for end, _ in WORDS])
    names = list(Coat)
    kind = np.searchsorted(levels, stress, side="right")
    found = []
    for index, name in enumerate(names):
        mask = kind == index
        room = np.zeros(mask.shape)
        while mask.any():
            room += mask
            padded = np.pad(mask, 1)
            mask = mask & padded[:-2, 1:-1] & padded[2:, 1:-1] & padded[1:-1, :-2] & padded[1:-1, 2:]
        if room.max() >= max(1.0, round(LEAST_ROOM * stress.shape[0])):
            # Of all the roomiest cells the middle one, or the one nearest to it.
            rows, columns = np.nonzero(room == room.max())
            off = (rows - rows.mean()) ** 2 + (columns - columns.mean()) ** 2
            best = int(np.argmin(off))
            found.append((name, float(x[columns[best]]), float(y[rows[best]])))
    return tuple(found)
