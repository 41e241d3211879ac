"""Who plays which attempt, looked up once and believed for a few seconds.

Five pictures a second of twenty players are a hundred requests; looking up session, person, membership and
attempt for each costs several times the picture. A pass says no more than what the lookup said some seconds
ago, and whoever has none is looked up: a process that never saw them answers just the same.
"""

from __future__ import annotations

import time
from collections import OrderedDict
from copy import copy
from typing import Any

from django.http import HttpRequest
from kitchen.access import Actor, enter
from ninja.security import SessionAuth

from practice import reads
from practice.models import Attempt

GOOD_FOR_S = 10.0
KEPT = 256
Pass = tuple[float, Actor, Attempt]
_passes: OrderedDict[tuple[str, str], Pass] = OrderedDict()


class Player(SessionAuth):
    """Lets in by session as everywhere, or by a pass of the last seconds."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        """Whoever has a pass, else whoever is logged in."""
        return _valid(_of(request, key)) or super().authenticate(request, key)


def _of(request: HttpRequest, key: str | None = None) -> tuple[str, str]:
    return (key or request.COOKIES.get(Player.param_name, ""), request.path)


def _valid(of: tuple[str, str]) -> Pass | None:
    found = _passes.get(of)
    return found if found is not None and found[0] > time.monotonic() else None


def player(request: HttpRequest, slug: str, attempt_id: int) -> tuple[Actor, Attempt]:
    """Who plays, and the attempt as it was when it was last looked at here.

    Raises
    ------
    Http404, PermissionDenied
        as `enter` and `reads.own` do.
    """
    of = _of(request)
    found = _valid(of)
    if found is None:
        actor = enter(request, slug)
        found = (time.monotonic() + GOOD_FOR_S, actor, reads.own(actor, attempt_id))
        _passes[of] = found
        while len(_passes) > KEPT:
            _passes.popitem(last=False)
    return found[1], copy(found[2])


def held(request: HttpRequest) -> tuple[Actor, Attempt] | None:
    """Who plays, and the attempt, for somebody with a pass; None for whoever has none."""
    found = _valid(_of(request))
    return None if found is None else (found[1], copy(found[2]))


def moved(request: HttpRequest, attempt: Attempt) -> None:
    """The attempt has gone on: the next look begins from there."""
    of = _of(request)
    found = _valid(of)
    if found is not None:
        _passes[of] = (found[0], found[1], attempt)


def forget() -> None:
    """Look everybody up again."""
    _passes.clear()
