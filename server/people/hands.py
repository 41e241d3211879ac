"""Changing hands at a shared tablet: a PIN says who it is now, so that what is marked is marked by them."""

from __future__ import annotations

from common.refusals import Refusal
from django.contrib.auth.hashers import check_password, make_password
from django.db.models import F

from people.models import User

MOST_WRONG = 5
SHORTEST, LONGEST = 4, 8
_RUNS = ("01234567890", "09876543210")
LOCKED = "Too many wrong PINs. Log in with the password; then the PIN is good again."


def set_pin(user: User, pin: str | None) -> User:
    """A new PIN, or none any more.

    Raises
    ------
    Refusal
        when it is no four to eight figures, or the first anybody would try.
    """
    if pin is not None:
        said = _wrong_with(pin)
        if said:
            raise Refusal(422, said, [("pin", said)])
    user.pin = make_password(pin) if pin is not None else ""
    user.wrong_pins = 0
    user.save(update_fields=["pin", "wrong_pins"])
    return user


def _wrong_with(pin: str) -> str:
    if not (pin.isascii() and pin.isdigit() and SHORTEST <= len(pin) <= LONGEST):
        return f"Write {SHORTEST} to {LONGEST} figures."
    if len(set(pin)) == 1 or any(pin in run for run in _RUNS):
        return "That is the first anybody would try. Take another."
    return ""


def must_be(user: User, pin: str) -> None:
    """Refuse a PIN that is not this person's.

    A try is counted before it is checked: tries that come together count as many.

    Raises
    ------
    Refusal
        401 for a wrong PIN, 429 once there were too many.
    """
    may = User.objects.filter(pk=user.pk, wrong_pins__lt=MOST_WRONG).exclude(pin="")
    if not may.update(wrong_pins=F("wrong_pins") + 1):
        raise Refusal(429, LOCKED, [("pin", LOCKED)])
    if not check_password(pin, user.pin):
        raise Refusal(401, "That is not their PIN.", [("pin", "This is not their PIN.")])
    User.objects.filter(pk=user.pk).update(wrong_pins=0)
