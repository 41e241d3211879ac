"""What is served: the API, how the application is, and for every other address its one page."""

from django.urls import path, re_path

from oldspoon.api import api
from oldspoon.health import alive, ready
from oldspoon.metrics import metrics
from oldspoon.page import page

urlpatterns = [
    path("api/", api.urls),
    path("health/alive", alive),
    path("health/ready", ready),
    path("metrics", metrics),
    re_path(r"^(?!api/|assets/|health/|metrics$).*$", page),
]
