"""How a batch keeps, as it went: what the shelf is told of it, and what it reached for vulnerable guests."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import custard
from common import clock, database
from common.fair_limiter import in_turn
from custard.vocabulary import Coat, MarkKind, StageName, Verdict, Wobble
from django.db.models import Exists, OuterRef
from kitchen.access import Actor

from stove import reads
from stove.batch import contents, plans
from stove.batch.cooking import Cooking, Read, assessed, conditions_of, cooking, read_by_probes, remedies_of
from stove.cooling import UNREAD, began_at, live_cooling
from stove.live import follow
from stove.live_schemas import CoolingLine
from stove.mark_checks import STILL_COLD_K
from stove.models import MAY_BE_USED, Batch, Mark
from stove.schemas import CoolingKept

UNKNOWN_COLD_S = 4 * 3600.0
"""Where nobody said how it is cooled, or it never gets there, it is taken to be cold right through so much
later [s]; an estimate on the safe side."""


@dataclass(frozen=True)
class PutAway:
    """What a batch is when it is put away.

    Attributes
    ----------
    life, made_at : how it keeps, and from when that counts.
    cold_at : when it is cold right through, as far as is known.
    yield_g, whites_g : what came of it, and the whites left over, as planned [g].
    vessel : in what it was cooled, in words; nothing where nobody said.
    filmed : whether film lies on it.
    """

    life: custard.after.Life
    whites_life: custard.after.Life
    made_at: datetime
    cold_at: datetime
    yield_g: float
    whites_g: float
    vessel: str
    filmed: bool


def put_away(
    batch: Batch,
    now: datetime,
    read: Read = read_by_probes,
    seen: custard.stove.Live | None = None,
    *,
    ends: bool = True,
) -> PutAway:
    """What a batch is as it is put away; computed from its marks, its cooling and its cook.

    `seen` is what the readings say of the end of its cook, for whoever knows that already.
    """
    marks, result = list(batch.marks.all()), assessed(batch)
    cools = live_cooling(batch, now, read)
    seen = seen or seen_of(cooking(batch, now, read))
    hottest_c = _hottest_c(batch, now, read)
    slow, doubt = (False, "") if result.served_at_once else _in_time(cools, ends=ends)
    missing = () if not ends or slow else _missing(batch, result, marks, cools, hottest_c, now)
    cold_s = UNKNOWN_COLD_S if cools is None or cools.cold_s is None else max(0.0, cools.cold_s)
    pasteurised = _pasteurised(batch)
    enzyme = 0.0 if seen is None else seen.amylase
    found = custard.after.life(result, cooled=not slow, hottest_c=hottest_c, enzyme=enzyme)
    made_at = _off_the_heat(batch, marks)
    for remedy in remedies_of(batch):
        if remedy.warmed_again and remedy.tub is None:
            age_h = max(0.0, (remedy.mark.at - made_at).total_seconds() / 3600)
            p = result.conditions.parameters
            found = custard.after.mended(found, found, age_h, p, warmed=True)
    found = contents.lives_no_longer(batch, found, made_at)
    decision = _decision(marks)
    if missing and decision is None:
        found = custard.after.undecided(found, missing)
    elif missing and decision is not None:
        doubt = f"; decided by {reads.shown(decision.by)}: {decision.note}"
    return PutAway(
        life=replace(found, why=f"{found.why}{doubt}"),
        whites_life=custard.after.whites_life(conditions_of(batch)),
        made_at=made_at,
        cold_at=batch.when_done(StageName.CHILL) or now + timedelta(seconds=cold_s / batch.pace),
        yield_g=yield_now_g(batch),
        whites_g=0.0 if pasteurised else result.whites_left_g,
        vessel=_vessel(batch),
        filmed=any(mark.kind == MarkKind.FILM for mark in marks),
    )


def yield_now_g(batch: Batch) -> float:
    """What is to come of a batch by its plan, with what remedies of the whole of it added and took [g]."""
    more = sum(one.mark.grams or 0.0 for one in remedies_of(batch) if one.tub is None)
    return max(0.0, plans.read(batch.plan).yield_g + more)


def _off_the_heat(batch: Batch, marks: list[Mark]) -> datetime:
    """From when its life is counted; where nobody marked that, the earliest that it can have been."""
    off = (mark.at for mark in marks if mark.kind in (MarkKind.OFF_HEAT, MarkKind.INTO_ICE))
    return next(off, None) or batch.when_done(StageName.COOK) or batch.started_at


def _hottest_c(batch: Batch, now: datetime, read: Read) -> float | None:
    """The warmest it was, as somebody typed it when it was lifted, else as its probe read [degC]."""
    if StageName.COOK in batch.left_c:
        return float(batch.left_c[StageName.COOK])
    return max((c for _, c in read(batch, batch.started_at, now)), default=None)


def _in_time(cools: custard.after.LiveCooling | None, *, ends: bool) -> tuple[bool, str]:
    """Whether a limit is missed as far as is known, and what is doubtful about that, in words.

    Before anything was read a plan that is too slow says nothing yet of what happened.
    """
    if cools is None:
        return False, ""
    first = cools.deadlines[0]
    late = [one for one in cools.deadlines if one.state == "will be missed"]
    if any(one.state == "missed" for one in cools.deadlines) or (
        ends and first in late and cools.spread < UNREAD
    ):
        return True, ""
    if first in late:
        return False, ""
    # A fridge as warm as the limit itself never gets there, and there are hours to set it colder.
    return False, f"; it may not be below {{{late[0].limit_c:g} C}} in time" if late else ""


COATED = tuple(Coat)[tuple(Coat).index(Coat.NAPPE) :]
NO_HEAT = "No temperature of its heat was taken, so nobody knows that it was cooked"
NO_COOLING = "No cooling temperatures were taken, so nobody knows that it was cold in time"
SLOW_PLAN = "By its plan it cools too slowly, and no cooling temperatures were taken: ask the chef"


def _missing(
    batch: Batch,
    result: custard.Assessment,
    marks: list[Mark],
    cools: custard.after.LiveCooling | None,
    hottest_c: float | None,
    now: datetime,
) -> tuple[str, ...]:
    """What the record lacks for the batch to be kept, a sentence each.

    A spoon that is coated, a cup that has set and bubbles show heat as a probe does; a foam mounds raw, too.
    One that nothing holds is served at once, and is not cooled.
    """
    seen = any(
        mark.kind == MarkKind.BUBBLES
        or (mark.kind == MarkKind.SPOON and mark.coat in COATED)
        or (mark.kind == MarkKind.NUDGE and mark.what != Wobble.LIQUID)
        for mark in marks
    )
    found = [] if seen or hottest_c is not None else [NO_HEAT]
    if not result.served_at_once:
        read = cools is not None and cools.spread < UNREAD
        late = cools is not None and cools.deadlines[0].state == "will be missed"
        found += [] if read or _typed_cold(batch, marks, now) else [SLOW_PLAN if late else NO_COOLING]
    return tuple(found)


def _typed_cold(batch: Batch, marks: list[Mark], now: datetime) -> bool:
    """Whether somebody read it below each limit in time whose time is over, and below the first at all.

    Where nobody said how it is cooled; its clock begins when it came off the heat, the earliest it can.
    """
    rule, began = conditions_of(batch).cooling_rule, _off_the_heat(batch, marks)

    def hours(at: datetime) -> float:
        return (at - began).total_seconds() * batch.pace / 3600

    read = [
        (hours(mark.at), mark.temperature_c)
        for mark in marks
        if mark.stage in (StageName.CHILL, StageName.KEEP)
        and mark.temperature_c is not None
        and mark.at >= began
    ]

    def kept(limit_c: float, within_h: float) -> bool:
        return any(celsius <= limit_c and at_h <= within_h for at_h, celsius in read)

    second_h = rule.second_h + (rule.first_h if rule.second_from == "first" else 0.0)
    second = hours(now) <= second_h or kept(rule.second_c + STILL_COLD_K, second_h)
    return kept(rule.first_c, rule.first_h) and second


def _decision(marks: list[Mark]) -> Mark | None:
    """The last decision that it may be used; None where nobody decided so."""
    return next((mark for mark in reversed(marks) if mark.what == MAY_BE_USED), None)


def cooling_now(actor: Actor, now: datetime) -> list[CoolingLine]:
    """What is cooling in this kitchen, the most urgent first; nothing is computed here."""
    put = Mark.objects.filter(batch=OuterRef("pk"), kind=MarkKind.INTO_ICE, withdrawal=None)
    open_ = Batch.objects.filter(Exists(put), kitchen=actor.kitchen, closed_at=None)
    ids = list(open_.values_list("pk", flat=True)[: reads.OPEN_AT_MOST])
    rows = reads.batches(actor).select_related("live_state").filter(pk__in=ids) if ids else []
    found = [_cools(batch, now) for batch in rows]
    return sorted(found, key=lambda one: (-one.urgency, one.began_at))


def _cools(batch: Batch, now: datetime) -> CoolingLine:
    seen = follow.shown(batch, now)
    kept = None if batch.cooling is None else CoolingKept.model_validate(batch.cooling)
    began = began_at(batch) or now
    since_s = seen.cooling.t_s if seen.cooling is not None else None
    past: list[tuple[float, float]] = []
    if since_s is not None:
        past = [(since_s + ago, c) for ago, c in zip(seen.past.ago_s, seen.past.c, strict=True)]
        past += [
            ((mark.at - began).total_seconds() * batch.pace, mark.temperature_c)
            for mark in batch.marks.all()
            if mark.stage == StageName.CHILL and mark.temperature_c is not None
        ]
        past = sorted((t, c) for t, c in past if t >= 0)
    return CoolingLine(
        batch_id=batch.pk,
        batch=batch.number,
        name=batch.name,
        allergens=batch.allergens,
        mass_g=None if kept is None else kept.mass_g,
        vessel=_vessel(batch),
        way="" if kept is None else ", then ".join(custard.larder.coolings()[w.by].name for w in kept.ways),
        stage=batch.stage,
        began_at=began,
        age_s=seen.age_s,
        say=seen.say,
        then=seen.then,
        urgency=seen.urgency,
        filmed=any(mark.kind == MarkKind.FILM for mark in batch.marks.all()),
        live=seen.cooling,
        past_s=[round(t, 1) for t, _ in past],
        past_c=[c for _, c in past],
    )


def seen_of(found: Cooking | None) -> custard.stove.Live | None:
    """What its probes say of the end of its cook; None for what was baked, or never read by one.

    What was typed is no proof of germs and enzymes: between two readings nobody knows how warm it was.
    """
    if found is None or not found.probed:
        return None
    ends = [s for s in (found.history.off_s, found.history.out_s) if s is not None]
    end = min(ends, default=max(t for t, _ in found.probed))
    seen = custard.stove.live(found.result, found.equipment, found.history, end)
    return seen if isinstance(seen, custard.stove.Live) else None


def _vessel(batch: Batch) -> str:
    if batch.cooling is None:
        return ""
    vessel = CoolingKept.model_validate(batch.cooling).vessel
    return vessel.kind if vessel.count == 1 else f"{vessel.count} × {vessel.kind}"


def _pasteurised(batch: Batch) -> bool | None:
    said = [mark.what for mark in batch.marks.all() if mark.kind == MarkKind.PASTEURISED]
    return said[-1] == "yes" if said else None


@in_turn
def life(actor: Actor, batch_id: int) -> custard.after.Life:
    """How a batch keeps, as it went so far; one that was discarded does not."""
    batch = reads.batch(actor, batch_id)
    found = put_away(batch, clock.now()).life
    return custard.after.discarded(found) if batch.verdict == Verdict.DISCARDED else found


def judged(batch: Batch, now: datetime) -> custard.after.Judgement:
    """Whether a batch as it went so far may still be eaten, had it stood in the cold since."""
    # While it cools there is still something to be done about a limit that will be missed.
    found = put_away(batch, batch.closed_at or now, ends=batch.closed_at is not None)
    known = custard.after.discarded(found.life) if batch.verdict == Verdict.DISCARDED else found.life
    age_h = (now - found.made_at).total_seconds() * batch.pace / 3600
    return custard.after.judge(known, custard.after.Kept(), age_h)


@in_turn
def for_guests(actor: Actor, batch_id: int) -> custard.after.Guests:
    """What is asked of a batch where guests are vulnerable, and what it has reached by now."""
    return guests_of(reads.batch(actor, batch_id))


def guests_of(batch: Batch) -> custard.after.Guests:
    """The same of a batch that was read."""
    found, result = cooking(batch, batch.closed_at or clock.now()), assessed(batch)
    database.release_connection()
    seen = seen_of(found)
    logs = None if seen is None else seen.germ_logs
    return custard.after.guests(result, logs, _pasteurised(batch), tuple(batch.unheated))
