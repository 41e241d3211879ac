"""What was said at the end of an attempt, as it was kept."""

from __future__ import annotations

from custard import practice
from pydantic import TypeAdapter, ValidationError

from practice.models import Attempt

_DEBRIEF = TypeAdapter(practice.Debrief)


def kept(attempt: Attempt) -> practice.Debrief | None:
    """What was said; None when nothing was yet, or when it was kept by a program that said other things.

    Nothing is lost by that: seed and acts say it again for whoever asks.
    """
    if attempt.debrief is None:
        return None
    try:
        return _DEBRIEF.validate_python(attempt.debrief)
    except ValidationError:
        return None
