"""Logging in and out, and what a person changes of their own."""

from __future__ import annotations

import ipaddress
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt
from common import clock
from common.refusals import Refusal
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db.models import Sum
from django.http import HttpRequest

from people import guessing, hands, known, published, sessions
from people.models import User

MOST_FROM_ONE_ADDRESS = 30
"""Wrong passwords from one address, whatever the names: a kitchen's tablets may share one."""
FROM_ONE_ADDRESS = "Too many wrong passwords from here. Wait a quarter of an hour, then try again."
AT_ONCE = 2
"""So many passwords are checked at once, as each takes memory on purpose."""
QUEUED_S = 5.0
"""So long the others wait for their turn before they are asked to come again."""
MODEL_BACKEND = "django.contrib.auth.backends.ModelBackend"
_AT_ONCE = threading.BoundedSemaphore(AT_ONCE)


def log_in(request: HttpRequest, username: str, password: str) -> User:
    """Start a session.

    Raises
    ------
    Refusal
        401 when name and password do not match, 429 after too many wrong tries. Tries are counted by name and
        device: what strangers try locks nobody out of a device that knows them.
    """
    device = known.device_of(request, username)
    AxesProxyHandler.update_request(request)
    request.axes_user_agent = device  # type: ignore[attr-defined]
    if device == known.STRANGER and _wrong_from(address_of(request)) >= MOST_FROM_ONE_ADDRESS:
        raise Refusal(429, FROM_ONE_ADDRESS, retry_s=900)
    if password == published.PASSWORD and not published.at_the_machine(request):
        raise Refusal(
            403,
            "The demo's password opens the demo only on the machine it runs on. Make people of your own.",
            [("password", "The demo's password is not taken here.")],
        )
    with in_turn():
        # Under the turn: of many that come at once, those behind are told what those before them cost.
        guessing.must_not_wait(username, device)
        user = authenticate(request, username=username, password=password)
    if not isinstance(user, User):
        raise Refusal(
            401,
            "That name and password do not go together.",
            [("password", "Check the name and the password.")],
        )
    if user.wrong_pins:
        User.objects.filter(pk=user.pk).update(wrong_pins=0)
    open_session(request, user)
    known.remember(request, user.username)
    return user


def open_session(request: HttpRequest, user: User, *, pin_of: int | None = None) -> None:
    """From this request on it is this person who acts; with a PIN, in the kitchen `pin_of` alone."""
    login(request, user, backend=MODEL_BACKEND)
    sessions.began(request, user, pin_of=pin_of)


@contextmanager
def in_turn() -> Iterator[None]:
    """A turn at checking or making a password.

    Raises
    ------
    Refusal
        429 when no turn came in time.
    """
    if not _AT_ONCE.acquire(timeout=QUEUED_S):
        raise Refusal(429, "Too many people are logging in at once. Try again in a moment.", retry_s=1)
    try:
        yield
    finally:
        _AT_ONCE.release()


def address_of(request: HttpRequest) -> str | None:
    """Where a request comes from, as the server that took it in says; None for what is no address."""
    try:
        return str(ipaddress.ip_address(str(request.META.get("REMOTE_ADDR", ""))))
    except ValueError:
        return None


def _wrong_from(address: str | None) -> int:
    """How many wrong passwords came from an address in the last quarter of an hour."""
    since = clock.now() - timedelta(minutes=15)
    tries = AccessAttempt.objects.filter(ip_address=address, attempt_time__gte=since)
    return int(tries.aggregate(all=Sum("failures_since_start"))["all"] or 0)


def unlock(user: User) -> None:
    """Forget the wrong passwords that were tried for somebody."""
    AccessAttempt.objects.filter(username__iexact=user.username).delete()


def log_out(request: HttpRequest) -> None:
    """End the session."""
    sessions.ended(request)
    logout(request)


def is_empty() -> bool:
    """Whether nobody was ever here: whoever comes first sets it up."""
    return not User.objects.exists()


def must_be_at_the_machine(request: HttpRequest) -> None:
    """Refuse what only somebody at the machine itself may do."""
    if not published.at_the_machine(request):
        raise Refusal(403, "This is done at the machine Old Spoon runs on, or there with: ./spoon admin NAME")


def change_title(request: HttpRequest, user: User, title: str) -> User:
    """How one is named from now on; what one did stays one's own.

    Raises
    ------
    Refusal
        when the session was opened with a PIN.
    """
    sessions.must_be_by_password(request)
    user.title = title
    user.save(update_fields=["title"])
    return user


def keep_habits(user: User, habits: dict[str, Any]) -> User:
    """How one reads and writes figures."""
    user.habits = habits
    user.save(update_fields=["habits"])
    return user


def change_password(request: HttpRequest, user: User, old: str, new: str) -> User:
    """Take another password; one stays logged in here and nowhere else.

    Raises
    ------
    Refusal
        when the session was opened with a PIN, the old one is wrong, or the new one will not do.
    """
    sessions.must_be_by_password(request)
    with in_turn():
        right = user.check_password(old)
    if not right:
        raise Refusal(422, "That is not your password now.", [("old", "This is not your password now.")])
    check_password(new, user, "new")
    with in_turn():
        user.set_password(new)
    user.save(update_fields=["password"])
    # Every session knows the password it was opened under: all the others end.
    sessions.end_others(request, user)
    update_session_auth_hash(request, user)
    sessions.began(request, user, pin_of=None)
    return user


def check_password(password: str, user: User | None, field: str = "password") -> None:
    """Refuse a password that will not do, by its field."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        said = " ".join(error.messages)
        raise Refusal(422, said, [(field, said)]) from None


def change_pin(request: HttpRequest, user: User, pin: str | None) -> User:
    """Take a PIN to change hands with at a shared tablet, or have none any more.

    Raises
    ------
    Refusal
        when the session was opened with a PIN, or the new one is too easily guessed.
    """
    sessions.must_be_by_password(request)
    changed = hands.set_pin(user, pin)
    sessions.end_by_pin(user)
    return changed


def log_out_elsewhere(request: HttpRequest, user: User) -> int:
    """Log out everywhere but here; how many devices that were.

    Raises
    ------
    Refusal
        when the session was opened with a PIN.
    """
    sessions.must_be_by_password(request)
    return sessions.end_others(request, user)
