"""Every way in which something gets into food, shown at every door: label, search, record, page, closing."""

from __future__ import annotations

from datetime import timedelta

import custard
import pytest
from book import actions as book
from common import clock
from shelf.models import Tub
from stove import actions as stove
from stove.models import Batch

from tests.conftest import ANGLAISE, do, formula_of, mark, put
from tests.test_trouble import take

NUT, WORD = "chopped-hazelnuts", custard.larder.ingredient("chopped-hazelnuts").allergens[0]
OWN = {"name": "sesame paste", "composition": {"fat": 55, "rest": 45}, "allergens": [WORD]}


def started(here, *more, family="anglaise"):
    content = {**ANGLAISE, "version": 2, "family": family, "lines": [*ANGLAISE["lines"], *more]}
    version = book.add(here["chef"], formula_of(content))
    return stove.start(here["cook"], version.formula_id, 1, formula_of(content))


def by_line(when):
    def way(here, cook):
        return started(here, {"ingredient": NUT, "amount": "30 g", "when": when})

    return way


def by_own_ingredient(here, cook):
    return started(here, {"ingredient": OWN, "amount": "30 g"})


def by_the_oven(here, cook):
    batch = started(here, family="baked-custard")
    cups = {"count": 4, "cup_ml": 120, "solid": NUT, "solid_share": 0.2}
    assert cook("PUT", f"/api/k/here/batches/{batch.pk}/setup", {"cups": cups}).status_code == 200
    return batch


def by_a_tub(here, cook):
    tub = put(cook, by_line("afterwards")(here, cook), kept_g=300)
    batch = started(here)
    assert do(cook, tub, "used", grams=50, into_batch_id=batch.pk).status_code in (200, 201)
    return batch


def by_a_tub_of_a_tub(here, cook):
    tub = put(cook, by_a_tub(here, cook), kept_g=300)
    batch = started(here)
    assert do(cook, tub, "used", grams=50, into_batch_id=batch.pk).status_code in (200, 201)
    return batch


def by_what_joined_the_first_later(here, cook):
    """Drawn on first; what it was drawn from is opened again, and nuts go into that."""
    first = started(here, family="baked-custard")
    tub = put(cook, first, kept_g=300)
    batch = started(here)
    assert do(cook, tub, "used", grams=50, into_batch_id=batch.pk).status_code in (200, 201)
    cook("POST", f"/api/k/here/batches/{first.pk}/reopen")
    nuts = put(cook, by_line("afterwards")(here, cook), kept_g=300)
    assert do(cook, nuts, "used", grams=10, into_batch_id=first.pk).status_code in (200, 201)
    return batch


WAYS = {
    **{when: by_line(when) for when in custard.larder.JOINS},
    "own ingredient": by_own_ingredient,
    "the oven": by_the_oven,
    "a tub": by_a_tub,
    "a tub of a tub": by_a_tub_of_a_tub,
    "into the first later": by_what_joined_the_first_later,
}


def doors(cook, batch, tub):
    """Every place that says what is in it."""
    day = clock.now().date().isoformat()
    return {
        "page": cook("GET", f"/api/k/here/batches/{batch.pk}").json()["allergens"],
        "shelf": next(one for one in cook("GET", "/api/k/here/shelf").json()["tubs"] if one["id"] == tub.pk)[
            "allergens"
        ],
        "label": cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()[0]["allergens"],
        "search": [str(one["id"]) for one in cook("GET", f"/api/k/here/shelf?q={WORD}").json()["tubs"]],
        "record": cook("GET", f"/api/k/here/batches/{batch.pk}/record").json()["batches"][0]["allergens"],
        "closing": cook("GET", f"/api/k/here/closing?day={day}").json()["allergens"],
        "trace": cook("GET", f"/api/k/here/batches/{batch.pk}/trace").json()["allergens"],
    }


@pytest.mark.parametrize("way", WAYS)
def test_every_way_in_is_shown_at_every_door(here, cook, way):
    batch = WAYS[way](here, cook)
    tub = put(cook, Batch.objects.get(pk=batch.pk), kept_g=200)
    said = doors(cook, batch, tub)
    assert str(tub.pk) in said.pop("search")
    for door, words in said.items():
        assert WORD in words, door


def test_a_guest_who_may_have_no_egg_is_shown_what_has_none(here, cook):
    plain = {**ANGLAISE, "lines": [ANGLAISE["lines"][0], {"ingredient": "cornstarch", "amount": "30 g"}]}
    version = book.add(here["chef"], formula_of(plain))
    eggless = put(cook, stove.start(here["cook"], version.formula_id, 1, formula_of(plain)), kept_g=300)
    egg = put(cook, started(here), kept_g=300)
    for words in ("without egg", "Without Egg", "no egg"):
        found = [one["id"] for one in cook("GET", f"/api/k/here/shelf?q={words}").json()["tubs"]]
        assert eggless.pk in found
        assert egg.pk not in found


def test_what_a_remedy_adds_is_shown_too(here, cook):
    lean = {"ingredient": "coconut-milk", "amount": "500 ml"}
    content = {**ANGLAISE, "lines": [lean, *ANGLAISE["lines"][1:]]}
    version = book.add(here["chef"], formula_of(content))
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(content))
    assert "milk" not in batch.allergens
    taken = take(cook, batch_id=batch.pk, fault="too-thick", said={"over_stop_k": 5}, have_g=500)
    assert taken.status_code in (200, 201), taken.content
    tub = put(cook, Batch.objects.get(pk=batch.pk), kept_g=200)
    assert "milk" in Tub.objects.get(pk=tub.pk).allergens


def test_raw_egg_is_shown_as_not_heated_and_shortens_whatever_it_is_drawn_into(here, cook):
    raw = started(here, {"ingredient": "egg-white", "amount": "60 g", "when": "folded when cool"})
    tub = put(cook, raw, kept_g=300)
    label = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()[0]
    assert label["unheated"] == "egg white"
    found = cook("GET", "/api/k/here/shelf?q=egg white").json()["tubs"]
    assert tub.pk in [one["id"] for one in found]
    cooked = started(here)
    path = f"/api/k/here/batches/{cooked.pk}"
    for stage in ("weigh", "warm", "temper", "cook"):
        cook("POST", f"{path}/marks", mark("done", stage))
    with clock.at(clock.now() + timedelta(minutes=5)):
        assert do(cook, tub, "used", grams=50, into_batch_id=cooked.pk).status_code in (200, 201)
        assert cook("GET", path).json()["allergens"]
        into = put(cook, Batch.objects.get(pk=cooked.pk), kept_g=200)
    assert into.unheated == ["egg white"]
    assert into.use_by <= tub.use_by
    guests = cook("GET", f"{path}/guests").json()
    assert (guests["raw"], guests["met"]) == (["egg white"], False)
