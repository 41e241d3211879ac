"""Logging in and out."""

from __future__ import annotations

import ipaddress
import threading
from datetime import timedelta

from axes.models import AccessAttempt
from common import clock
from common.refusals import Refusal
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db.models import Sum
from django.http import HttpRequest

from people import published
from people.models import User

MOST_FROM_ONE_ADDRESS = 30
"""Wrong passwords from one address, whatever the names: a kitchen's tablets may share one."""
AT_ONCE = 2
"""So many passwords are checked at once, as each takes memory on purpose."""
QUEUED_S = 5.0
"""So long the others wait for their turn before they are asked to come again."""
_AT_ONCE = threading.BoundedSemaphore(AT_ONCE)


def log_in(request: HttpRequest, username: str, password: str) -> User:
    """Start a session.

    Raises
    ------
    Refusal
        401 when name and password do not match, 429 after too many wrong tries.
    """
    if _wrong_from(address_of(request)) >= MOST_FROM_ONE_ADDRESS:
        raise _too_many()
    if password == published.PASSWORD and not published.may_be_used(request):
        raise Refusal(
            403,
            "The demo's password opens the demo only on the machine it runs on. Make people of your own.",
            [("password", "The demo's password is not taken here.")],
        )
    if not _AT_ONCE.acquire(timeout=QUEUED_S):
        raise Refusal(429, "Too many people are logging in at once. Try again in a moment.", retry_s=1)
    try:
        user = authenticate(request, username=username, password=password)
    finally:
        _AT_ONCE.release()
    if getattr(request, "axes_locked_out", False):
        raise _too_many()
    if not isinstance(user, User):
        raise Refusal(
            401,
            "That name and password do not go together.",
            [("password", "Check the name and the password.")],
        )
    login(request, user)
    return user


def address_of(request: HttpRequest) -> str | None:
    """Where a request comes from, as the server that took it in says; None for what is no address."""
    try:
        return str(ipaddress.ip_address(str(request.META.get("REMOTE_ADDR", ""))))
    except ValueError:
        return None


def _wrong_from(address: str | None) -> int:
    """How many wrong passwords came from an address in the last quarter of an hour."""
    since = clock.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    tries = AccessAttempt.objects.filter(ip_address=address, attempt_time__gte=since)
    return int(tries.aggregate(all=Sum("failures_since_start"))["all"] or 0)


def _too_many() -> Refusal:
    return Refusal(429, "Too many wrong passwords. Wait a quarter of an hour, then try again.", retry_s=900)


def log_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)
