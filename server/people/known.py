"""Devices that know a person, who logged in there before: wrong tries elsewhere do not lock them out."""

from __future__ import annotations

import secrets
from collections.abc import Callable

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

COOKIE = "known_here"
SALT = "known device"
LASTS_S = 180 * 24 * 3600
MOST_NAMES = 20
"""So many people are remembered at one device, the latest: a kitchen's tablet has a few."""
STRANGER = "stranger"


def _kept(request: HttpRequest) -> tuple[str, list[str]]:
    """The device's own key and the names that logged in there, by a cookie that only we can write."""
    try:
        found = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=LASTS_S)
        return str(found["device"]), [str(name) for name in found["names"]]
    except (signing.BadSignature, KeyError, TypeError):
        return "", []


def device_of(request: HttpRequest, username: str) -> str:
    """Whose tries these are counted among: the device's own where it knows that name, else all strangers'."""
    device, names = _kept(request)
    return f"device {device}" if device and username.casefold() in names else STRANGER


def remember(request: HttpRequest, username: str) -> None:
    """Somebody logged in by password here: from the answer to this on, the device knows them."""
    device, names = _kept(request)
    name = username.casefold()
    names = [name, *(one for one in names if one != name)][:MOST_NAMES]
    kept = {"device": device or secrets.token_urlsafe(12), "names": names}
    request.known_here = signing.dumps(kept, salt=SALT)  # type: ignore[attr-defined]


class Remembered:
    """Middleware: gives the device what `remember` wrote."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Set the cookie where somebody has just logged in."""
        response = self.get_response(request)
        value = getattr(request, "known_here", None)
        if value is not None:
            response.set_cookie(
                COOKIE,
                value,
                max_age=LASTS_S,
                httponly=True,
                samesite="Lax",
                secure=bool(settings.SESSION_COOKIE_SECURE),
            )
        return response
