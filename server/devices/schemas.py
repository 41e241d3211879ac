"""What the API says about devices."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from common.moments import Moment
from common.text import Word
from ninja import Schema
from pydantic import ConfigDict, Field

from devices.models import DeviceKind

COLDEST_C, HOTTEST_C = -30.0, 130.0
"""What a probe in a sauce can read; caramel is not logged here."""
MOST_AT_ONCE = 1000


class NewDevice(Schema):
    """A device to register."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    kind: DeviceKind = DeviceKind.SCALE


class DeviceOut(Schema):
    """A device as the kitchen sees it: `sends` is all that its token is good for; `clock` is a sentence when
    its clock is wrong."""

    id: int
    name: str
    kind: DeviceKind
    sends: str
    created_at: datetime
    rotated_at: datetime | None
    used_at: datetime | None
    clock: str
    reads_high_k: float
    revoked_at: datetime | None


class ProbeNow(Schema):
    """What a probe reads over the last seconds, and by how much that went up and down; null for nothing."""

    celsius: float | None
    spread_k: float | None


class NewProbeCheck(Schema):
    """What a probe read in ice and water, and in boiling water; null for what was not done."""

    model_config = ConfigDict(extra="forbid")

    ice_c: float | None = Field(None, ge=COLDEST_C, le=HOTTEST_C)
    boil_c: float | None = Field(None, ge=COLDEST_C, le=HOTTEST_C)


class ProbeCheckOut(Schema):
    """A check of a probe, and what it says of it."""

    id: int
    device_id: int
    name: str
    at: datetime
    by: str
    ice_c: float | None
    boil_c: float | None
    boils_c: float
    reads_high_k: float
    error_k: float


class DeviceMade(DeviceOut):
    """A device with a new token, which is shown this once."""

    token: str


class NewWeight(Schema):
    """One weight a scale has settled on, or is moving through."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    at: Moment
    grams: float = Field(ge=-50_000, le=50_000)
    steady: bool = True


class WeightOut(Schema):
    """What the kitchen's scale says now; null when none has spoken lately."""

    device: str | None
    at: datetime | None
    grams: float | None
    steady: bool


class NewReading(Schema):
    """What a probe read, and when."""

    model_config = ConfigDict(extra="forbid")

    at: Moment
    celsius: float = Field(ge=COLDEST_C, le=HOTTEST_C)


class NewReadings(Schema):
    """Readings in any order; what was sent before is known by its time and counts once."""

    model_config = ConfigDict(extra="forbid")

    readings: list[NewReading] = Field(min_length=1, max_length=MOST_AT_ONCE)


class Taken(Schema):
    """How many readings were new; `clock` is a sentence when the probe's clock is wrong."""

    new: int
    clock: str = ""
