"""The application's routes, a view that only answers, and two that work as if nothing were kept."""

from common import clock
from django.http import HttpRequest, JsonResponse
from django.urls import path
from oldspoon.urls import urlpatterns as application
from practice import replaying
from stove import reads
from stove.live import moment


def bare(request: HttpRequest) -> JsonResponse:
    """As little as a JSON view can do, for one logged in."""
    return JsonResponse({"person": request.user.get_username()})


def computed(request: HttpRequest, batch_id: int) -> JsonResponse:
    """As it was before there were workers: every look is computed in the request."""
    batch = reads.standing().get(pk=batch_id)
    return JsonResponse(moment.live_of(batch, clock.now()).model_dump(mode="json"))


def forget(request: HttpRequest) -> JsonResponse:
    """As if this process had replayed no attempt yet."""
    replaying.forget()
    return JsonResponse({})


urlpatterns = [
    path("bare", bare),
    path("forget", forget),
    path("computed/<int:batch_id>", computed),
    *application,
]
