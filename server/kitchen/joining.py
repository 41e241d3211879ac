"""Joining a kitchen by a link, and the first person of all."""

from __future__ import annotations

import hashlib
import secrets

from common import clock
from common.database import one_at_a_time
from common.refusals import Conflict, Refusal
from django.db import transaction
from django.http import HttpRequest
from people import actions as people
from people.models import User

from kitchen.models import AuditEntry, Invitation, Kitchen, Membership, Role


def new_token() -> str:
    """What an invitation's link ends with: said once, and kept only as a digest."""
    return secrets.token_urlsafe(24)


def digest(token: str) -> str:
    """As it is kept."""
    return hashlib.sha256(token.encode()).hexdigest()


def invitation(token: str) -> Invitation:
    """An invitation that is still good.

    Raises
    ------
    Refusal
        404 when there is none, or it was used, taken back or has run out.
    """
    found = (
        Invitation.objects.select_related("kitchen", "made_by")
        .filter(digest=digest(token), used_by=None, until__gt=clock.now(), kitchen__thrown_away_at=None)
        .first()
    )
    if found is None or not _may_still_invite(found):
        raise Refusal(404, "This invitation is used, has run out or was taken back. Ask for another.")
    return found


def _may_still_invite(found: Invitation) -> bool:
    """Whether who made it is still a chef there: what they opened ends with that."""
    by = found.made_by
    chefs = Membership.objects.filter(kitchen=found.kitchen, user=by, role=Role.CHEF)
    return by.is_active and (by.is_superuser or chefs.exists())


def join(request: HttpRequest, token: str, username: str, title: str, password: str) -> User:
    """A new person joins by a link, and is logged in.

    Raises
    ------
    Refusal, Conflict
        when the link is no good any more, the name is taken, or the password will not do.
    """
    people.check_password(password, User(username=username, title=title))
    with people.in_turn(), transaction.atomic():
        found = _held(token)
        user = new_person(username, title or found.title, password)
        _joined(found, user)
    people.open_session(request, user)
    return user


def join_as(user: User, token: str) -> Kitchen:
    """Somebody who is logged in joins one more kitchen.

    Raises
    ------
    Refusal, Conflict
        when the link is no good any more, or they are there already.
    """
    with transaction.atomic():
        found = _held(token)
        if Membership.objects.filter(kitchen=found.kitchen, user=user).exists():
            raise Conflict(f"You are in {found.kitchen.name} already.")
        _joined(found, user)
    return found.kitchen


def _held(token: str) -> Invitation:
    """An invitation that nobody else can use meanwhile."""
    Invitation.objects.select_for_update(no_key=True).filter(digest=digest(token)).first()
    return invitation(token)


def _joined(found: Invitation, user: User) -> None:
    found.used_by = user
    found.save(update_fields=["used_by"])
    Membership.objects.create(user=user, kitchen=found.kitchen, role=found.role)
    AuditEntry.objects.create(
        kitchen=found.kitchen, user=user, action="crew.join", subject=f"{user.shown()}: {found.role}"
    )


def new_person(username: str, title: str, password: str) -> User:
    """Somebody who may log in.

    Within a transaction: of two who take one name at once, the second is told.

    Raises
    ------
    Refusal
        when the name is taken, or none.
    """
    one_at_a_time("people")
    if not username:
        raise Refusal(422, "Write a name to log in with.", [("username", "Write a name to log in with.")])
    if User.objects.filter(username__iexact=username).exists():
        raise Refusal(409, f"Somebody is called {username} already.", [("username", "This name is taken.")])
    return User.objects.create_user(username, password=password, title=title)


def first(request: HttpRequest, username: str, title: str, password: str) -> User:
    """The first person of all, at the machine itself, and logged in.

    Raises
    ------
    Refusal
        403 once somebody is there, or from another machine.
    """
    people.must_be_at_the_machine(request)
    people.check_password(password, User(username=username, title=title))
    with people.in_turn(), transaction.atomic():
        one_at_a_time("first")
        if not people.is_empty():
            raise Refusal(403, "Somebody is here already. Ask them for an invitation.")
        user = new_person(username, title, password)
    people.open_session(request, user)
    return user
