"""Where an attempt stands, said by any process from its rows alone."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from custard import practice
from django.conf import settings
from django.db import connection
from practice import replaying
from practice.models import Attempt

from tests.practice.practising import acts, begun

SERVER = Path(__file__).parents[2]


CHILD = """
import json, sys, django
django.setup()
from practice import replaying
from practice.models import Attempt
shown = replaying.shown(Attempt.objects.get(pk=int(sys.argv[1])))
state = replaying._kept[int(sys.argv[1])].state
print(json.dumps([state.y.tobytes().hex(), state.spots.tobytes().hex(), state.record().tobytes().hex()]))
"""


@pytest.mark.django_db(transaction=True)
def test_two_processes_say_the_same_to_the_bit(trainee):
    """One that took in every message as it came, and one that starts with nothing but the rows."""
    attempt = begun(trainee, key="turned-up")
    for message in range(60):
        at = message * 0.5
        rows = [{"at": at + 0.1 * n, "do": "stir", "x": 0.2 * n - 0.5, "y": 0.3} for n in range(4)]
        if message == 30:
            rows.append({"at": at + 0.4, "do": "flame", "to": 9})
        assert acts(trainee, attempt, message, at + 0.5, *rows).status_code == 200
    state = replaying._kept[attempt["id"]].state
    ours = [state.y.tobytes().hex(), state.spots.tobytes().hex(), state.record().tobytes().hex()]
    known = connection.settings_dict
    environment = {
        **os.environ,
        "DJANGO_SETTINGS_MODULE": "oldspoon.settings",
        "OLDSPOON_DB_NAME": known["NAME"],
        "OLDSPOON_DB_HOST": known["HOST"],
        "OLDSPOON_DB_PORT": str(known["PORT"]),
        "OLDSPOON_DB_USER": known["USER"],
        "OLDSPOON_DB_PASSWORD": known["PASSWORD"],
        "OLDSPOON_SECRET_KEY": settings.SECRET_KEY,
    }
    command = [sys.executable, "-c", CHILD, str(attempt["id"])]
    told = subprocess.run(command, cwd=SERVER, env=environment, capture_output=True, text=True, check=True)
    assert json.loads(told.stdout) == ours
    assert state.ticks == 150


def test_a_process_that_forgot_goes_on_where_it_stood(trainee):
    attempt = begun(trainee)
    acts(trainee, attempt, 0, 20, {"at": 3, "do": "flame", "to": 9})
    replaying.forget()
    forgot = acts(trainee, attempt, 1, 40).json()
    fresh = practice.replayed(
        practice.exercise("nappe"), Attempt.objects.get().seed, (practice.Act(3, "flame", {"to": 9.0}),), 40
    )
    assert forgot["picture"]["at_s"] == 40
    assert forgot["picture"]["tells"] == list(fresh.picture().tells)
