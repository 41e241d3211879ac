"""The application's routes, and a view that only answers."""

from django.http import HttpRequest, JsonResponse
from django.urls import path
from oldspoon.urls import urlpatterns as application


def bare(request: HttpRequest) -> JsonResponse:
    """As little as a JSON view can do, for one logged in."""
    return JsonResponse({"person": request.user.get_username()})


urlpatterns = [path("bare", bare), *application]
