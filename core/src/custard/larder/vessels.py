"""Pans, ways of cooling and the cooling rules of food codes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.errors import OutOfRange, UnknownName, within
from custard.larder.tables import rows

STIRRINGS: tuple[str, ...] = ("whisk", "spatula", "none")


@dataclass(frozen=True)
class Cooling:
    """One way of cooling: medium temperature [degC], coefficients with their ranges [W/m2K].

    Attributes
    ----------
    stirred_w_m2k, thick_w_m2k : through the wall into a sauce, or a thick cream, that is stirred.
    still_w_m2k : into a sauce that flows by itself.
    outside_w_m2k : to the outside of the vessel alone; what does not flow is conducted to there.
    faces : what is cooled: the walls and the bottom of a bowl, or both faces of a tray.
    most_w : the most heat it takes away, however much is put in [W]; None where nothing limits it. A small
        chiller, rated for five kilograms, is taken for one that nobody knows.
    """

    method: str
    name: str
    medium_c: float
    stirred_w_m2k: float
    stirred_range: tuple[float, float]
    thick_w_m2k: float
    thick_range: tuple[float, float]
    still_w_m2k: float
    still_range: tuple[float, float]
    outside_w_m2k: float
    outside_range: tuple[float, float]
    faces: str
    most_w: float | None = None


@dataclass(frozen=True)
class CoolingRule:
    """What a food code asks: from `from_c` to `first_c` [degC] within `first_h` hours of leaving it, and to
    `second_c` within `second_h`, counted from the start, or from `first_c` where the rule gives so much more.
    """

    rule: str
    name: str
    from_c: float
    first_c: float
    first_h: float
    second_c: float
    second_h: float
    second_from: str
    text: str
    caution: str = ""

    def __post_init__(self) -> None:
        within("from_c", self.from_c, 40, 75)
        within("first_c", self.first_c, 3, self.from_c - 5)
        within("first_h", self.first_h, 0.25, 24)
        within("second_c", self.second_c, 0, self.first_c)
        within("second_h", self.second_h, 0.25, 48)

    @property
    def legs(self) -> tuple[tuple[float, float, float], ...]:
        """What it asks, each once: left from [degC], to be below [degC], within [h]."""
        starts_c = self.first_c if self.second_from == "first" else self.from_c
        first, second = (self.from_c, self.first_c, self.first_h), (starts_c, self.second_c, self.second_h)
        return (first,) if first == second else (first, second)


OWN = "own"
USUAL_RULE = "codex"
"""The rule where nobody chose one, for the command and for a new kitchen alike."""
OWN_CAUTION = "This kitchen's own: it may be stricter than the code that binds it, never laxer."


def own_rule(from_c: float, first_c: float, first_h: float, second_c: float, second_h: float) -> CoolingRule:
    """A kitchen's own rule: from `from_c` [degC] to `first_c` within `first_h` hours, to `second_c` within
    `second_h` in all.

    Parameters
    ----------
    from_c : where its clock starts [degC], 40 to 75.
    first_c : to be below this first [degC].
    first_h : time for the first part [h], 0.25 to 24.
    second_c : then below this [degC].
    second_h : time for both parts together [h], up to 48.

    Raises
    ------
    OutOfRange
        when a figure is none a food code would have.
    """
    if second_h < first_h:
        raise OutOfRange("second_h", f"{second_h:g}", f"must be at least the first {first_h:g} h")
    first = f"{{{from_c:g} C}} to {{{first_c:g} C}} within {first_h:g} h"
    text = f"{first}, to {{{second_c:g} C}} within {second_h:g} h in all"
    return CoolingRule(
        OWN, "our own", from_c, first_c, first_h, second_c, second_h, "start", text, OWN_CAUTION
    )


@cache
def pans() -> Mapping[str, float]:
    """Heat stored by each kind of pan, over its base area [J/m2K]."""
    return MappingProxyType({row["pan"]: float(row["heat_j_m2k"]) for row in rows("pans")})


@cache
def coolings() -> Mapping[str, Cooling]:
    """Every way of cooling."""
    return MappingProxyType(
        {
            row["method"]: Cooling(
                method=row["method"],
                name=row["name"],
                medium_c=float(row["medium_c"]),
                stirred_w_m2k=float(row["stirred_w_m2k"]),
                stirred_range=(float(row["stirred_low"]), float(row["stirred_high"])),
                thick_w_m2k=float(row["thick_w_m2k"]),
                thick_range=(float(row["thick_low"]), float(row["thick_high"])),
                still_w_m2k=float(row["still_w_m2k"]),
                still_range=(float(row["still_low"]), float(row["still_high"])),
                outside_w_m2k=float(row["outside_w_m2k"]),
                outside_range=(float(row["outside_low"]), float(row["outside_high"])),
                faces=row["faces"],
                most_w=float(row["most_w"]) if row["most_w"] else None,
            )
            for row in rows("cooling")
        }
    )


@cache
def cooling_rules() -> Mapping[str, CoolingRule]:
    """Every cooling rule; local codes come first."""
    return MappingProxyType(
        {
            row["rule"]: CoolingRule(
                rule=row["rule"],
                name=row["name"],
                from_c=float(row["from_c"]),
                first_c=float(row["first_c"]),
                first_h=float(row["first_h"]),
                second_c=float(row["second_c"]),
                second_h=float(row["second_h"]),
                second_from=row["second_from"],
                text=row["text"],
                caution=row["caution"],
            )
            for row in rows("cooling_rules")
        }
    )


def one_of(field: str, name: str, known: Mapping[str, object] | tuple[str, ...]) -> None:
    """Refuse a name that is not known.

    Raises
    ------
    UnknownName
        naming the field and what could stand there.
    """
    if name not in known:
        raise UnknownName(field, name, "is not one we know", f"Write {', '.join(known)}.")
