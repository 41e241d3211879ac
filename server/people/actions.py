"""Logging in and out."""

from __future__ import annotations

from common.refusals import Refusal
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest

from people.models import User


def log_in(request: HttpRequest, username: str, password: str) -> User:
    """Start a session.

    Raises
    ------
    Refusal
        401 when name and password do not match, 429 after too many wrong tries.
    """
    user = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        raise Refusal(429, "Too many wrong passwords. Wait a quarter of an hour, then try again.")
    if not isinstance(user, User):
        raise Refusal(
            401,
            "That name and password do not go together.",
            [("password", "Check the name and the password.")],
        )
    login(request, user)
    return user


def log_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)
