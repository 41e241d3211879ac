"""Kinds of starch: where they swell, how far, and how they set back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.tables import rows


@dataclass(frozen=True)
class StarchKind:
    """One kind of starch.

    Attributes
    ----------
    reference_c : temperature at which it gelatinises at `rate_per_s`, without sugar [degC].
    z_k : warming that speeds it tenfold [K].
    swelling_ml_g : room a fully swollen gram takes up in a whisked, boiled cream [ml/g].
    setback : yield stress cold (4 °C) over hot.
    weeps : water it lets go once thawed, over that of maize [1]: long chains set back round the ice, and
        roots have fewer of them.
    """

    kind: str
    name: str
    reference_c: float
    rate_per_s: float
    z_k: float
    swelling_ml_g: float
    setback: float
    weeps: float
    source: str
    confidence: str


@cache
def all_kinds() -> Mapping[str, StarchKind]:
    """Every kind of starch, by name."""
    return MappingProxyType(
        {
            row["kind"]: StarchKind(
                kind=row["kind"],
                name=row["name"],
                reference_c=float(row["reference_c"]),
                rate_per_s=float(row["rate_per_s"]),
                z_k=float(row["z_k"]),
                swelling_ml_g=float(row["swelling_ml_g"]),
                setback=float(row["setback"]),
                weeps=float(row["weeps"]),
                source=row["source"],
                confidence=row["confidence"],
            )
            for row in rows("starches")
        }
    )
