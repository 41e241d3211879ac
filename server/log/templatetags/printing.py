"""Figures of a printed record in the units of whoever prints it."""

from __future__ import annotations

import custard
from django import template

register = template.Library()


@register.filter
def degrees(celsius: float | None, units: str) -> str:
    """A temperature [degC] as it was read, "80.5 °C" or "10 °C", or "177 °F"; "" where none was."""
    return "" if celsius is None else custard.plain_degrees(f"{{{round(celsius, 1):g} C}}", units)


@register.filter
def weight(grams: float | None, units: str) -> str:
    """A weight [g] as a kitchen says it, "694 g" or "24.5 oz"; "" where none was weighed."""
    return "" if grams is None else custard.weight_text(grams, units)


@register.filter
def in_units(text: str, units: str) -> str:
    """A text of the core, its temperatures and weights as they are printed."""
    return custard.plain_degrees(text, units)


@register.filter
def taken_off(kelvin: float, units: str) -> str:
    """By how much a reading was put right [K], as it is printed: "1.0 °C taken off after its check"."""
    done = "taken off" if kelvin > 0 else "added"
    return f"{custard.plain_degrees(f'{{{abs(kelvin):.1f} K}}', units)} {done} after its check"
