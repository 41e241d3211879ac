"""The people of a kitchen: who is there and as what, asking somebody to come, taking off, changing hands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta

from common import clock
from common.refusals import Refusal
from django.http import Http404, HttpRequest
from people import actions as people
from people import guessing, hands
from people.models import User

from kitchen import ending, soft_delete
from kitchen.access import Actor, action
from kitchen.crew_schemas import Crew, InvitationOut, MemberOut
from kitchen.joining import digest
from kitchen.models import AuditEntry, Invitation, Kitchen, Membership, Role
from kitchen.soft_delete import Removed

OPEN_FOR = timedelta(days=3)
"""So long an invitation is good: it goes by hand, and who needs it is there tomorrow."""
LAST_CHEF = "A kitchen keeps at least one chef. Make somebody else one first."


def of(actor: Actor) -> Crew:
    """Who is there; a chef also sees whom they asked to come."""
    members = Membership.objects.filter(kitchen=actor.kitchen).select_related("user")
    chef = actor.role.rank >= Role.CHEF.rank
    locked = guessing.waiting() if chef else set()
    invited = Invitation.objects.filter(kitchen=actor.kitchen, used_by=None) if chef else ()
    return Crew(
        people=[
            MemberOut(
                id=one.user.pk,
                username=one.user.username,
                title=one.user.shown(),
                role=one.role,
                has_pin=bool(one.user.pin),
                locked=one.user.username.casefold() in locked,
                me=one.user == actor.user,
            )
            for one in members.order_by("user__title", "user__username")
        ],
        invitations=[invitation_out(one) for one in invited],
    )


def invitation_out(one: Invitation) -> InvitationOut:
    """An invitation as told; its link was said when it was made."""
    return InvitationOut(
        id=one.pk, title=one.title, role=one.role, until=one.until, open=one.until > clock.now()
    )


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
def uninvite(actor: Actor, invitation_id: int) -> Removed:
    """Take an invitation back that nobody used yet."""
    found = Invitation.objects.filter(kitchen=actor.kitchen, pk=invitation_id, used_by=None).first()
    if found is None:
        raise Http404
    return soft_delete.take_off(actor, found)


@action("crew.role", Role.CHEF)
def change_role(actor: Actor, person_id: int, role: str) -> Changed:
    """What somebody may do from now on.

    Raises
    ------
    Refusal
        when nobody would be left to change it back.
    """
    membership = _membership(actor, person_id)
    _keeps_a_chef(membership, role)
    ended = _ends(membership, role)
    membership.role = role
    membership.save(update_fields=["role"])
    return Changed(f"{membership.user.shown()}: {role}", ended)


@action("crew.unlock", Role.CHEF)
def unlock(actor: Actor, person_id: int) -> str:
    """Somebody who was locked out by wrong passwords may try again at once."""
    membership = _membership(actor, person_id)
    people.unlock(membership.user)
    return membership.user.shown()


@action("crew.take-off", Role.CHEF)
def take_off(actor: Actor, person_id: int) -> Removed:
    """Somebody works here no more. What they did stays theirs.

    Raises
    ------
    Refusal
        when no chef would be left.
    """
    membership = _membership(actor, person_id)
    _keeps_a_chef(membership, None)
    ended = _ends(membership, None)
    return replace(soft_delete.take_off(actor, membership), ended=ended)


@action("crew.put-back", Role.CHEF)
def put_back(actor: Actor, key: int) -> str:
    """Somebody who was taken off is here again as what they were; an invitation is as good as before.

    Raises
    ------
    Conflict
        when they joined again meanwhile.
    """
    return soft_delete.put_back(actor, key, soft_delete.PEOPLE)


@dataclass(frozen=True)
class Changed:
    """That somebody's role is another now, and what ended with the one before."""

    say: str
    ended: str

    def __str__(self) -> str:
        return f"{self.say}; ended: {self.ended}" if self.ended else self.say


def _ends(membership: Membership, role: str | None) -> str:
    """What a chef opened ends once they are none."""
    if membership.role != Role.CHEF or role == Role.CHEF:
        return ""
    return ending.end_all(membership.kitchen, membership.user)


def _membership(actor: Actor, person_id: int) -> Membership:
    """Somebody's place in the kitchen, all places held still: of two who take chefs off one is told."""
    Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
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
    people.open_session(request, user, pin_of=actor.kitchen.pk)
    AuditEntry.objects.create(
        kitchen=actor.kitchen,
        user=user,
        action="crew.hands",
        subject=f"from {actor.user.shown()} to {user.shown()}",
    )
    return user
