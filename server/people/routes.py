"""Routes for logging in and out, and for what a person changes of their own."""

from __future__ import annotations

from typing import cast

from common.refusals import Refusal
from django.http import HttpRequest
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Router
from ninja.decorators import decorate_view
from ninja.utils import check_csrf

from people import actions, sessions
from people.models import User
from people.schemas import (
    Habits,
    Login,
    NewPassword,
    NewPin,
    NewTitle,
    OpenSessionOut,
    Person,
    Session,
)

router = Router()


@router.get("/session", response=Session, auth=None)
@decorate_view(ensure_csrf_cookie)
def read_session(request: HttpRequest) -> Session:
    """Who is logged in; also hands out the CSRF cookie."""
    return session_of(request, request.user if request.user.is_authenticated else None)


@router.post("/session", response=Session, auth=None)
def log_in(request: HttpRequest, login: Login) -> Session:
    """Log in."""
    must_be_from_a_page(request)
    return session_of(request, actions.log_in(request, login.username, login.password))


@router.delete("/session", response=Session)
def log_out(request: HttpRequest) -> Session:
    """Log out."""
    actions.log_out(request)
    return session_of(request, None)


@router.patch("/me", response=Session)
def change_title(request: HttpRequest, body: NewTitle) -> Session:
    """How one is named from now on."""
    return session_of(request, actions.change_title(request, cast(User, request.user), body.title))


@router.put("/me/habits", response=Session)
def keep_habits(request: HttpRequest, body: Habits) -> Session:
    """How one reads and writes figures."""
    return session_of(request, actions.keep_habits(cast(User, request.user), body.dict()))


@router.put("/me/password", response=Session)
def change_password(request: HttpRequest, body: NewPassword) -> Session:
    """Take another password; one stays logged in here and nowhere else."""
    return session_of(request, actions.change_password(request, cast(User, request.user), body.old, body.new))


@router.put("/me/pin", response=Session)
def change_pin(request: HttpRequest, body: NewPin) -> Session:
    """Take a PIN to change hands with at a shared tablet, or have none any more."""
    return session_of(request, actions.change_pin(request, cast(User, request.user), body.pin))


@router.get("/me/sessions", response=list[OpenSessionOut])
def list_sessions(request: HttpRequest) -> list[OpenSessionOut]:
    """Where one is logged in."""
    return [
        OpenSessionOut(
            id=one.pk,
            device=one.device,
            since=one.since,
            by_pin=one.by_pin,
            this=one.key == request.session.session_key,
        )
        for one in sessions.of(cast(User, request.user))
    ]


@router.delete("/me/sessions", response=list[OpenSessionOut])
def end_other_sessions(request: HttpRequest) -> list[OpenSessionOut]:
    """Log out everywhere but here."""
    actions.log_out_elsewhere(request, cast(User, request.user))
    return list_sessions(request)


def must_be_from_a_page(request: HttpRequest) -> None:
    """Refuse a write without the CSRF token, where nobody need be logged in."""
    if check_csrf(request):
        raise Refusal(403, "This page is out of date. Reload it and try again; nothing was changed.")


def session_of(request: HttpRequest, user: User | None) -> Session:
    """Who is logged in, as told."""
    if user is None:
        return Session(person=None, first=actions.is_empty())
    return Session(
        person=Person(
            username=user.username,
            title=user.shown(),
            habits=Habits(**user.habits),
            by_pin=sessions.by_pin(request),
            has_pin=bool(user.pin),
        ),
        first=False,
    )
