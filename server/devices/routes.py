"""Routes of devices: the kitchen's side, by session; the device's side, by token."""

from __future__ import annotations

from django.http import HttpRequest
from kitchen.access import enter
from ninja import Router, Status

from devices import actions, reads
from devices.models import Device, DeviceKind
from devices.schemas import DeviceMade, DeviceOut, NewDevice, NewReadings, NewWeight, Taken, WeightOut
from devices.tokens import DeviceToken, sent_by

router = Router()


@router.get("/k/{kitchen}/devices", response=list[DeviceOut])
def list_devices(request: HttpRequest, kitchen: str) -> list[Device]:
    """The kitchen's devices."""
    return reads.devices(enter(request, kitchen))


@router.post("/k/{kitchen}/devices", response={201: DeviceMade})
def register_device(request: HttpRequest, kitchen: str, body: NewDevice) -> Status[DeviceMade]:
    """Register a device; its token is in the answer and is never shown again."""
    token = actions.new_token()
    made = actions.register(enter(request, kitchen, by_password=True), body.name, token, body.kind)
    return Status(201, _with(made, token))


@router.post("/k/{kitchen}/devices/{device_id}/token", response=DeviceMade)
def rotate_token(request: HttpRequest, kitchen: str, device_id: int) -> DeviceMade:
    """Give a device another token, in this answer only; the one it had is good for nothing any more."""
    token = actions.new_token()
    return _with(actions.rotate(enter(request, kitchen, by_password=True), device_id, token), token)


def _with(device: Device, token: str) -> DeviceMade:
    return DeviceMade(**DeviceOut.from_orm(device).dict(), token=token)


@router.post("/k/{kitchen}/devices/{device_id}/revoke", response=DeviceOut)
def revoke_device(request: HttpRequest, kitchen: str, device_id: int) -> Device:
    """Take a device's token away."""
    return actions.revoke(enter(request, kitchen), device_id)


@router.get("/k/{kitchen}/weight", response=WeightOut)
def read_scale(request: HttpRequest, kitchen: str) -> WeightOut:
    """What the kitchen's scale shows now."""
    now = reads.weight_now(enter(request, kitchen))
    if now is None:
        return WeightOut(device=None, at=None, grams=None, steady=False)
    return WeightOut(device=now.device.name, at=now.at, grams=now.grams, steady=now.steady)


@router.post("/device/weights", response={204: None}, auth=DeviceToken())
def send_weight(request: HttpRequest, body: NewWeight) -> Status[None]:
    """A scale says what lies on it."""
    actions.weigh(sent_by(request, DeviceKind.SCALE), body)
    return Status(204, None)


@router.post("/device/readings", response=Taken, auth=DeviceToken())
def send_readings(request: HttpRequest, body: NewReadings) -> Taken:
    """A probe says what it read."""
    probe = sent_by(request, DeviceKind.PROBE)
    return Taken(new=actions.take_readings(probe, body.readings), clock=probe.clock())
