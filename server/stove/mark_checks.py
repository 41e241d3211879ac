"""What a mark must be before it is written."""

from __future__ import annotations

from datetime import datetime, timedelta

from common import clock
from common.refusals import Refusal
from custard.vocabulary import MarkKind, StageName
from devices.schemas import COLDEST_C, HOTTEST_C

from stove.batch import plans
from stove.batch.cooking import conditions_of
from stove.models import Batch, Remedy
from stove.schemas import NewMark

EARLY = timedelta(hours=1)
LATE = timedelta(minutes=2)
"""So long before its batch, and so far ahead of our clock, a mark may say that it was made."""


def must_be_right(batch: Batch, new: NewMark) -> None:
    """Refuse a mark that no cook can have made on this batch, by its field.

    Raises
    ------
    Refusal
        for a time, a temperature, a line, a step or a sign that cannot be.
    """
    time_must_be_right(batch, new.at)
    if new.temperature_c is not None and not COLDEST_C <= new.temperature_c <= HOTTEST_C:
        read = f"{{{new.temperature_c:g} C}} cannot be a sauce"
        sentence = f"{read}: a probe in one shows {{{COLDEST_C:g} C}} to {{{HOTTEST_C:g} C}}."
        raise Refusal(422, sentence, [("temperature_c", sentence)])
    if new.kind == MarkKind.DONE and new.stage == StageName.CHILL:
        _check_cold(batch, new)
    if new.kind == MarkKind.SIGN:
        _check_sign(batch, new)
    if new.kind == MarkKind.REMEDY_STEP:
        _check_step(batch, new)
    if new.line is None:
        return
    if new.kind in (MarkKind.TICK, MarkKind.CHECK) and new.line >= _rows(batch, new.stage):
        where = "finish tray" if new.stage == StageName.FINISH else "slip"
        raise Refusal(422, f"The {where} has no such line.", [("line", f"is not a line of the {where}")])


def time_must_be_right(batch: Batch, at: datetime) -> None:
    """Refuse a time at which nothing can have happened to a batch.

    Raises
    ------
    Refusal
        when it has not come yet, or was before the batch.
    """
    if at > clock.now() + LATE:
        raise Refusal(
            422, "That time has not come yet.", [("at", "has not come yet; check the device's clock")]
        )
    if at < batch.started_at - EARLY:
        raise Refusal(422, "That was before the batch.", [("at", "is before the batch was started")])


def _rows(batch: Batch, stage: str) -> int:
    """How many things there are to tick at a stage."""
    plan = plans.read(batch.plan)
    if stage == StageName.FINISH:
        return 0 if plan.finish is None else len(plan.finish.additions)
    return len(plan.slip)


STILL_COLD_K = 3.0
"""So much above the last limit of its rule a sauce is still called cold: a probe strays, and a door opens."""


def _check_cold(batch: Batch, new: NewMark) -> None:
    limit_c = conditions_of(batch).cooling_rule.second_c
    if new.temperature_c is not None and new.temperature_c > limit_c + STILL_COLD_K:
        sentence = f"{{{new.temperature_c:g} C}} is not cold yet: it is to be {{{limit_c:g} C}} or colder"
        raise Refusal(422, f"{sentence}. Write it down as a reading.", [("temperature_c", sentence)])


def _check_step(batch: Batch, new: NewMark) -> None:
    key = new.what if new.what and new.what.isdecimal() and len(new.what) < 19 else None
    found = Remedy.objects.filter(pk=key, mark__batch=batch, mark__withdrawal=None).first() if key else None
    if found is None:
        raise Refusal(422, "That batch has no such remedy.", [("what", "is not a remedy of that batch")])
    if new.line is not None and new.line >= len(found.steps):
        raise Refusal(422, "That remedy has no such step.", [("line", "is not a step of that remedy")])


def _check_sign(batch: Batch, new: NewMark) -> None:
    stage = next((one for one in plans.read(batch.plan).stages if one.stage == new.stage), None)
    if stage is None or new.what not in {sign.sign for sign in stage.signs}:
        raise Refusal(422, "That stage has no such sign.", [("what", "is not a sign of that stage")])
