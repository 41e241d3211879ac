"""The type of a quantity in a law: one number, or an array of them."""

from __future__ import annotations

from typing import Any, TypeAlias

Real: TypeAlias = Any
"""A float or an array of floats; numpy's own types cannot say that a law returns what it was given."""
