"""What the API says about the people of a kitchen."""

from __future__ import annotations

from datetime import datetime
from typing import Self

import custard
from common.text import Name, Word
from common.words import CoolingRuleName, EggClass, Measures
from ninja import Schema
from pydantic import ConfigDict, Field, model_validator

from kitchen.models import Role
from kitchen.schemas import Zone


class MemberOut(Schema):
    """Somebody of a kitchen, and whether it is who asks."""

    id: int
    username: str
    title: str
    role: Role
    has_pin: bool
    locked: bool
    me: bool


class NewInvitation(Schema):
    """Whom a link is for, and what they may do."""

    model_config = ConfigDict(extra="forbid")

    role: Role
    title: Word = Field(min_length=1)


class InvitationOut(Schema):
    """An invitation that nobody used yet; good while `open`."""

    id: int
    title: str
    role: Role
    until: datetime
    open: bool


class InvitationMade(InvitationOut):
    """With what its link ends with, said this once."""

    token: str


class Crew(Schema):
    """Who is there, and who is asked to come."""

    people: list[MemberOut]
    invitations: list[InvitationOut]
    ended: str = ""


class NewRole(Schema):
    """What somebody may do from now on."""

    model_config = ConfigDict(extra="forbid")

    role: Role


class InvitedTo(Schema):
    """What an invitation is to; `known` where who asks is logged in."""

    kitchen: str
    role: Role
    title: str
    by: str
    until: datetime
    known: bool


class Joining(Schema):
    """A new person: the name to log in with, what others see, a password."""

    model_config = ConfigDict(extra="forbid")

    username: Word = ""
    title: Word = ""
    password: str = Field("", max_length=200)


class HandOut(Schema):
    """Somebody who can take over here."""

    id: int
    title: str


class ChangingHands(Schema):
    """Who takes over, and their PIN."""

    model_config = ConfigDict(extra="forbid")

    person_id: int
    pin: str = Field(max_length=20)


class NewKitchen(Schema):
    """The four questions: where (by height or by what water boils at), eggs, cups, cooling rule."""

    model_config = ConfigDict(extra="forbid")

    name: Name = Field(min_length=1)
    altitude_m: float | None = Field(None, ge=-500, le=6000)
    boils_c: float | None = None
    eggs: EggClass = "EU-M"
    measures: Measures = "metric"
    cooling_rule: CoolingRuleName = custard.larder.USUAL_RULE
    zone: Zone = "UTC"

    @model_validator(mode="after")
    def _is_somewhere(self) -> Self:
        if (self.altitude_m is None) == (self.boils_c is None):
            raise ValueError("say either the height or what water boils at")
        if self.cooling_rule == "own":
            raise ValueError("a rule of your own is written in the Kitchen, once it is there")
        return self


class AuditOut(Schema):
    """That somebody did something: who, when, what in words, and to what."""

    id: int
    at: datetime
    who: str
    did: str
    subject: str


class AuditPage(Schema):
    """Some of it, the newest first; `next` goes on where this ends."""

    entries: list[AuditOut]
    next: int | None
