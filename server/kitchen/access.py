"""Who is acting, where, and whether they may. Every read and every write starts here."""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Concatenate, ParamSpec, TypeVar

from django.core.exceptions import PermissionDenied
from django.db import OperationalError, connection, transaction
from django.http import Http404, HttpRequest
from people import sessions
from people.models import User
from procrastinate.exceptions import ConnectorException
from psycopg.errors import DeadlockDetected, SerializationFailure

from kitchen.models import AuditEntry, Kitchen, Membership, Role

__all__ = ["Actor", "Listener", "Role", "action", "as_cook", "as_member", "enter", "listener"]

P = ParamSpec("P")
R = TypeVar("R")

_NEEDS = {
    Role.COOK: "Only cooks of this kitchen can do this; you can look.",
    Role.CHEF: "Only a chef of this kitchen can change this.",
}


@dataclass(frozen=True)
class Actor:
    """A person in a kitchen, with their role there."""

    user: User
    kitchen: Kitchen
    role: Role

    def must(self, role: Role) -> None:
        """Refuse unless this person's role reaches `role`."""
        if self.role.rank < role.rank:
            raise PermissionDenied(_NEEDS[role])


def enter(request: HttpRequest, slug: str, *, by_password: bool = False) -> Actor:
    """The person of a request in the kitchen they name.

    A kitchen one does not belong to does not exist for one. Administrators are chefs everywhere. With
    `by_password` a session that was opened with a PIN is refused; one that was is good for its kitchen alone.

    Raises
    ------
    Http404
        when there is no such kitchen, or not for this person.
    """
    user = request.user
    if by_password:
        sessions.must_be_by_password(request)
    if not isinstance(user, User):
        raise Http404
    confined = sessions.confined_to(request)
    if user.is_superuser:
        kitchen = Kitchen.objects.filter(slug=slug, thrown_away_at=None).first()
        if kitchen is not None and confined in (None, kitchen.pk):
            return Actor(user, kitchen, Role.CHEF)
        raise Http404
    membership = (
        Membership.objects.select_related("kitchen")
        .filter(user=user, kitchen__slug=slug, kitchen__thrown_away_at=None)
        .first()
    )
    if membership is None or confined not in (None, membership.kitchen_id):
        raise Http404
    return Actor(user, membership.kitchen, Role(membership.role))


@dataclass(frozen=True)
class Listener:
    """Someone who goes on listening to a kitchen after their request was let in, and by what they may."""

    session: str
    person: int
    password: str
    kitchen: int


def listener(request: HttpRequest, actor: Actor) -> Listener:
    """The person of a request that was let in, as one who goes on listening."""
    return Listener(request.session.session_key or "", actor.user.pk, actor.user.password, actor.kitchen.pk)


STILL_MAY = """
SELECT place FROM unnest(%s::int[], %s::text[], %s::bigint[], %s::text[], %s::bigint[])
    AS listening(place, session, person, password, kitchen)
JOIN django_session ON session_key = listening.session AND expire_date > now()
JOIN people_user person ON person.id = listening.person AND person.password = listening.password
WHERE person.is_active AND (person.is_superuser OR EXISTS (
    SELECT FROM kitchen_membership JOIN kitchen_kitchen ON kitchen_kitchen.id = kitchen_id
    WHERE user_id = person.id AND kitchen_id = listening.kitchen AND thrown_away_at IS NULL))
"""
"""Which of many listeners would still be let in as `enter` lets in, by their places; asked in one go, with
what `columns` makes of them."""


def columns(listeners: Iterable[Listener]) -> list[list[int] | list[str]]:
    """What `STILL_MAY` is asked with."""
    known = list(listeners)
    return [
        list(range(len(known))),
        [one.session for one in known],
        [one.person for one in known],
        [one.password for one in known],
        [one.kitchen for one in known],
    ]


CROSSED = (DeadlockDetected, SerializationFailure)
"""Two that waited for each other; one of them was ended by the database, and is done once more."""
NAMES: set[str] = set()
"""Every action there is, by the name its entries have."""


def _queued(
    function: Callable[Concatenate[Actor, P], R], actor: Actor, *args: P.args, **kwargs: P.kwargs
) -> R:
    """Do it; where a job could not be queued, what the database said counts, as for every other row."""
    try:
        return function(actor, *args, **kwargs)
    except ConnectorException as error:
        if isinstance(error.__cause__, OperationalError):
            raise error.__cause__ from None
        raise


def action(
    name: str, role: Role
) -> Callable[[Callable[Concatenate[Actor, P], R]], Callable[Concatenate[Actor, P], R]]:
    """Make a function the one way to write something: permission, transaction and audit entry in one.

    The function's result, as text, is the subject of the audit entry.
    """

    NAMES.add(name)

    def decorate(function: Callable[Concatenate[Actor, P], R]) -> Callable[Concatenate[Actor, P], R]:
        @functools.wraps(function)
        def act(actor: Actor, /, *args: P.args, **kwargs: P.kwargs) -> R:
            actor.must(role)

            def once() -> R:
                with transaction.atomic():
                    result = _queued(function, actor, *args, **kwargs)
                    AuditEntry.objects.create(
                        kitchen=actor.kitchen, user=actor.user, action=name, subject=str(result)[:250]
                    )
                return result

            try:
                return once()
            except OperationalError as error:
                # As a part of something greater it is that which has to be done again.
                if connection.in_atomic_block or not isinstance(error.__cause__, CROSSED):
                    raise
                return once()

        return act

    return decorate


def as_cook(user_id: int | None, kitchen: Kitchen) -> Actor | None:
    """Someone as a cook of a kitchen, for what follows from what they did there; None when they have left."""
    user = None if user_id is None else User.objects.filter(pk=user_id).first()
    return None if user is None else Actor(user, kitchen, Role.COOK)


def as_member(user: User, kitchen: Kitchen) -> Actor | None:
    """Someone as what they are in a kitchen now, for what is done for them later; None when they left."""
    if kitchen.thrown_away_at is not None or not user.is_active:
        return None
    if user.is_superuser:
        return Actor(user, kitchen, Role.CHEF)
    membership = Membership.objects.filter(user=user, kitchen=kitchen).first()
    return None if membership is None else Actor(user, kitchen, Role(membership.role))
