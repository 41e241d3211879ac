"""What is sent of archives."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from ninja import Schema
from pydantic import ConfigDict, Field

MOST_BYTES = 500_000_000
"""The largest archive that is taken in through a browser; larger ones by command."""


class ArchiveOut(Schema):
    """An archive on its way: how far it is, and what came of it."""

    id: UUID
    made_at: datetime
    done_at: datetime | None
    by: str
    size: int
    came: int
    part: str
    rows: int
    of_rows: int
    refused: str
    became: str | None
    """The address of the kitchen that it became, of one that was brought in."""


class NewArchive(Schema):
    """An archive that is going to be sent: how large it is [bytes]."""

    model_config = ConfigDict(extra="forbid")

    size: int = Field(ge=1, le=MOST_BYTES)


class ArchivePart(Schema):
    """A part of an archive, in base64, and where it begins in the file."""

    model_config = ConfigDict(extra="forbid")

    at: int = Field(ge=0, le=MOST_BYTES)
    content: str = Field(max_length=960_000)
