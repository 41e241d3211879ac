"""Every refusal of the library: what was wrong, with which value, where the limit lies, what to do next."""

from __future__ import annotations


class CustardError(ValueError):
    """Something given to the library cannot be used.

    Attributes
    ----------
    field : where it was found, as a path into the formula ("lines[2].amount") or an argument ("yolks").
    value : what was given, as it was given.
    limit : what would have been accepted, as a clause ("must be at most 2000 pieces").
    next_step : what to do about it, as a sentence; empty when the limit says it all.
    """

    def __init__(self, field: str, value: object, limit: str, next_step: str = "") -> None:
        self.field = field
        self.value = value
        self.limit = limit
        self.next_step = next_step
        super().__init__(self.sentence())

    def sentence(self) -> str:
        """One line for a person, without the field, which the caller shows in its own way."""
        shown = "nothing" if self.value in (None, "") else f"“{_short(self.value)}”"
        tail = f" {self.next_step}" if self.next_step else ""
        return f"{shown} {self.limit}.{tail}"

    def line(self) -> str:
        """One line naming the field, the value, the limit and the next step."""
        return " ".join(f"{self.field}: {self.sentence()}".split())

    def at(self, prefix: str) -> CustardError:
        """The same refusal, found inside `prefix`."""
        joined = f"{prefix}.{self.field}" if self.field else prefix
        return type(self)(joined, self.value, self.limit, self.next_step)


class BadQuantity(CustardError):
    """An amount that cannot be read as a number and a unit."""


class OutOfRange(CustardError):
    """A value outside what a kitchen, or the model, can use."""


class UnknownName(CustardError):
    """An ingredient, family, unit, vessel or rule that is not in the larder."""


class BadFormula(CustardError):
    """A formula whose shape is not that of the open format."""


class Impossible(CustardError):
    """A goal that cannot be reached under its limits; `next_step` tells the nearest that can."""


class NoTime(CustardError):
    """A search whose time ended before it had found anything nearer than what is there already."""


def within(field: str, value: float, low: float, high: float) -> None:
    """Refuse a number outside its range.

    Raises
    ------
    OutOfRange
        naming the field and the range; also for what is not a number.
    """
    if not low <= value <= high:
        raise OutOfRange(field, f"{value:g}", f"must be from {low:.10g} to {high:.10g}")


def _short(value: object) -> str:
    text = " ".join(str(value).split())
    return text if len(text) <= 60 else text[:57] + "…"
