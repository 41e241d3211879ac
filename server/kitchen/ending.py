"""What somebody opened as a chef ends with that role: links, tokens and addresses of theirs."""

from __future__ import annotations

from collections.abc import Callable

from people.models import User

from kitchen.models import Invitation, Kitchen

Closer = Callable[[Kitchen, User], str]
"""Ends what somebody opened in a kitchen; says what that was, "" for nothing."""
_closers: list[Closer] = []


def ends_with_the_role(closer: Closer) -> Closer:
    """Have this done whenever somebody stops being a chef."""
    _closers.append(closer)
    return closer


def end_all(kitchen: Kitchen, user: User) -> str:
    """End everything that somebody opened there; says what that was."""
    return ", ".join(said for closer in _closers if (said := closer(kitchen, user)))


def counted(count: int, one: str, more: str) -> str:
    """So many of a thing in words; "" for none."""
    return "" if not count else one if count == 1 else f"{count} {more}"


@ends_with_the_role
def _invitations(kitchen: Kitchen, user: User) -> str:
    count, _ = Invitation.objects.filter(kitchen=kitchen, made_by=user, used_by=None).delete()
    return counted(count, "one invitation", "invitations")
