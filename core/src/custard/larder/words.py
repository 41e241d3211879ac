"""Temperatures and weights in texts stand as "{82.4 C}" and "{80 g}": each reader is shown their own unit."""

from __future__ import annotations

import re


def plain_degrees(text: str) -> str:
    """A text for reading outside the application: "{82.4 C}" as "82.4 °C", "{80 g}" and so on.

    >>> plain_degrees("lift at {80.4 C}, sooner by {2.1 K}, add {80 g}, by {9:30 h}")
    'lift at 80.4 °C, sooner by 2.1 °C, add 80 g, by 9:30'
    """
    text = re.sub(r"\{([\d.]+) g\}", r"\1 g", re.sub(r"\{([\d.-]+) [CK]\}", r"\1 °C", text))
    return re.sub(r"\{(\d+:\d\d) h\}", r"\1", text)
