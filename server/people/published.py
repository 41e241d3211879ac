"""The demo's password is printed at every start and stands in the handbook: it opens nothing that matters."""

from __future__ import annotations

import ipaddress

from django.core.exceptions import ValidationError
from django.http import HttpRequest

PASSWORD = "nappe-at-82"  # noqa: S105 published


class NotPublished:
    """A validator: nobody takes the demo's password for their own."""

    def validate(self, password: str, user: object = None) -> None:
        """Refuse it."""
        if password == PASSWORD:
            raise ValidationError("That is the demo's password, which everyone knows. Take another.")

    def get_help_text(self) -> str:
        """What it asks for."""
        return "Not the demo's password."


def at_the_machine(request: HttpRequest) -> bool:
    """Whether a request comes from this machine to this machine: only there the demo's password opens."""
    if any(name in request.headers for name in ("X-Forwarded-For", "Forwarded", "X-Real-IP")):
        # Someone else stands behind the proxy, whether we trust what it says or not.
        return False
    host = request.get_host().rsplit(":", 1)[0].strip("[]")
    return _is_loopback(str(request.META.get("REMOTE_ADDR", ""))) and (
        host == "localhost" or _is_loopback(host)
    )


def _is_loopback(address: str) -> bool:
    try:
        return ipaddress.ip_address(address).is_loopback
    except ValueError:
        return False
