"""Two things are served: the API, and for every other address the one page of the application."""

from django.urls import path, re_path

from oldspoon.api import api
from oldspoon.page import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|assets/).*$", page)]
