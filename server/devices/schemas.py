"""What the API says about devices."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from common.text import Word
from ninja import Schema
from pydantic import AwareDatetime, ConfigDict, Field


class NewDevice(Schema):
    """A device to register."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)


class DeviceOut(Schema):
    """A device as the kitchen sees it."""

    id: int
    name: str
    created_at: datetime
    revoked_at: datetime | None


class DeviceMade(DeviceOut):
    """A device just registered, with its token, which is shown this once."""

    token: str


class NewWeight(Schema):
    """One weight a scale has settled on, or is moving through."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    at: AwareDatetime
    grams: float = Field(ge=-50_000, le=50_000)
    steady: bool = True


class WeightOut(Schema):
    """What the kitchen's scale says now; null when none has spoken lately."""

    device: str | None
    at: datetime | None
    grams: float | None
    steady: bool
