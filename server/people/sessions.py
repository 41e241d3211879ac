"""Where a person is logged in, and ending it."""

from __future__ import annotations

import re

from common import clock
from common.refusals import Refusal
from django.contrib.sessions.models import Session
from django.db.models import Exists, OuterRef, QuerySet
from django.http import HttpRequest

from people.models import OpenSession, User

BY_PIN, PIN_OF = "by_pin", "pin_of"
ONLY_BY_PASSWORD = "Hands were changed here with a PIN. Log in with your password to change this."  # noqa: S105 a sentence
_DEVICES = (("iPad", "tablet"), ("Tablet", "tablet"), ("Mobile", "phone"), ("Android", "tablet"))
_BROWSER = re.compile(r"(Firefox|Edg|Chrome|Safari)/")


def began(request: HttpRequest, user: User, *, pin_of: int | None) -> None:
    """Somebody logged in; with a PIN, at the kitchen `pin_of` alone."""
    by_pin = pin_of is not None
    request.session[BY_PIN], request.session[PIN_OF] = by_pin, pin_of
    _forget_ended(user)
    key = request.session.session_key or ""
    device = device_of(request.headers.get("User-Agent", ""))
    OpenSession.objects.update_or_create(
        key=key, defaults={"user": user, "device": device, "by_pin": by_pin, "since": clock.now()}
    )


def device_of(agent: str) -> str:
    """A device as a person knows it, from what its browser says of itself; nothing more of it is kept."""
    return next(
        (name for sign, name in _DEVICES if sign in agent), "computer" if _BROWSER.search(agent) else "other"
    )


def ended(request: HttpRequest) -> None:
    """Somebody logs out here."""
    OpenSession.objects.filter(key=request.session.session_key).delete()


def by_pin(request: HttpRequest) -> bool:
    """Whether this session was opened with a PIN only."""
    return bool(request.session.get(BY_PIN))


def confined_to(request: HttpRequest) -> int | None:
    """The one kitchen that a session by PIN is good for, by its key; None where it is good for all.

    Raises
    ------
    Refusal
        for one from before that was kept.
    """
    if not by_pin(request):
        return None
    kept = request.session.get(PIN_OF)
    if kept is None:
        raise Refusal(403, ONLY_BY_PASSWORD)
    return int(kept)


def must_be_by_password(request: HttpRequest) -> None:
    """Refuse what a PIN does not open: four figures are soon seen over a shoulder."""
    if by_pin(request):
        raise Refusal(403, ONLY_BY_PASSWORD)


def of(user: User) -> list[OpenSession]:
    """Where somebody is logged in, the newest first."""
    _forget_ended(user)
    return list(OpenSession.objects.filter(user=user))


def _forget_ended(user: User) -> None:
    """Sessions that ran out, or were ended elsewhere, are in the list no more."""
    going = Session.objects.filter(session_key=OuterRef("key"), expire_date__gt=clock.now())
    OpenSession.objects.filter(~Exists(going), user=user).delete()


def end_others(request: HttpRequest, user: User) -> int:
    """Log somebody out everywhere but here; how many devices that were."""
    others = OpenSession.objects.filter(user=user).exclude(key=request.session.session_key)
    return _end(others)


def end_by_pin(user: User) -> int:
    """End what was opened with a PIN that is another now."""
    return _end(OpenSession.objects.filter(user=user, by_pin=True))


def _end(some: QuerySet[OpenSession]) -> int:
    ended_now, _ = Session.objects.filter(session_key__in=list(some.values_list("key", flat=True))).delete()
    some.delete()
    return ended_now
