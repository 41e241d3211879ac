"""How long somebody who typed wrong passwords waits: not at all at first, then longer with each.

Tries are counted by name and device, so that what a stranger guesses locks nobody out of a device that knows
them. django-axes counts and forgets; how long to wait is said here.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from math import ceil

from axes.models import AccessAttempt
from common import clock
from common.refusals import Refusal
from django.conf import settings
from django.db.models import Max, QuerySet, Sum

FREE = 5
"""So many wrong passwords cost nothing: people mistype."""
FIRST_S, LONGEST_S = 30, 900
"""What the next wrong one costs, doubled with each after it, and the most [s]: 20 guesses take 3 h."""


def wait_s(wrong: int, last: datetime, now: datetime) -> int:
    """How long somebody still has to wait [s].

    Parameters
    ----------
    wrong, last : how many wrong passwords, and when the last was
    """
    if wrong < FREE:
        return 0
    rests_s = min(LONGEST_S, FIRST_S * 2 ** min(wrong - FREE, 10))
    return max(0, ceil((last + timedelta(seconds=rests_s) - now).total_seconds()))


def must_not_wait(username: str, device: str) -> None:
    """Refuse who guesses, while they have to wait.

    Raises
    ------
    Refusal
        429, with how long.
    """
    found = _tries().filter(username__iexact=username, user_agent=device)
    tries = found.aggregate(wrong=Sum("failures_since_start"), last=Max("attempt_time"))
    if tries["last"] is None:
        return
    left_s = wait_s(tries["wrong"], tries["last"], clock.now())
    if left_s:
        raise Refusal(429, f"Too many wrong passwords. Try again {_in(left_s)}.", retry_s=left_s)


def waiting() -> set[str]:
    """The names for which somebody has to wait now, in lower case."""
    now = clock.now()
    rows = (
        _tries()
        .values_list("username", "user_agent")
        .annotate(wrong=Sum("failures_since_start"), last=Max("attempt_time"))
    )
    return {str(name).casefold() for name, _, wrong, last in rows if wait_s(wrong, last, now)}


def _tries() -> QuerySet[AccessAttempt]:
    since = clock.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    found: QuerySet[AccessAttempt] = AccessAttempt.objects.filter(attempt_time__gte=since)
    return found


def _in(seconds: int) -> str:
    """A time to wait, as it is said."""
    if seconds < 60:
        return f"in {seconds} seconds"
    minutes = ceil(seconds / 60)
    return "in a minute" if minutes == 1 else f"in {minutes} minutes"
