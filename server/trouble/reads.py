"""What is said of a trouble, out of what is known of a batch, a tub or a formula. Nothing here writes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

import custard
from book import reads as book
from book.drafts import read_draft
from common import clock, database
from common.fair_limiter import in_turn
from kitchen import reads as kitchen
from kitchen.access import Actor
from shelf import facts
from shelf import reads as shelf
from shelf.reads import TubRow
from stove import reads as stove
from stove.after import keeping
from stove.batch.cooking import assessed, remedies_of
from stove.reads import BatchRow

from trouble.schemas import About, Asked, Sauce, Seen, TroubleOut
from trouble.story import story_of


@dataclass(frozen=True)
class Known:
    """What is known of the sauce that something is wrong with.

    `story` is None where nobody has begun it, `formula_id` where only its family is known; `left_g` is how
    much of it there is [g].
    """

    result: custard.Assessment
    story: custard.trouble.Story | None
    formula_id: int | None
    left_g: float
    batch: BatchRow | None = None
    tub: TubRow | None = None


def known(actor: Actor, about: About, now: datetime) -> Known:
    """What is known of a batch, a tub or a formula of this kitchen.

    Raises
    ------
    Http404
        when this kitchen has no such thing.
    """
    if about.tub_id is not None:
        tub = shelf.tub(actor, about.tub_id)
        batch = stove.batch(actor, tub.batch_id)
        database.release_connection()
        result = assessed(batch, tub.part)
        story = story_of(batch, result, now, tub)
        return Known(result, story, batch.version.formula_id, float(tub.left_g), batch, tub)
    if about.batch_id is not None:
        batch = stove.batch(actor, about.batch_id)
        database.release_connection()
        result = assessed(batch)
        left_g = keeping.yield_now_g(batch) if batch.yield_g is None else batch.yield_g
        return Known(result, story_of(batch, result, now), batch.version.formula_id, left_g, batch)
    if about.formula_id is None and about.family is not None:
        result = _usual(actor, about.family)
        return Known(result, None, None, result.yield_g)
    version = book.version(actor, about.formula_id or 0)
    conditions = kitchen.conditions_of(actor.kitchen)
    database.release_connection()
    result = custard.assess(custard.read_formula(version.content), conditions)
    return Known(result, None, version.formula_id, result.yield_g)


def _usual(actor: Actor, family: str) -> custard.Assessment:
    """A stranger's sauce is taken for a plain one of its family, in this kitchen's eggs and at its height."""
    pattern = next(one for one in book.patterns(actor) if one.family == family)
    formula = read_draft({**pattern.content(), "name": custard.larder.all_families()[family].name})
    conditions = kitchen.conditions_of(actor.kitchen)
    database.release_connection()
    return custard.assess(formula, conditions)


@in_turn
def seen(actor: Actor, about: About) -> list[Seen]:
    """Everything that can be seen, and whether it can be met in this sauce; in any, where none is named."""
    result = None if about.nothing else known(actor, about, clock.now()).result
    return [
        Seen(fault=one.fault, name=one.name, met=result is None or custard.trouble.met(result, one))
        for one in custard.trouble.faults().values()
    ]


@in_turn
def seen_and_answered(actor: Actor, asked: Asked) -> TroubleOut:
    """What is said of a fault that is seen. Writes nothing."""
    found = known(actor, asked, clock.now())
    return _out(found, answered(found, asked), asked)


def answered(found: Known, asked: Asked) -> custard.trouble.Answer:
    """The answer of the core.

    Raises
    ------
    CustardError
        when nothing of that name is seen, or a figure cannot be.
    """
    return custard.trouble.answer(
        found.result,
        asked.fault,
        found.story,
        asked.said,
        have_g(found, asked),
        unsafe(found, clock.now()),
    )


def unsafe(found: Known, now: datetime) -> str:
    """Why the one judge of safety says that it is thrown away; "" where it does not, or nothing was made."""
    if found.tub is not None:
        return facts.judged(found.tub, now).why
    return "" if found.batch is None else keeping.judged(found.batch, now).why


def have_g(found: Known, asked: Asked) -> float:
    """How much there is of what is mended, as somebody said, or as much of it as is left [g]."""
    if asked.have_g is not None:
        return asked.have_g
    left = found.left_g / max(found.result.yield_g, 1e-6)
    return max(1.0, left * custard.trouble.there_is_g(found.result, asked.fault))


def life_after(found: Known, answer: custard.trouble.Answer, now: datetime) -> custard.after.Life:
    """How it keeps once the remedy is done; what is on the shelf never longer than before."""
    if found.tub is None:
        return answer.after.life
    age_h = (now - found.tub.made_at).total_seconds() / 3600
    return custard.after.mended(
        custard.after.Life.of(found.tub.life),
        answer.after.life,
        age_h,
        found.result.conditions.parameters,
        warmed=bool(answer.now.warmed_again),
    )


def _out(found: Known, answer: custard.trouble.Answer, asked: Asked) -> TroubleOut:
    batch, tub = found.batch, found.tub
    before = found.result.allergens if batch is None else (tub.allergens if tub else batch.allergens)
    whole = custard.plain(replace(answer, after=replace(answer.after, formula=None)))  # type: ignore[arg-type]
    life = custard.plain(life_after(found, answer, clock.now()))
    return TroubleOut.model_validate(
        {
            **{name: whole[name] for name in _TOLD},
            "sauce": Sauce(
                batch_id=None if batch is None else batch.pk,
                number=None if batch is None else batch.number,
                tub_id=None if tub is None else tub.pk,
                tub=None if tub is None else tub.part,
                formula_id=found.formula_id,
                name=found.result.formula.name,
                left_g=round(found.left_g, 1),
                off_s=None if found.story is None else found.story.off_s,
                stage=None if batch is None else batch.stage,
                closed=batch is not None and batch.closed_at is not None,
                read=found.story is not None and found.story.read,
            ),
            "after": whole["after"],
            "unknown": " ".join(filter(None, (answer.unknown, _done_since(found)))),
            "have_g": round(have_g(found, asked), 1),
            "life": life,
            "allergens": list(dict.fromkeys([*before, *answer.after.allergens])),
            "new_allergens": [word for word in answer.after.allergens if word not in before],
            "takes": not answer.unsafe and batch is not None and (batch.closed_at is None or tub is not None),
        }
    )


def _done_since(found: Known) -> str:
    """That something was done about it already, of which no curve tells; "" where nothing was."""
    part = None if found.tub is None else found.tub.part
    done = found.batch is not None and any(one.tub in (None, part) for one in remedies_of(found.batch))
    return DONE_SINCE if done else ""


DONE_SINCE = (
    "Something was done about it since; what is weighed in counts, but its curve is that of the first cook."
)
_TOLD = ("fault", "name", "causes", "questions", "now", "curve", "change", "unsafe", "caution")
