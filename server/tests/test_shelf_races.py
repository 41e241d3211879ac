"""Many hands on the shelf at once: nothing is drawn twice, and no number given twice."""

from __future__ import annotations

import uuid
from concurrent.futures import ThreadPoolExecutor

import pytest
from book import actions as book
from common import clock
from django.db import IntegrityError, connection, connections
from kitchen.models import AuditEntry, Kitchen
from shelf.models import DayClosing, Movement, Tub
from stove import actions as stove

from tests.conftest import (
    ANGLAISE,
    close,
    do,
    formula_of,
    logged_in,
    make_kitchen,
)


@pytest.mark.django_db(transaction=True)
def test_two_who_draw_the_last_of_it_at_once_never_draw_it_twice():
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(actors["cook"], batch, kept_g=500, whites_g=0)
    tub = Tub.objects.get()
    hands = 12

    def draw(number):
        api = logged_in("here-cook" if number % 2 else "here-chef")
        try:
            return do(api, tub, "used", grams=90, to=f"plate {number}").status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(hands) as pool:
        came = list(pool.map(draw, range(hands)))
    assert sorted(came) == [200] * 5 + [409] * (hands - 5)
    tub.refresh_from_db()
    assert float(tub.left_g) == 50
    assert sum(one.change_g for one in tub.movements.all()) == tub.left_g


@pytest.mark.django_db(transaction=True)
def test_a_day_signed_eight_times_at_once_with_one_id_is_signed_once_and_nobody_is_refused():
    make_kitchen("here", "The kitchen here")
    body = {"id": str(uuid.uuid4()), "day": f"{clock.now():%Y-%m-%d}", "note": "all is well"}

    def sign(_):
        try:
            return logged_in("here-cook")("POST", "/api/k/here/closing", body).status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(8) as pool:
        came = set(pool.map(sign, range(8)))
    assert came <= {200, 201}
    assert DayClosing.objects.count() == 1
    assert AuditEntry.objects.filter(action="shelf.close-day").count() == 1


@pytest.mark.django_db(transaction=True)
def test_two_batches_into_each_other_at_once_wait_in_turn():
    """A tub of each goes into the other batch: with their locks in any order both wait, and one is ended."""
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    tubs, batches = [], []
    for _ in range(2):
        batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
        close(actors["cook"], batch, kept_g=500, whites_g=0)
        tubs.append(Tub.objects.get(batch=batch, what="sauce"))
        stove.reopen(actors["cook"], batch.pk)
        batches.append(batch)

    def cross(number):
        one, other = number % 2, 1 - number % 2
        try:
            api = logged_in("here-cook")
            return do(api, tubs[one], "used", grams=5, into_batch_id=batches[other].pk).status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(8) as pool:
        came = set(pool.map(cross, range(24)))
    assert came == {200}


@pytest.mark.django_db(transaction=True)
def test_past_the_lock_the_database_itself_refuses():
    """Two transactions that take no lock of ours: the second finds what the first has left."""
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(actors["cook"], batch, kept_g=100, whites_g=0)
    tub = Tub.objects.get()
    values = {"tub": tub, "kitchen": Kitchen.objects.get(), "kind": "used", "by": actors["cook"].user}

    def draw(_):
        try:
            Movement.objects.create(id=uuid.uuid4(), at=clock.now(), change_g=-60, **values)
        except IntegrityError:
            return "refused"
        finally:
            connection.close()
        return "drawn"

    with ThreadPoolExecutor(6) as pool:
        came = sorted(pool.map(draw, range(6)))
    assert came == ["drawn"] + ["refused"] * 5


@pytest.mark.django_db(transaction=True)
def test_two_tubs_of_a_batch_split_at_once_get_numbers_of_their_own():
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(actors["cook"], batch, kept_g=600, whites_g=0)
    api = logged_in("here-cook")
    for _ in range(3):
        do(api, Tub.objects.get(part=1), "split", grams=100)
    tubs = list(Tub.objects.all())

    def split(tub):
        try:
            return do(logged_in("here-cook"), tub, "split", grams=20).status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(len(tubs)) as pool:
        assert list(pool.map(split, tubs)) == [200] * len(tubs)
    assert sorted(Tub.objects.values_list("part", flat=True)) == list(range(1, 9))
    assert sum(Tub.objects.values_list("left_g", flat=True)) == 600
