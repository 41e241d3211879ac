"""A time that a device or a person told: of this century, and in UTC from then on."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime

EARLIEST, LATEST = datetime(2000, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)


def of_this_century(moment: datetime) -> datetime:
    """The time itself in UTC; refuses what no clock of a kitchen shows."""
    try:
        found = moment.astimezone(UTC)
    except (OverflowError, ValueError):
        found = datetime.min.replace(tzinfo=UTC)
    if not EARLIEST <= found < LATEST:
        raise ValueError("is no time between the years 2000 and 2100")
    return found


Moment = Annotated[AwareDatetime, AfterValidator(of_this_century)]
