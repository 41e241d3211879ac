"""What a sauce is cooled and kept in: how deep it lies there, and how much it holds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np

from custard.errors import OutOfRange, within
from custard.mixture import Mixture
from custard.process.cooling.resting import MEAN_C
from custard.vocabulary import VesselKind

ROUND = (VesselKind.BOWL, VesselKind.CUPS)
SQUARE = (VesselKind.TRAY, VesselKind.TUB, VesselKind.BAGS)
MOST_COUNT = 500
LEAST_MM = 1.0


@dataclass(frozen=True)
class Vessel:
    """Some vessels of one kind.

    Attributes
    ----------
    length_cm, width_cm : base of one [cm]; a bowl and a cup are `length_cm` across and need no width. A bag
        is taken as it lies.
    height_cm : how high one is [cm].
    count : how many.
    """

    kind: VesselKind
    length_cm: float
    height_cm: float
    width_cm: float = 0.0
    count: int = 1

    def __post_init__(self) -> None:
        within("length_cm", self.length_cm, 1, 200)
        within("height_cm", self.height_cm, 0.5, 100)
        if self.kind in SQUARE:
            within("width_cm", self.width_cm, 1, 200)
        within("count", self.count, 1, MOST_COUNT)

    @property
    def plural(self) -> str:
        """What several of them are called."""
        return self.kind if self.kind.endswith("s") else f"{self.kind}s"

    @property
    def base_cm2(self) -> float:
        """Base of one [cm2]."""
        if self.kind in ROUND:
            return float(np.pi / 4 * self.length_cm**2)
        return self.length_cm * self.width_cm

    @property
    def holds_ml(self) -> float:
        """What all of them hold to the rim [ml]."""
        return self.count * self.base_cm2 * self.height_cm

    def depth_mm(self, mixture: Mixture, mass_g: float) -> float:
        """How deep `mass_g` of a mix lies, shared out evenly [mm].

        Raises
        ------
        OutOfRange
            when they do not hold so much.
        """
        ml = mass_g / (float(mixture.density_kg_m3(MEAN_C)) / 1000)
        if ml > self.holds_ml * (1 + 1e-9):
            hold = "it holds" if self.count == 1 else "they hold"
            limit = f"is too few for {mass_g:.0f} g: {hold} {self.holds_ml:.0f} ml to the rim"
            raise OutOfRange("count", f"{self.count}", limit, "Take more or larger ones.")
        return max(LEAST_MM, 10 * ml / self.count / self.base_cm2)

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Vessel:
        """As it was kept."""
        return cls(**kept)
