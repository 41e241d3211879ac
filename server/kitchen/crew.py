"""The people of a kitchen: who is there, inviting, taking off, changing hands; kitchens of one's own."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

import custard
from common import clock
from common.refusals import Conflict, Refusal
from django.db import connection, transaction
from django.http import Http404, HttpRequest
from django.utils.text import slugify
from people import actions as people
from people import hands
from people.models import User

from kitchen.access import Actor, action
from kitchen.models import AuditEntry, Invitation, Kitchen, Membership, Role

OPEN_FOR = timedelta(days=3)
"""So long an invitation is good: it goes by hand, and who needs it is there tomorrow."""
MOST_KITCHENS = 5
"""So many kitchens one person makes."""
LAST_CHEF = "A kitchen keeps at least one chef. Make somebody else one first."


# Who is there


@action("crew.invite", Role.CHEF)
def invite(actor: Actor, /, role: str, title: str, token: str) -> Invitation:
    """Let whoever has a link join, once, within `OPEN_FOR`."""
    return Invitation.objects.create(
        kitchen=actor.kitchen,
        digest=digest(token),
        role=role,
        title=title,
        made_by=actor.user,
        until=clock.now() + OPEN_FOR,
    )


@action("crew.uninvite", Role.CHEF)
def uninvite(actor: Actor, invitation_id: int) -> Invitation:
    """Take an invitation back that nobody used yet."""
    found = Invitation.objects.filter(kitchen=actor.kitchen, pk=invitation_id, used_by=None).first()
    if found is None:
        raise Http404
    found.delete()
    return found


@action("crew.role", Role.CHEF)
def change_role(actor: Actor, person_id: int, role: str) -> str:
    """What somebody may do from now on.

    Raises
    ------
    Refusal
        when nobody would be left to change it back.
    """
    membership = _membership(actor, person_id)
    _keeps_a_chef(membership, role)
    membership.role = role
    membership.save(update_fields=["role"])
    return f"{membership.user.shown()}: {role}"


@action("crew.take-off", Role.CHEF)
def take_off(actor: Actor, person_id: int) -> str:
    """Somebody works here no more. What they did stays theirs.

    Raises
    ------
    Refusal
        when no chef would be left.
    """
    membership = _membership(actor, person_id)
    _keeps_a_chef(membership, None)
    membership.delete()
    return membership.user.shown()


def _membership(actor: Actor, person_id: int) -> Membership:
    """Somebody's place in the kitchen, all places held still: of two who take chefs off one is told."""
    Kitchen.objects.select_for_update().get(pk=actor.kitchen.pk)
    found = Membership.objects.select_related("user").filter(kitchen=actor.kitchen, user=person_id).first()
    if found is None:
        raise Http404
    return found


def _keeps_a_chef(membership: Membership, role: str | None) -> None:
    others = Membership.objects.filter(kitchen=membership.kitchen_id, role=Role.CHEF).exclude(
        pk=membership.pk
    )
    if membership.role == Role.CHEF and role != Role.CHEF and not others.exists():
        raise Refusal(422, LAST_CHEF, [("role", LAST_CHEF)])


# Joining by a link


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
    if found is None:
        raise Refusal(404, "This invitation is used, has run out or was taken back. Ask for another.")
    return found


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
    Invitation.objects.select_for_update().filter(digest=digest(token)).first()
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

    Raises
    ------
    Conflict
        when the name is taken.
    """
    if not username:
        raise Refusal(422, "Write a name to log in with.", [("username", "Write a name to log in with.")])
    if User.objects.filter(username__iexact=username).exists():
        raise Refusal(409, f"Somebody is called {username} already.", [("username", "This name is taken.")])
    return User.objects.create_user(username, password=password, title=title)


# Changing hands


def at_hand(actor: Actor) -> list[User]:
    """Who can take over at a shared tablet here: those who have a PIN."""
    return list(
        User.objects.filter(memberships__kitchen=actor.kitchen, is_active=True)
        .exclude(pin="")
        .exclude(pk=actor.user.pk)
        .order_by("title", "username")
    )


def change_hands(request: HttpRequest, actor: Actor, person_id: int, pin: str) -> User:
    """At this device it is somebody else of this kitchen from now on; what they mark is theirs.

    Raises
    ------
    Refusal
        when it is not their PIN.
    """
    user = next((one for one in at_hand(actor) if one.pk == person_id), None)
    if user is None:
        raise Http404
    hands.must_be(user, pin)
    people.log_out(request)
    people.open_session(request, user, by_pin=True)
    AuditEntry.objects.create(
        kitchen=actor.kitchen,
        user=user,
        action="crew.hands",
        subject=f"from {actor.user.shown()} to {user.shown()}",
    )
    return user


# Kitchens of one's own


def begin(user: User, /, name: str, boils_c: float | None, **settings: Any) -> Kitchen:
    """A new kitchen, and its first chef.

    `boils_c` is where water boils there, for who knows that and not the height [degC].

    Raises
    ------
    Refusal, CustardError
        when somebody makes too many, or something told cannot be.
    """
    if boils_c is not None:
        settings["altitude_m"] = custard.altitude_boiling_at(boils_c)
    with transaction.atomic():
        User.objects.select_for_update().get(pk=user.pk)
        if AuditEntry.objects.filter(user=user, action="kitchen.begin").count() >= MOST_KITCHENS:
            raise Refusal(422, f"One person makes no more than {MOST_KITCHENS} kitchens.")
        kitchen = Kitchen.objects.create(slug=_free_slug(name), name=name, **settings)
        Membership.objects.create(user=user, kitchen=kitchen, role=Role.CHEF)
        AuditEntry.objects.create(kitchen=kitchen, user=user, action="kitchen.begin", subject=name)
    return kitchen


def _free_slug(name: str) -> str:
    """An address of its own, from the name as far as it has letters."""
    stem = slugify(name)[:50] or "kitchen"
    taken = set(Kitchen.objects.filter(slug__startswith=stem).values_list("slug", flat=True))
    return next(
        slug
        for slug in (stem, *(f"{stem}-{number}" for number in range(2, len(taken) + 3)))
        if slug not in taken
    )


@action("kitchen.throw-away", Role.CHEF)
def throw_away(actor: Actor) -> Kitchen:
    """Nobody enters a made-up kitchen any more. Its records stay, as records do.

    Raises
    ------
    Refusal
        for a kitchen that is not made up.
    """
    if not actor.kitchen.demo:
        raise Refusal(422, "Only the demo's kitchen can be thrown away: this one's records are real.")
    actor.kitchen.thrown_away_at = clock.now()
    actor.kitchen.save(update_fields=["thrown_away_at"])
    return actor.kitchen


def bring_back(user: User, slug: str) -> Kitchen:
    """The demo's kitchen is there again, for a chef of it."""
    found = (
        Kitchen.objects.filter(slug=slug, memberships__user=user, memberships__role=Role.CHEF)
        .exclude(thrown_away_at=None)
        .first()
    )
    if found is None:
        raise Http404
    found.thrown_away_at = None
    with transaction.atomic():
        found.save(update_fields=["thrown_away_at"])
        AuditEntry.objects.create(kitchen=found, user=user, action="kitchen.bring-back", subject=str(found))
    return found


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
        with connection.cursor() as cursor:
            # Of two who come at once one is first.
            cursor.execute("SELECT pg_advisory_xact_lock(hashtext('oldspoon first'))")
        if not people.is_empty():
            raise Refusal(403, "Somebody is here already. Ask them for an invitation.")
        user = new_person(username, title, password)
    people.open_session(request, user)
    return user
