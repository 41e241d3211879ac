"""What is sent of photographs."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from common.moments import Moment
from common.text import Note
from custard.vocabulary import StageName
from ninja import Schema
from pydantic import ConfigDict, Field


class NewPhoto(Schema):
    """A photograph of a batch; its bytes in base64. `id` is made where it was taken."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    stage: StageName
    at: Moment
    note: Note = ""
    content: str = Field(max_length=1_000_000)


class PhotoNote(Schema):
    """What is written under a photograph."""

    model_config = ConfigDict(extra="forbid")

    note: Note = ""


class PhotoOut(Schema):
    """A photograph without its picture; `mine` where the reader may remove it."""

    id: UUID
    stage: StageName
    at: datetime
    note: str
    width: int
    height: int
    by: str
    mine: bool


class PhotosOut(Schema):
    """The photographs of a batch in the order in which they were taken, and the room left for more [MB]."""

    photos: list[PhotoOut]
    left_mb: float
    most_mb: int
