"""Attempts that are begun and played over the API, and what is asked of them."""

from __future__ import annotations

import uuid

from book import reads as book
from custard import practice
from practice import actions, exercises, replaying, sheets
from practice.models import Attempt
from practice.schemas import Beginning, NewExercise, NewSet, NewSheet, Playing

K = "/api/k/here/practice"


def begun(api, **what):
    answer = api("POST", f"{K}/attempts", {"id": str(uuid.uuid4()), **(what or {"key": "nappe"})})
    assert answer.status_code == 200, answer.content
    return answer.json()


def acts(api, attempt, after, until, *rows):
    return api(
        "POST", f"{K}/attempts/{attempt['id']}/acts", {"after": after, "acts": list(rows), "until": until}
    )


def whole(api, key="spoons", **answer):
    """A question begun and answered; what was said of it."""
    attempt = begun(api, key=key)
    done = acts(api, attempt, 0, 4, {"at": 4, "do": "answer", **answer})
    assert done.json()["ended"], done.content
    return api("POST", f"{K}/attempts/{attempt['id']}/debrief").json()


def right(api, key="spoons", seed=7):
    """A question answered as it should be: its seed is known to the test alone."""
    attempt = begun(api, key=key)
    Attempt.objects.filter(pk=attempt["id"]).update(seed=seed)
    replaying.forget()
    answer = practice.begin(practice.exercise(key), seed).right
    acts(api, attempt, 0, 4, {"at": 4, "do": "answer", **answer})
    return api("POST", f"{K}/attempts/{attempt['id']}/debrief").json()


def practised_by(actor, chef):
    """What somebody practised and was set; what its routes are asked with, by their names."""
    going, over = (actions.begin(actor, Beginning(id=uuid.uuid4(), key=key)) for key in ("nappe", "spoons"))
    actions.play(actor, going, Playing(after=0, acts=[], until=8))
    actions.play(actor, over, Playing(after=0, acts=[{"at": 1, "do": "end"}], until=1))
    formula_id = book.latest(actor).first().formula_id
    made = exercises.make(chef, NewExercise(formula_id=formula_id, name="ours"))
    person = actor.user.pk
    gone = exercises.make(chef, NewExercise(formula_id=formula_id, name="ours no more"))
    gone_set = exercises.set_for(chef, NewSet(key="iron", person_id=person))
    exercises.take_out(chef, gone.pk)
    exercises.take_back(chef, gone_set.pk)
    return {
        "going": going.pk,
        "over": over.pk,
        "KEYS": {
            "person_id": person,
            "exercise_id": made.pk,
            "set_id": exercises.set_for(chef, NewSet(key="nappe", person_id=person)).pk,
            "sheet_id": sheets.begin(chef, NewSheet(person_id=person)).pk,
        },
        "GONE": {"exercise_id": gone.pk, "set_id": gone_set.pk},
        "BEGINNING": {"id": str(uuid.uuid4()), "key": "iron"},
        "AGAIN": {"id": str(uuid.uuid4()), "from_s": 4},
        "SETTING": {"key": "turn", "person_id": person},
        "SHEET": {"person_id": person},
    }
