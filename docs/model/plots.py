"""The pictures of docs/model, from the model as it stands. Run with ./spoon plots."""

from __future__ import annotations

import sys
from pathlib import Path

import matplotlib as mpl
import numpy as np

mpl.use("Agg")
sys.path.append(str(Path(__file__).parents[2] / "core"))
import custard
import validation
from custard.process.heating import (
    kernel,
    ramp,  # the pictures look behind the public door on purpose
)
from matplotlib import pyplot

HERE = Path(__file__).parent
IRON, YOLK, COPPER, SLATE, BRICK = "#24211c", "#eba51e", "#a6522a", "#3c5a70", "#8e2a1e"
pyplot.rcParams.update(
    {"svg.hashsalt": "old-spoon", "font.size": 10, "axes.spines.top": False, "axes.spines.right": False}
)


def formula(family: str, *lines: tuple[str, str]) -> custard.Formula:
    """A formula in short."""
    data = [{"ingredient": name, "amount": amount} for name, amount in lines]
    head = {"format": "old-spoon/formula", "version": 1, "name": "plot", "family": family}
    return custard.read_formula({**head, "lines": data})


def anglaise(yolks: float = 8, sugar_g: float = 150, starch_g: float = 0) -> custard.Formula:
    """A litre of milk with yolks, sugar, and perhaps starch."""
    lines = [("whole-milk", "1 l"), ("egg-yolk", f"{yolks}"), ("white-sugar", f"{sugar_g} g")]
    return formula("anglaise", *lines, *([("cornstarch", f"{starch_g} g")] if starch_g else []))


PRACTICE = [
    ("plain yolk", formula("anglaise", ("egg-yolk", "100 g")), (65, 70)),
    ("lean anglaise", anglaise(5, 100), (80, 84)),
    ("rich anglaise", anglaise(10, 200), (80, 84)),
    ("ice base", formula("ice-base", ("whole-milk", "500 ml"), ("whipping-cream-36", "250 ml"), ("egg-yolk", "6"), ("white-sugar", "150 g")), (82, 85)),
    ("sabayon", formula("sabayon", ("egg-yolk", "6"), ("white-sugar", "100 g"), ("fortified-wine-sweet", "150 ml")), (68, 78)),
    ("milk filling", formula("milk-filling", ("evaporated-milk", "400 g"), ("egg-yolk", "5"), ("white-sugar", "235 g")), (87, 93)),
]  # fmt: skip


def windows(axes: pyplot.Axes) -> None:
    """Computed windows beside the range practice gives for the stop."""
    for row, (name, mix, (low, high)) in enumerate(PRACTICE):
        window = custard.assess(mix).window
        axes.plot([low, high], [row, row], color=YOLK, linewidth=11, solid_capstyle="butt", alpha=0.6)
        axes.plot([window.thickens_c, window.curdles_c], [row, row], color=IRON, linewidth=1)
        axes.plot(window.nappe_c, row, "o", color=IRON)
        axes.plot(window.curdles_c, row, "x", color=BRICK)
        axes.annotate(name, (60.5, row + 0.18))
    axes.set(
        xlabel="°C",
        yticks=[],
        xlim=(60, 100),
        title="window (line), nappe (dot), curdles (x); practice (band)",
    )


def rates(axes: pyplot.Axes) -> None:
    """The same anglaise at four heating rates."""
    result = custard.assess(anglaise())
    p = custard.larder.standard()
    for rate, color in zip((1, 4, 10), (SLATE, IRON, COPPER), strict=True):
        course = ramp.run(result.pan, p, rate, 96)
        axes.plot(course.temperature_c, course.thickened, color=color, label=f"{rate} K a minute")
        axes.plot(course.temperature_c, course.curdled, color=color, linestyle=":")
    axes.set(xlabel="°C", ylabel="thickened (line), curdled (dots)", xlim=(65, 96), title="rate matters")
    axes.legend(frameon=False)


def texture(axes: pyplot.Axes) -> None:
    """Cold yield stress against starch, with the ranges the datasheet recalls."""
    starch = np.linspace(1, 100, 40)
    percent, cold = [], []
    for grams in starch:
        lines = [
            ("whole-milk", "1 l"),
            ("egg-yolk", "8"),
            ("white-sugar", "180 g"),
            ("cornstarch", f"{grams} g"),
        ]
        result = custard.assess(formula("pastry-cream", *lines))
        percent.append(result.pan.starch_in_aqueous_percent)
        cold.append(result.cold.yield_stress_pa)
    axes.semilogy(percent, cold, color=IRON)
    for low, high, bottom, top in ((2.5, 3.5, 5, 20), (4, 5, 20, 60), (6, 7, 60, 250)):
        axes.fill_between([low, high], bottom, top, color=YOLK, alpha=0.5)
    axes.set(
        xlabel="starch in the water phase, %",
        ylabel="yield stress at 4 °C, Pa",
        title="texture line and recalled ranges",
    )


def cooling(axes: pyplot.Axes) -> None:
    """Trays of four depths in a fridge, and one in a blast chiller."""
    mixture = custard.mix(anglaise())
    for depth, color in zip((10, 20, 50), (SLATE, IRON, COPPER), strict=True):
        made = custard.process.chill(mixture, 80, 5, "fridge", 2000, depth)
        axes.plot(made.t_s / 3600, made.core_c, color=color, label=f"{depth} mm, {made.verdict}")
    blast = custard.process.chill(mixture, 80, 5, "blast", 2000, 50)
    axes.plot(
        blast.t_s / 3600, blast.core_c, color=COPPER, linestyle="--", label=f"50 mm, blast, {blast.verdict}"
    )
    axes.set(
        xlim=(0, 8), xlabel="hours", ylabel="warmest spot, °C", title="trays in a fridge, judged by 57-21-5"
    )
    axes.legend(frameon=False)


def a_cook(axes: pyplot.Axes) -> None:
    """Lifted in time, and left in the pan."""
    mixture = custard.mix(anglaise())
    for left, color in ((0.0, IRON), (240.0, BRICK)):
        done = custard.process.cook(mixture, 60, 84, custard.process.Stove(power_w=700), left_in_pan_s=left)
        minutes = done.column(kernel.T_S) / 60
        axes.plot(
            minutes,
            done.column(kernel.SAUCE_C),
            color=color,
            label=f"left {left:.0f} s: bits {done.bits_percent:.0f} %",
        )
        axes.plot(minutes, done.column(kernel.BASE_C), color=color, linestyle=":")
    axes.set(
        xlabel="minutes",
        ylabel="sauce (line), base (dots), °C",
        title="lifted at 84 °C, and left in the hot pan",
    )
    axes.legend(frameon=False)


def main() -> None:
    """Draw them all."""
    for draw in (windows, rates, texture, cooling, a_cook):
        figure, axes = pyplot.subplots(figsize=(6.4, 4))
        draw(axes)
        figure.tight_layout()
        figure.savefig(HERE / f"{draw.__name__.replace('_', '-')}.svg", metadata={"Date": None})
        pyplot.close(figure)
    (HERE / "practice.md").write_text(practice_page(), encoding="utf-8")


def practice_page() -> str:
    """The practice table as a page."""
    found = validation.table()
    held = [row for row in found if row.held_out]
    inside = [sum(row.inside for row in some) for some in (found, held)]
    lines = [
        "# Against practice",
        "",
        "What cooks find, as remembered and not looked up, beside what is computed now; drawn from",
        "`core/validation` by `./spoon plots`, tested by `core/tests/verification/test_practice.py`, printed by",
        "`custard validation --table`. The parameters were fitted within their ranges to the rows that are not held out.",
        "",
        f"{inside[0]} of {len(found)} inside; of the {len(held)} held out, {inside[1]}.",
        "",
        "| what | practice | computed | |",
        "|---|---|---|---|",
    ]
    for row in found:
        mark = ("held out, " if row.held_out else "") + ("in" if row.inside else f"**out**: {row.gap}")
        span = f"{row.low:g} to {row.high:g} {row.unit}"
        lines.append(f"| {row.what} | {span} | {row.computed:.3g} | {mark} |")
    return "\n".join([*lines, ""])


if __name__ == "__main__":
    main()
