"""Questions about practice."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any

import custard
from custard import practice
from django.core.exceptions import PermissionDenied
from django.http import Http404
from kitchen.access import Actor, Role
from people.models import User

from practice import debriefs, replaying, sheets
from practice.models import Attempt, MadeExercise, SetExercise
from practice.schemas import (
    AttemptLine,
    AttemptOut,
    BookOut,
    ExerciseColumn,
    ExerciseOut,
    LearnedSign,
    PracticeOut,
    SectionLine,
    SectionOut,
    SetOut,
    ThatDay,
)
from practice.specs import conditions_of, exercise_of
from practice.who import people, person, person_out

LATELY = 20
NOT_YOURS = "Only whoever began an attempt plays it."


def attempt(actor: Actor, attempt_id: int) -> Attempt:
    """An attempt: one's own, or for a chef anybody's of the kitchen.

    Raises
    ------
    Http404
        when there is none, or it is somebody else's.
    """
    found = Attempt.objects.filter(kitchen=actor.kitchen, pk=attempt_id).select_related("person").first()
    if found is None or (found.person_id != actor.user.pk and actor.role is not Role.CHEF):
        raise Http404
    return found


def own(actor: Actor, attempt_id: int) -> Attempt:
    """An attempt of one's own: nobody plays for somebody else."""
    found = attempt(actor, attempt_id)
    if found.person_id != actor.user.pk:
        raise PermissionDenied(NOT_YOURS)
    return found


def opened(actor: Actor, found: Attempt) -> AttemptOut:
    """An attempt as it is opened."""
    exercise, shown = exercise_of(found.spec), replaying.shown(found)
    return AttemptOut(
        id=found.pk,
        name=found.name,
        who=found.person.shown(),
        person_id=found.person_id,
        mine=found.person_id == actor.user.pk,
        key=found.key,
        kind=exercise.kind,
        tell=exercise.tell,
        why=exercise.why,
        formula=exercise.formula.name,
        grams=round(exercise.formula.mass_g()),
        over_steam=exercise.over_steam,
        begun_at=found.begun_at,
        again_of=found.again_of_id,
        again_s=found.again_s,
        after=found.acts,
        picture=custard.plain(shown.picture),
        question=custard.plain(shown.question),
        ended=shown.ended,
        debrief=debriefs.kept(found),
        that_day=_that_day(found, exercise),
        sheets=[sheet.pk for sheet in found.sheets.all()],
    )


def _that_day(found: Attempt, exercise: practice.Exercise) -> ThatDay | None:
    """What really happened, where a batch is cooked again."""
    begun = exercise.begun
    if begun is None:
        return None
    made = custard.assess(exercise.formula, conditions_of(found.conditions))
    return ThatDay(
        batch_id=found.spec["batch_id"],
        t_s=[round(t, 1) for t, _ in begun.real],
        c=[round(c, 2) for _, c in begun.real],
        off_s=begun.real_off_s,
        window=made.window,
        boiling_c=made.boiling_c,
    )


def page(actor: Actor) -> PracticeOut:
    """The place as one comes in."""
    section = people(actor) if actor.role is Role.CHEF else []
    return PracticeOut(book=book(actor, actor.user), people=[person_out(one) for one in section])


def book_of(actor: Actor, person_id: int) -> BookOut:
    """A trainee's book: one's own, or for a chef anybody's."""
    if person_id != actor.user.pk:
        actor.must(Role.CHEF)
    return book(actor, person(actor, person_id))


def book(actor: Actor, user: User) -> BookOut:
    """What somebody has learned here, and what is set for them."""
    fields = ("id", "key", "made_id", "name", "begun_at", "ended", "points", "passed", "signs", "again_s")
    rows = list(Attempt.objects.filter(kitchen=actor.kitchen, person=user).only(*fields))
    by = _by_exercise(rows)
    made = MadeExercise.objects.filter(kitchen=actor.kitchen, taken_out_at=None)
    signs = {sign for row in rows for sign in row.signs}
    still = next((row for row in rows if not row.ended), None)
    return BookOut(
        person=person_out(user),
        exercises=[
            *(_ours(one, by[one.key, None]) for one in practice.exercises().values()),
            *(_made(one, by["", one.pk]) for one in made),
        ],
        signs=_signs(signs),
        set=_set_for(actor, user, by),
        lately=[line(row, user) for row in rows if row.ended][:LATELY],
        open=None if still is None else line(still, user),
        sheets=sheets.lines(actor, user),
    )


def _by_exercise(rows: Iterable[Attempt]) -> defaultdict[tuple[str, int | None], list[Attempt]]:
    by: defaultdict[tuple[str, int | None], list[Attempt]] = defaultdict(list)
    for row in rows:
        by[row.key, row.made_id].append(row)
    return by


def _signs(recognised: set[str]) -> list[LearnedSign]:
    return [
        LearnedSign(sign=key, name=one.name, known=key in recognised) for key, one in practice.signs().items()
    ]


def _of(rows: list[Attempt]) -> dict[str, Any]:
    """What has come of an exercise so far."""
    points = [row.points for row in rows if row.points is not None]
    return {
        "tries": len(rows),
        "best": max(points, default=None),
        "passed": any(row.counts for row in rows),
    }


def _ours(one: practice.Exercise, rows: list[Attempt]) -> ExerciseOut:
    return ExerciseOut(
        key=one.key,
        exercise_id=None,
        name=one.name,
        kind=one.kind,
        tell=one.tell,
        formula=one.formula.name,
        signs=list(one.signs),
        **_of(rows),
    )


def _made(made: MadeExercise, rows: list[Attempt]) -> ExerciseOut:
    one = exercise_of(made.spec)
    return ExerciseOut(
        key="",
        exercise_id=made.pk,
        name=made.name,
        kind=one.kind,
        tell=one.tell,
        formula=one.formula.name,
        signs=list(one.signs),
        **_of(rows),
    )


def _set_for(
    actor: Actor, user: User, by: defaultdict[tuple[str, int | None], list[Attempt]]
) -> list[SetOut]:
    rows = SetExercise.objects.filter(kitchen=actor.kitchen, person=user, taken_back_at=None)
    return [set_out(row, by[row.key, row.made_id]) for row in rows.select_related("made", "set_by", "person")]


def set_out(row: SetExercise, tried: Iterable[Attempt]) -> SetOut:
    """An exercise set for somebody, and whether it was passed since."""
    name = row.made.name if row.made is not None else practice.exercise(row.key).name
    return SetOut(
        id=row.pk,
        key=row.key,
        exercise_id=row.made_id,
        name=name,
        person_id=row.person_id,
        who=row.person.shown(),
        by=row.set_by.shown(),
        note=row.note,
        set_at=row.set_at,
        passed=any(one.counts and one.begun_at >= row.set_at for one in tried),
    )


def line(row: Attempt, user: User) -> AttemptLine:
    """An attempt in a line."""
    return AttemptLine(
        id=row.pk,
        name=row.name,
        who=user.shown(),
        begun_at=row.begun_at,
        ended=row.ended,
        points=row.points,
        passed=row.passed,
    )


def section(actor: Actor) -> SectionOut:
    """Everybody of the kitchen, beside what there is to learn."""
    actor.must(Role.CHEF)
    fields = ("id", "key", "made_id", "person_id", "begun_at", "passed", "signs", "again_s")
    tried: defaultdict[int, list[Attempt]] = defaultdict(list)
    for row in Attempt.objects.filter(kitchen=actor.kitchen).only(*fields):
        tried[row.person_id].append(row)
    columns = [ExerciseColumn(key=one.key, name=one.name) for one in practice.exercises().values()]
    columns += [
        ExerciseColumn(key=f"#{one.pk}", name=one.name)
        for one in MadeExercise.objects.filter(kitchen=actor.kitchen, taken_out_at=None)
    ]
    counted = sheets.counted(actor)
    return SectionOut(
        exercises=columns,
        signs=_signs(set()),
        people=[_section_line(one, tried[one.pk], counted.get(one.pk, 0)) for one in people(actor)],
    )


def _section_line(user: User, rows: list[Attempt], sheet_count: int) -> SectionLine:
    passed = {row.key or f"#{row.made_id}" for row in rows if row.counts}
    return SectionLine(
        person=person_out(user),
        passed=sorted(passed),
        signs=sorted({sign for row in rows for sign in row.signs}),
        attempts=len(rows),
        last_at=max((row.begun_at for row in rows), default=None),
        sheets=sheet_count,
    )
