"""Answers as a table for people, or as a picture."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from custard.errors import BadFormula

SAMPLES = 12


def table(answer: Mapping[str, Any]) -> str:
    """An answer as aligned lines; long lists are thinned to a dozen rows."""
    rows = list(_rows(answer, ""))
    width = max((len(name) for name, _ in rows), default=0)
    return "\n".join(f"{name:{width}}  {value}" for name, value in rows)


def _rows(value: Any, name: str) -> Iterator[tuple[str, str]]:
    if isinstance(value, Mapping):
        if name.endswith("curve") and all(isinstance(column, list) for column in value.values()):
            yield from _curve(value)
            return
        for key, inner in value.items():
            yield from _rows(inner, f"{name} {key}".strip())
    elif isinstance(value, list):
        if all(not isinstance(item, list | dict) for item in value):
            yield name, ", ".join(str(item) for item in value) or "none"
            return
        for i, item in enumerate(value[:40]):
            shown = (
                "  ".join(f"{k}={v}" for k, v in item.items() if not isinstance(v, list | dict))
                if isinstance(item, dict)
                else str(item)
            )
            yield f"{name} {i + 1}", shown
    else:
        yield name, "–" if value is None else str(value)


def _curve(columns: Mapping[str, list[float]]) -> Iterator[tuple[str, str]]:
    names = list(columns)
    length = len(columns[names[0]])
    yield "curve", "  ".join(f"{name:>15}" for name in names)
    for i in sorted({round(j * (length - 1) / (SAMPLES - 1)) for j in range(SAMPLES)}):
        yield "", "  ".join(f"{columns[name][i]:15.4g}" for name in names)


def plot(answer: Mapping[str, Any], path: str) -> None:
    """The answer's curve as a PNG or SVG.

    Raises
    ------
    BadFormula
        when there is no curve, the ending is another, or Matplotlib is not installed.
    """
    if not path.endswith((".png", ".svg")):
        raise BadFormula("--plot", path, "must end in .png or .svg")
    curve = answer.get("curve")
    if not curve:
        raise BadFormula("--plot", path, "has no curve to draw", "Plot cook, chill, bake or whisk.")
    try:
        import matplotlib as mpl  # noqa: PLC0415 an optional extra
    except ImportError:
        raise BadFormula("--plot", path, "needs Matplotlib", "Install custard[plot].") from None
    mpl.use("Agg")
    from matplotlib import pyplot  # noqa: PLC0415 an optional extra

    figure, (upper, lower) = pyplot.subplots(2, 1, sharex=True, figsize=(8, 6), height_ratios=(2, 1))
    minutes = [t / 60 for t in curve["t_s"]]
    for name, values in curve.items():
        if name.endswith("_c"):
            upper.plot(minutes, values, label=name.removesuffix("_c"))
        elif name not in ("t_s", "yield_stress_pa", "overrun_percent"):
            lower.plot(minutes, values, label=name)
    upper.set_ylabel("°C")
    lower.set_ylabel("degree")
    lower.set_xlabel("minutes")
    for axes in (upper, lower):
        if axes.get_legend_handles_labels()[0]:
            axes.legend(frameon=False)
    figure.tight_layout()
    try:
        figure.savefig(path)
    except OSError as error:
        raise BadFormula("--plot", path, f"cannot be written: {error.strerror}") from None
    finally:
        pyplot.close(figure)
