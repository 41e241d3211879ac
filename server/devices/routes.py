"""Routes of devices: the kitchen's side, by session; the device's side, by token."""

from __future__ import annotations

from django.http import HttpRequest
from kitchen.access import enter
from ninja import Router, Status

from devices import actions, reads
from devices.models import Device, DeviceKind
from devices.schemas import (
    DeviceMade,
    DeviceOut,
    NewDevice,
    NewProbeCheck,
    NewReadings,
    NewWeight,
    ProbeCheckOut,
    ProbeNow,
    Taken,
    WeightOut,
)
from devices.tokens import DeviceToken, sent_by

router = Router()


@router.get("/k/{kitchen}/devices", response=list[DeviceOut])
def list_devices(request: HttpRequest, kitchen: str) -> list[Device]:
    """The kitchen's devices."""
    return reads.devices(enter(request, kitchen))


@router.post("/k/{kitchen}/devices", response={201: DeviceMade})
def register_device(request: HttpRequest, kitchen: str, body: NewDevice) -> Status[DeviceMade]:
    """Register a device; its token is in the answer and is never shown again."""
    token = actions.new_token(body.kind)
    made = actions.register(enter(request, kitchen, by_password=True), body.name, token, body.kind)
    return Status(201, _with(made, token))


@router.post("/k/{kitchen}/devices/{device_id}/token", response=DeviceMade)
def rotate_token(request: HttpRequest, kitchen: str, device_id: int) -> DeviceMade:
    """Give a device another token, in this answer only; the one it had is good for nothing any more."""
    actor = enter(request, kitchen, by_password=True)
    token = actions.new_token(reads.device(actor, device_id).kind)
    return _with(actions.rotate(actor, device_id, token), token)


def _with(device: Device, token: str) -> DeviceMade:
    return DeviceMade(**DeviceOut.from_orm(device).dict(), token=token)


@router.post("/k/{kitchen}/devices/{device_id}/revoke", response=DeviceOut)
def revoke_device(request: HttpRequest, kitchen: str, device_id: int) -> Device:
    """Take a device's token away."""
    return actions.revoke(enter(request, kitchen), device_id)


@router.get("/k/{kitchen}/devices/checks", response=list[ProbeCheckOut])
def list_checks(request: HttpRequest, kitchen: str) -> list[ProbeCheckOut]:
    """How probes were when they were checked, the newest first."""
    return [reads.shown(one) for one in reads.checks(enter(request, kitchen))]


@router.get("/k/{kitchen}/devices/{device_id}/now", response=ProbeNow)
def read_probe_now(request: HttpRequest, kitchen: str, device_id: int) -> ProbeNow:
    """What a probe reads now."""
    celsius, spread_k = reads.probe_now(enter(request, kitchen), device_id)
    return ProbeNow(celsius=celsius, spread_k=spread_k)


@router.post("/k/{kitchen}/devices/{device_id}/checks", response={201: ProbeCheckOut})
def check_probe(
    request: HttpRequest, kitchen: str, device_id: int, body: NewProbeCheck
) -> Status[ProbeCheckOut]:
    """Check a probe in ice and water and in boiling water."""
    made = actions.check(enter(request, kitchen), device_id, body.ice_c, body.boil_c)
    return Status(201, reads.shown(made))


@router.delete("/k/{kitchen}/devices/checks/{check_id}", response={204: None})
def uncheck_probe(request: HttpRequest, kitchen: str, check_id: int) -> Status[None]:
    """Take the last check of a probe back."""
    actions.uncheck(enter(request, kitchen), check_id)
    return Status(204, None)


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
