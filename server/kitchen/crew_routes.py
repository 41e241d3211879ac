"""Routes of the people of a kitchen, and of kitchens one makes oneself."""

from __future__ import annotations

from typing import cast

from django.http import HttpRequest
from ninja import Router, Status
from people import sessions
from people.models import User
from people.routes import must_be_from_a_page, session_of
from people.schemas import Session

from kitchen import audit, beginning, crew, joining
from kitchen.access import enter
from kitchen.crew_schemas import (
    AuditPage,
    ChangingHands,
    Crew,
    HandOut,
    InvitationMade,
    InvitedTo,
    Joining,
    NewInvitation,
    NewKitchen,
    NewRole,
)
from kitchen.models import Role
from kitchen.reads import kitchen_out
from kitchen.schemas import KitchenOut, RemovedOut
from kitchen.soft_delete import Removed

router = Router()


@router.get("/k/{kitchen}/people", response=Crew)
def read_crew(request: HttpRequest, kitchen: str) -> Crew:
    """Who is there; a chef also sees whom they asked to come."""
    return crew.of(enter(request, kitchen))


@router.post("/k/{kitchen}/invitations", response={201: InvitationMade})
def invite(request: HttpRequest, kitchen: str, body: NewInvitation) -> Status[InvitationMade]:
    """Let whoever has a link join, once; the link is said this once."""
    actor = enter(request, kitchen, by_password=True)
    token = joining.new_token()
    made = crew.invite(actor, body.role, body.title, token)
    return Status(201, InvitationMade(**crew.invitation_out(made).dict(), token=token))


@router.delete("/k/{kitchen}/invitations/{invitation_id}", response=RemovedOut)
def uninvite(request: HttpRequest, kitchen: str, invitation_id: int) -> Removed:
    """Take an invitation back."""
    return crew.uninvite(enter(request, kitchen, by_password=True), invitation_id)


@router.patch("/k/{kitchen}/people/{member_id}", response=Crew)
def change_role(request: HttpRequest, kitchen: str, member_id: int, body: NewRole) -> Crew:
    """What somebody may do from now on."""
    actor = enter(request, kitchen, by_password=True)
    changed = crew.change_role(actor, member_id, body.role)
    return read_crew(request, kitchen).model_copy(update={"ended": changed.ended})


@router.post("/k/{kitchen}/people/{member_id}/unlock", response=Crew)
def unlock(request: HttpRequest, kitchen: str, member_id: int) -> Crew:
    """Let somebody try again who was locked out by wrong passwords."""
    crew.unlock(enter(request, kitchen, by_password=True), member_id)
    return read_crew(request, kitchen)


@router.delete("/k/{kitchen}/people/{member_id}", response=RemovedOut)
def take_off(request: HttpRequest, kitchen: str, member_id: int) -> Removed:
    """Somebody works here no more."""
    return crew.take_off(enter(request, kitchen, by_password=True), member_id)


@router.post("/k/{kitchen}/people/taken-off/{taken_off_id}/back", response={204: None})
def put_back(request: HttpRequest, kitchen: str, taken_off_id: int) -> Status[None]:
    """Somebody, or an invitation, is back as it was."""
    crew.put_back(enter(request, kitchen, by_password=True), taken_off_id)
    return Status(204, None)


@router.get("/k/{kitchen}/audit", response=AuditPage)
def read_audit(
    request: HttpRequest, kitchen: str, before: int | None = None, person_id: int | None = None
) -> AuditPage:
    """Who did what, for a chef."""
    return audit.read(enter(request, kitchen), before, person_id)


@router.get("/k/{kitchen}/hands", response=list[HandOut])
def list_hands(request: HttpRequest, kitchen: str) -> list[HandOut]:
    """Who can take over at this device."""
    return [HandOut(id=one.pk, title=one.shown()) for one in crew.at_hand(enter(request, kitchen))]


@router.post("/k/{kitchen}/hands", response=Session)
def change_hands(request: HttpRequest, kitchen: str, body: ChangingHands) -> Session:
    """At this device it is somebody else from now on."""
    user = crew.change_hands(request, enter(request, kitchen), body.person_id, body.pin)
    return session_of(request, user)


@router.post("/kitchens/begin", response={201: KitchenOut})
def begin_kitchen(request: HttpRequest, body: NewKitchen) -> Status[KitchenOut]:
    """Make a kitchen of one's own."""
    sessions.must_be_by_password(request)
    told = body.dict(exclude_none=True)
    made = beginning.begin(cast(User, request.user), told.pop("name"), told.pop("boils_c", None), **told)
    return Status(201, kitchen_out(made, Role.CHEF))


@router.post("/k/{kitchen}/throw-away", response={204: None})
def throw_away(request: HttpRequest, kitchen: str) -> Status[None]:
    """Throw the demo's kitchen away."""
    actor = enter(request, kitchen, by_password=True)
    beginning.throw_away(actor)
    return Status(204, None)


@router.post("/kitchens/{slug}/bring-back", response=KitchenOut)
def bring_back(request: HttpRequest, slug: str) -> KitchenOut:
    """The demo's kitchen is there again."""
    sessions.must_be_by_password(request)
    return kitchen_out(beginning.bring_back(cast(User, request.user), slug), Role.CHEF)


@router.post("/first", response={201: Session}, auth=None)
def begin_here(request: HttpRequest, body: Joining) -> Status[Session]:
    """The first person of all, where nobody was ever here."""
    must_be_from_a_page(request)
    user = joining.first(request, body.username, body.title, body.password)
    return Status(201, session_of(request, user))


@router.get("/invitations/{token}", response=InvitedTo, auth=None)
def read_invitation(request: HttpRequest, token: str) -> InvitedTo:
    """What a link is to."""
    found = joining.invitation(token)
    return InvitedTo(
        kitchen=found.kitchen.name,
        role=found.role,
        title=found.title,
        by=found.made_by.shown(),
        until=found.until,
        known=request.user.is_authenticated,
    )


@router.post("/invitations/{token}", response=Session, auth=None)
def join(request: HttpRequest, token: str, body: Joining) -> Session:
    """Join by a link: as somebody new, or as who is logged in where no name is told."""
    must_be_from_a_page(request)
    if isinstance(request.user, User) and not body.username:
        sessions.must_be_by_password(request)
        joining.join_as(request.user, token)
        return session_of(request, request.user)
    return session_of(request, joining.join(request, token, body.username, body.title, body.password))
