"""How a device is known: by its token."""

from __future__ import annotations

from django.core.exceptions import PermissionDenied
from django.http import HttpRequest
from ninja.security import HttpBearer

from devices import reads
from devices.models import Device, DeviceKind

__all__ = ["DeviceKind", "DeviceToken", "sent_by"]


class DeviceToken(HttpBearer):
    """A device's token, as a bearer token."""

    def authenticate(self, request: HttpRequest, token: str) -> Device | None:
        """The device, or None."""
        return reads.device_of(token)


def sent_by(request: HttpRequest, kind: DeviceKind) -> Device:
    """The device that sent a request, which must be of that kind.

    Raises
    ------
    PermissionDenied
        when the token is that of another kind of device.
    """
    device: Device = request.auth  # type: ignore[attr-defined]
    if device.kind != kind:
        raise PermissionDenied(f"That is the token of a {device.kind}; this is for a {kind}.")
    return device
