"""Routes for logging in and out."""

from __future__ import annotations

from common.refusals import Refusal
from django.http import HttpRequest
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Router
from ninja.decorators import decorate_view
from ninja.utils import check_csrf

from people import actions
from people.models import User
from people.schemas import Login, Person, Session

router = Router()


@router.get("/session", response=Session, auth=None)
@decorate_view(ensure_csrf_cookie)
def read_session(request: HttpRequest) -> Session:
    """Who is logged in; also hands out the CSRF cookie."""
    return _session(request.user if request.user.is_authenticated else None)


@router.post("/session", response=Session, auth=None)
def log_in(request: HttpRequest, login: Login) -> Session:
    """Log in."""
    if check_csrf(request):
        raise Refusal(403, "This page is out of date. Reload it and try again; nothing was changed.")
    return _session(actions.log_in(request, login.username, login.password))


@router.delete("/session", response=Session)
def log_out(request: HttpRequest) -> Session:
    """Log out."""
    actions.log_out(request)
    return _session(None)


def _session(user: User | None) -> Session:
    return Session(person=Person(username=user.username, title=user.shown()) if user else None)
