"""The application's settings, with one more view to measure against."""

from oldspoon.settings import *  # noqa: F403

ROOT_URLCONF = "speed.urls"
