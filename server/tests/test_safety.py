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
from tests.test_cooling import put_away, spot
from tests.test_trouble import ask

HOUR = timedelta(hours=1)
DAY = 24 * HOUR


def nothing(_cook, _tub):
    """It stands in the fridge."""


def warm_at(celsius):
    return lambda cook, tub: do(cook, tub, "warm", celsius=celsius)


def frozen_for(days):
    def happens(cook, tub):
        do(cook, tub, "frozen")
        with clock.at(clock.now() + days * DAY):
            do(cook, tub, "out")

    return happens


HISTORIES = {
    "in its days": (nothing, 2.5 * DAY, True),
    "past its day": (nothing, 3.5 * DAY, False),
    "83 days old": (nothing, 83 * DAY, False),
    "warm": (warm_at(64), 1.5 * HOUR, True),
    "warm too long": (warm_at(64), 5 * HOUR, False),
    "lukewarm": (warm_at(45), 0.25 * HOUR, True),
    "lukewarm too long": (warm_at(45), 3 * HOUR, False),
    "thawed": (frozen_for(10), 10 * DAY + 20 * HOUR, True),
    "thawed too long": (frozen_for(10), 10 * DAY + 28 * HOUR, False),
    "frozen too long": (frozen_for(50), 50 * DAY + HOUR, False),
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


@pytest.mark.parametrize(("minutes", "safe"), [(40, True), (300, False)])
def test_a_cooling_is_thrown_away_once_a_limit_is_missed_and_helped_until_then(cook, batch, minutes, safe):
    """Too slow as it is, it can still go into ice."""
    path = f"/api/k/here/batches/{batch.pk}"
    began = put_away(cook, path, batch, minutes)
    for part in (0.3, 0.6, 0.95):
        spot(cook, path, began + part * timedelta(minutes=minutes), 80 - 0.15 * part * minutes)
    shown = cook("GET", path).json()
    assert shown["closed_at"] is None
    told = ask(cook, batch_id=batch.pk, fault="too-thick").json()
    assert (told["unsafe"] == "") == safe


LENGTHS = ((60, 0, None, 0), (80, 0, None, 0), (5, 3, 50, 0), (5, 1, 64, 0), (20, 0, None, 40))
"""Hours in the cold, hours warm at so many degrees, days frozen."""


def test_the_command_and_the_shelf_judge_alike(tub):
    """What is told in lengths of time is the same history as what was noted tub by tub."""
    known = facts.life_of(tub)
    for age_h, warm_h, warm_c, frozen in LENGTHS:
        kept, total_h = custard.after.since(age_h, warm_h=warm_h, warm_c=warm_c, frozen_days=frozen)
        if warm_h:
            tub.place, tub.warm_at, tub.warm_c = "warm", tub.made_at + age_h * HOUR, warm_c
        if frozen:
            tub.place, tub.frozen_at = "thawing", tub.made_at + age_h * HOUR
            tub.out_at = tub.frozen_at + frozen * DAY
        assert facts.judged(tub, tub.made_at + total_h * HOUR) == custard.after.judge(known, kept, total_h)
