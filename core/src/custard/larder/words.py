"""Temperatures inside texts stand as "{82.4 C}", so that a reader can be shown their own unit."""

from __future__ import annotations

import re


def plain_degrees(text: str) -> str:
    """A text for reading outside the application: "{82.4 C}" as "82.4 °C".

    >>> plain_degrees("lift at {80.4 C}")
    'lift at 80.4 °C'
    """
    return re.sub(r"\{([\d.-]+) C\}", r"\1 °C", text)
