"""One judge of safety: every door says the same of the same history, from both sides of each edge."""

from __future__ import annotations

from datetime import timedelta

import custard
import pytest
from common import clock
from shelf import facts
from shelf import reads as shelf
from shelf.models import Tub

from tests.conftest import do
from tests.test_trouble import ask

HOUR = timedelta(hours=1)
DAY = 24 * HOUR


def nothing(_cook, _tub):
    """It stands in the fridge."""


def warm_at(celsius):
    return lambda cook, tub: do(cook, tub, "warm", celsius=celsius)


def frozen_and_out(cook, tub):
    do(cook, tub, "frozen")
    with clock.at(clock.now() + 10 * DAY):
        do(cook, tub, "out")


HISTORIES = {
    "in its days": (nothing, 2.5 * DAY, True),
    "past its day": (nothing, 3.5 * DAY, False),
    "83 days old": (nothing, 83 * DAY, False),
    "warm": (warm_at(64), 1.5 * HOUR, True),
    "warm too long": (warm_at(64), 5 * HOUR, False),
    "lukewarm": (warm_at(45), 0.25 * HOUR, True),
    "lukewarm too long": (warm_at(45), 3 * HOUR, False),
    "thawed": (frozen_and_out, 10 * DAY + 20 * HOUR, True),
    "thawed too long": (frozen_and_out, 10 * DAY + 28 * HOUR, False),
}


@pytest.mark.parametrize("history", HISTORIES)
def test_every_door_says_the_same_of_the_same_history(here, cook, tub, history):
    happens, later, safe = HISTORIES[history]
    began = clock.now()
    happens(cook, tub)
    with clock.at(began + later):
        row = Tub.objects.get(pk=tub.pk)
        judged = facts.judged(row, clock.now())
        said = {"judge": judged.safe}
        [shown] = [one for one in cook("GET", "/api/k/here/shelf").json()["tubs"] if one["id"] == tub.pk]
        said["shelf"] = not shown["past"]
        said["use"] = do(cook, tub, "used", grams=10, to="tart").status_code != 409
        [label] = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()
        said["label"] = label["throw_away"] == ""
        for fault in ("too-thin", "too-thick", "split", "skin"):
            told = ask(cook, tub_id=tub.pk, fault=fault).json()
            said[f"trouble, {fault}"] = told["unsafe"] == "" and told["now"]["say"] != "Throw it away"
        tasks = cook("GET", "/api/k/here/closing").json()["tasks"]
        said["closing"] = not any(one["tub_id"] == tub.pk and one["kind"] == "throw" for one in tasks)
        if row.place in ("fridge", "thawing"):
            said["day"] = tub.pk in {one.pk for one in shelf.free_sauces(here["cook"])}
    assert said == dict.fromkeys(said, safe)


TOLD = ((60, 0, None, 0), (80, 0, None, 0), (5, 3, 50, 0), (5, 1, 64, 0), (20, 0, None, 40))
"""Hours in the cold, hours warm at so many degrees, days frozen."""


def test_the_command_and_the_shelf_judge_alike(tub):
    """What is told in lengths of time is the same history as what was noted tub by tub."""
    known = facts.life_of(tub)
    for age_h, warm_h, warm_c, frozen in TOLD:
        kept, total_h = custard.after.since(age_h, warm_h=warm_h, warm_c=warm_c, frozen_days=frozen)
        if warm_h:
            tub.place, tub.warm_at, tub.warm_c = "warm", tub.made_at + age_h * HOUR, warm_c
        if frozen:
            tub.place, tub.frozen_at = "thawing", tub.made_at + age_h * HOUR
            tub.out_at = tub.frozen_at + frozen * DAY
        assert facts.judged(tub, tub.made_at + total_h * HOUR) == custard.after.judge(known, kept, total_h)
