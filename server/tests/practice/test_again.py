"""A batch that was made, opened as an attempt from a moment of it; nothing is written into the batch."""

from __future__ import annotations

import uuid

import pytest
from practice.models import Attempt
from stove.models import Batch, Mark

from tests.conftest import logged_in, rewrite
from tests.practice.practising import K, acts, begun
from tests.test_learning import cooked


@pytest.fixture
def made(here, version) -> Batch:
    return cooked(here, version)


def test_a_moment_of_a_batch_is_cooked_again_beside_that_day(cook, made):
    marks = Mark.objects.filter(batch=made).count()
    attempt = begun(cook, batch_id=made.pk, from_s=200.0)
    day = attempt["that_day"]
    assert attempt["name"].startswith(f"{made.name}, batch {made.number} from 3:")
    assert (day["batch_id"], day["t_s"][0]) == (made.pk, 0)
    assert 80 < day["c"][0] < 84, "between the spoon tests that were typed"
    assert day["off_s"] == pytest.approx(105, abs=3)
    # The probe lay in it: what it reads is shown from the beginning.
    assert attempt["picture"]["probe_c"] == pytest.approx(day["c"][0], abs=0.6)
    assert acts(cook, attempt, 0, 30, {"at": 30, "do": "out"}).json()["ended"]
    said = cook("POST", f"{K}/attempts/{attempt['id']}/debrief").json()["debrief"]
    assert said["real"].startswith("That day: off the heat after 1:4")
    assert said["saved"]
    assert len(said["real_curve"]["t_s"]) > 20
    assert Mark.objects.filter(batch=made).count() == marks
    again = begun(cook, like=attempt["id"])
    assert again["that_day"] == day
    assert Attempt.objects.get(pk=again["id"]).conditions == Attempt.objects.get(pk=attempt["id"]).conditions


def test_it_is_cooked_on_the_hob_as_it_was_found_to_be(cook, made):
    weak, strong = [], []
    for watts, found in ((250.0, weak), (900.0, strong)):
        rewrite(Batch.objects.filter(pk=made.pk), fitted_w=watts)
        attempt = begun(cook, batch_id=made.pk, from_s=60.0)
        shown = acts(cook, attempt, 0, 40, {"at": 1, "do": "stir", "x": 0.1, "y": 0.1}).json()
        found.append(shown["picture"]["probe_c"])
    assert strong[0] > weak[0] + 3


def test_what_cannot_be_cooked_again_is_refused_with_a_sentence(cook, here, batch, made):
    def answer(**what):
        return cook("POST", f"{K}/attempts", {"id": str(uuid.uuid4()), **what})

    assert answer(batch_id=batch.pk, from_s=10).status_code == 409, "it is still on the stove"
    assert answer(batch_id=2**40, from_s=10).status_code == 404
    late = answer(batch_id=made.pk, from_s=5000)
    assert (late.status_code, late.json()["fields"][0]["field"]) == (422, "from_s")
    assert not Attempt.objects.exists()


def test_another_kitchens_batch_is_not_there(there, made):
    stranger = logged_in("there-chef")
    answer = stranger(
        "POST",
        "/api/k/there/practice/attempts",
        {"id": str(uuid.uuid4()), "batch_id": made.pk, "from_s": 60},
    )
    assert answer.status_code == 404
