"""How a device is known: by its token."""

from __future__ import annotations

from django.http import HttpRequest
from ninja.security import HttpBearer

from devices import reads
from devices.models import Device


class DeviceToken(HttpBearer):
    """A device's token, as a bearer token."""

    def authenticate(self, request: HttpRequest, token: str) -> Device | None:
        """The device, or None."""
        return reads.device_of(token)
