"""Routes of the wall screen, by its code; a chef gets that where devices are registered."""

from __future__ import annotations

from devices.models import DeviceKind
from devices.tokens import DeviceToken, sent_by
from django.http import HttpRequest
from ninja import Router

from wall import reads
from wall.schemas import WallDay, WallStove

router = Router()


@router.get("/wall", response=WallStove, auth=DeviceToken())
def show_stove(request: HttpRequest) -> WallStove:
    """What is on; asked every second or two."""
    return reads.on_the_stove(reads.actor_of(sent_by(request, DeviceKind.SCREEN)))


@router.get("/wall/day", response=WallDay, auth=DeviceToken())
def show_day(request: HttpRequest) -> WallDay:
    """What is next, and what must go today; asked every half minute."""
    return reads.today(reads.actor_of(sent_by(request, DeviceKind.SCREEN)))
