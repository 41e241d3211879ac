"""Temperatures and weights in texts stand as "{82.4 C}" and "{80 g}": each reader is shown their own unit."""

from __future__ import annotations

import re

OUNCE_G = 28.3495


def plain_degrees(text: str, units: str = "metric") -> str:
    """A text for reading outside the application: "{82.4 C}" as "82.4 °C", "{80 g}" and so on.

    Parameters
    ----------
    text : a text with degrees and weights in braces.
    units : "metric", or "us" for degrees Fahrenheit and ounces.

    >>> plain_degrees("lift at {80.4 C}, sooner by {2.1 K}, add {80 g}, by {9:30 h}")
    'lift at 80.4 °C, sooner by 2.1 °C, add 80 g, by 9:30'
    >>> plain_degrees("lift at {80.4 C}, sooner by {2.1 K}, add {80 g}", "us")
    'lift at 177 °F, sooner by 3.8 °F, add 2.8 oz'
    """
    if units == "us":
        text = re.sub(r"\{(-?[\d.]+) C\}", lambda found: f"{float(found[1]) * 1.8 + 32:.0f} °F", text)
        text = re.sub(r"\{(-?[\d.]+) K\}", lambda found: f"{float(found[1]) * 1.8:.1f} °F", text)
        text = re.sub(r"\{([\d.]+) g\}", lambda found: weight_text(float(found[1]), units), text)
    text = re.sub(r"\{([\d.]+) g\}", r"\1 g", re.sub(r"\{([\d.-]+) [CK]\}", r"\1 °C", text))
    return re.sub(r"\{(\d+:\d\d) h\}", r"\1", text)


def weight_text(grams: float, units: str = "metric") -> str:
    """A weight [g] for reading outside the application, as a kitchen says it.

    Parameters
    ----------
    grams : a mass [g].
    units : "metric", or "us" for ounces and pounds.

    >>> weight_text(694), weight_text(0.42), weight_text(694, "us"), weight_text(18000, "us")
    ('694 g', '0.4 g', '24.5 oz', '635 oz')
    """
    if units != "us":
        return f"{grams:.1f} g" if 0 < abs(grams) < FINE_G else f"{grams:.0f} g"
    ounces = grams / OUNCE_G
    return f"{ounces:.0f} oz" if ounces >= WHOLE_OUNCES else f"{ounces:.1f} oz"


FINE_G = 10
"""Below this a scale is read to a tenth of a gram."""
WHOLE_OUNCES = 100
