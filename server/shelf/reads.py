"""Questions about the shelf: columns only, a page at a time."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from decimal import Decimal

import custard
from common import clock
from common.refusals import Refusal
from django.db.models import Count, Exists, F, OuterRef, Prefetch, Q, QuerySet, Sum
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import reads as stove
from stove.after import keeping
from stove.reads import shown

from shelf.facts import judged
from shelf.models import LASTING, Contents, Movement, MovementKind, Promise, Tub
from shelf.schemas import (
    MovementOut,
    PromiseOut,
    ShelfOut,
    Totals,
    TubLine,
    TubOut,
    WhitesOut,
)

PAGE = 60
MOST_MOVEMENTS = 200
WHITES_DAYS = 7
SOON = timedelta(hours=24)
"""What must be used within this is told apart."""

TubRow = Tub
MovementRow = Movement
"""A tub, and a movement, as others may read them."""


def tubs(actor: Actor) -> QuerySet[Tub]:
    """This kitchen's tubs with the promises that stand, in three queries."""
    open_ = Promise.objects.filter(kept_by=None, withdrawn_at=None).select_related("by")
    return (
        Tub.objects.filter(kitchen=actor.kitchen)
        .select_related("batch__started_by")
        .defer(*(f"batch__{name}" for name in stove.DOCUMENTS))
        .prefetch_related(Prefetch("promises", queryset=open_, to_attr="standing"))
    )


def on_the_shelf(
    actor: Actor, place: str | None = None, wanted: str = "", after: str | None = None
) -> ShelfOut:
    """What cools, what there is in all, and a page of tubs, soonest first.

    Parameters
    ----------
    place : only what is "fridge", "frozen" or "whites"; all by default.
    wanted : only what has this in its name, its batch's number, its allergens or what it is promised to;
        "without egg" what declares its allergens, and egg is none of them.
    after : where the page before ended.
    """
    rows = tubs(actor).filter(left_g__gt=0).order_by("use_by", "id")
    if place == "whites":
        rows = rows.filter(what=Contents.WHITES)
    elif place == "frozen":
        rows = rows.filter(place="frozen").exclude(what=Contents.WHITES)
    elif place == "fridge":
        rows = rows.exclude(place="frozen").exclude(what=Contents.WHITES)
    if wanted:
        rows = rows.filter(_holds(wanted))
    if after is not None:
        use_by, key = _cursor(after)
        rows = rows.filter(Q(use_by__gt=use_by) | Q(use_by=use_by, pk__gt=key))
    found = list(rows[: PAGE + 1])
    now = clock.now()
    return ShelfOut(
        at=now,
        totals=_totals(actor, now),
        cooling=[] if after or wanted or place in ("frozen", "whites") else keeping.cooling_now(actor, now),
        tubs=[line(row, now) for row in found[:PAGE]],
        after=f"{found[PAGE - 1].use_by.isoformat()}~{found[PAGE - 1].pk}" if len(found) > PAGE else None,
    )


def free_sauces(actor: Actor) -> list[Tub]:
    """Sauces in the fridge of which something is promised to nobody, with the formula they are made of."""
    rows = tubs(actor).filter(
        left_g__gt=F("promised_g"), what=Contents.SAUCE, place__in=("fridge", "thawing")
    )
    return list(rows.filter(use_by__gt=clock.now()).select_related("batch__version"))


def promises_due(actor: Actor, start: datetime, end: datetime) -> list[Promise]:
    """The promises that stand and are due from one moment to another."""
    rows = Promise.objects.filter(tub__kitchen=actor.kitchen, kept_by=None, withdrawn_at=None)
    return list(
        rows.filter(due_at__gte=start, due_at__lt=end)
        .select_related("tub__batch__version")
        .order_by("due_at", "id")
    )


WITHOUT = ("without ", "no ")
"""How somebody asks for what lacks an allergen."""


def _holds(wanted: str) -> Q:
    for word in WITHOUT:
        if wanted.lower().startswith(word):
            # What nobody declared anything of may hold anything; it is no answer to a guest with an allergy.
            lacks = ~Q(allergens__icontains=wanted[len(word) :].strip()) & ~Q(allergens=[])
            return lacks | Q(name__icontains=wanted)
    words = Q(name__icontains=wanted) | Q(allergens__icontains=wanted) | Q(unheated__icontains=wanted)
    dishes = Promise.objects.filter(tub=OuterRef("pk"), kept_by=None, withdrawn_at=None)
    words |= Q(Exists(dishes.filter(dish__icontains=wanted)))
    return words | Q(batch__number=int(wanted)) if wanted.isdigit() and len(wanted) < 10 else words


def _cursor(after: str) -> tuple[datetime, int]:
    use_by, _, key = after.partition("~")
    try:
        moment, number = datetime.fromisoformat(use_by), int(key)
    except ValueError:
        sentence = "is not where a page ended"
        raise Refusal(422, f"That {sentence}.", [("after", sentence)]) from None
    if moment.tzinfo is None or not 0 < number < 2**63:
        sentence = "is not where a page ended"
        raise Refusal(422, f"That {sentence}.", [("after", sentence)])
    return moment, number


def _totals(actor: Actor, now: datetime) -> Totals:
    rows = Tub.objects.filter(kitchen=actor.kitchen, left_g__gt=0)
    sauce = ~Q(what=Contents.WHITES)
    tonight = end_of_day(actor, now)
    found = rows.aggregate(
        fridge=Sum("left_g", filter=sauce & Q(place__in=("fridge", "thawing"))),
        frozen=Sum("left_g", filter=sauce & Q(place="frozen")),
        warm=Sum("left_g", filter=sauce & Q(place="warm")),
        whites=Sum("left_g", filter=Q(what=Contents.WHITES)),
        tubs=Count("id"),
        past=Count("id", filter=Q(use_by__lt=now)),
        today=Count("id", filter=Q(use_by__gte=now, use_by__lt=tonight)),
    )
    return Totals(
        fridge_g=grams(found["fridge"]),
        frozen_g=grams(found["frozen"]),
        warm_g=grams(found["warm"]),
        whites_g=grams(found["whites"]),
        tubs=found["tubs"],
        past=found["past"],
        today=found["today"],
    )


def grams(amount: Decimal | None) -> float:
    """Grams as told."""
    return float(amount or 0)


def end_of_day(actor: Actor, now: datetime) -> datetime:
    """When today ends by this kitchen's clock."""
    local = now.astimezone(kitchen.zone_of(actor.kitchen))
    return (local + timedelta(days=1)).replace(hour=0, minute=0, second=0, microsecond=0)


def line(row: Tub, now: datetime) -> TubLine:
    """A tub as a line of the shelf."""
    life = row.life
    return TubLine(
        id=row.pk,
        batch_id=row.batch_id,
        batch=row.batch.number,
        part=row.part,
        what=row.what,
        name=row.name,
        family=row.family,
        allergens=row.allergens,
        unheated=row.unheated,
        vulnerable=row.batch.vulnerable,
        vessel=row.vessel,
        place=row.place,
        made_at=row.made_at,
        made_by=shown(row.batch.started_by),
        ready_at=row.ready_at,
        ready_for=life["rests_to"],
        made_g=grams(row.made_g),
        left_g=grams(row.left_g),
        promised_g=grams(row.promised_g),
        promises=[
            PromiseOut(id=one.pk, grams=grams(one.grams), dish=one.dish, due_at=one.due_at, by=shown(one.by))
            for one in getattr(row, "standing", ())
        ],
        opened_at=row.opened_at,
        warm_c=row.warm_c,
        filmed=row.filmed,
        labelled=row.labelled,
        use_by=row.use_by,
        use_by_why=row.use_by_why,
        past=not judged(row, now).safe,
        undecided=bool(life.get("missing")),
        soon=now <= row.use_by < now + SOON and row.place != "frozen",
        rests=row.ready_at is not None and row.ready_at > now,
        freezes=life["freezes_days"] > 0 and row.frozen_at is None and row.place == "fridge",
        freezing=life["freezing"],
        stir=life["stir"],
    )


def tub(actor: Actor, tub_id: int) -> Tub:
    """One tub of this kitchen.

    Raises
    ------
    Http404
        when this kitchen has no such tub.
    """
    found = tubs(actor).filter(pk=tub_id).first()
    if found is None:
        raise Http404
    return found


def opened(actor: Actor, tub_id: int) -> TubOut:
    """A tub with all that was done with it, the newest first."""
    row = tub(actor, tub_id)
    moves = standing(row.movements.all()).order_by("-at", "-id")
    return TubOut(tub=line(row, clock.now()), movements=[movement(one) for one in moves[:MOST_MOVEMENTS]])


def movement(row: Movement) -> MovementOut:
    """A movement as told."""
    undone = hasattr(row, "corrected_by") and row.corrected_by is not None
    return MovementOut(
        id=row.pk,
        kind=row.kind,
        at=row.at,
        by=shown(row.by),
        change_g=grams(row.change_g),
        to=row.to,
        into_batch_id=row.into_id,
        into_batch="" if row.into is None else f"batch {row.into.number}, {row.into.name}",
        other_tub_id=row.other_id,
        celsius=row.celsius,
        note=row.note,
        undone=undone,
        can_undo=not undone and row.kind not in LASTING,
    )


def standing(rows: QuerySet[Movement]) -> QuerySet[Movement]:
    """Movements with what is said of them; of their batches no document is fetched."""
    documents = [f"{batch}__{name}" for batch in ("tub__batch", "into") for name in stove.DOCUMENTS]
    return rows.select_related("tub__batch", "by", "into", "corrected_by").defer("tub__life", *documents)


def movements_between(actor: Actor, since: datetime, until: datetime) -> list[Movement]:
    """What was done on the shelf in a while, in order."""
    rows = Movement.objects.filter(kitchen=actor.kitchen, at__gte=since, at__lt=until)
    return list(standing(rows))


def movements_of_batch(actor: Actor, batch_id: int) -> list[Movement]:
    """What was done with the tubs of a batch, in order."""
    rows = Movement.objects.filter(kitchen=actor.kitchen, tub__batch_id=batch_id)
    return list(standing(rows))


def whites(actor: Actor, days: int = WHITES_DAYS) -> WhitesOut:
    """The whites of some days: made, used, frozen, thrown away; and what can be made of what there is."""
    since = clock.now() - timedelta(days=days)
    rows = Movement.objects.filter(
        kitchen=actor.kitchen, tub__what=Contents.WHITES, at__gte=since, corrected_by=None
    )
    found = rows.aggregate(
        made=Sum("change_g", filter=Q(kind=MovementKind.MADE, tub__parent=None)),
        used=Sum("change_g", filter=Q(kind=MovementKind.USED)),
        thrown=Sum("change_g", filter=Q(kind=MovementKind.THROWN)),
    )
    there = Tub.objects.filter(kitchen=actor.kitchen, what=Contents.WHITES, left_g__gt=0)
    amounts = there.aggregate(all=Sum("left_g"), frozen=Sum("left_g", filter=Q(place="frozen")))
    left = grams(amounts["all"])
    return WhitesOut(
        days=days,
        made_g=grams(found["made"]),
        used_g=-grams(found["used"]),
        frozen_g=grams(amounts["frozen"]),
        thrown_g=-grams(found["thrown"]),
        there_g=left,
        uses=list(custard.after.whites_uses(left)),
    )


def allergens(actor: Actor) -> list[str]:
    """The allergens of all that is on the shelf, each once."""
    there = Tub.objects.filter(kitchen=actor.kitchen, left_g__gt=0).values_list("allergens", flat=True)
    return sorted({word for words in there.distinct() for word in words})


def chosen(actor: Actor, ids: Sequence[int]) -> list[Tub]:
    """Some tubs of this kitchen, in the order asked for.

    Raises
    ------
    Http404
        when this kitchen has not got one of them.
    """
    found = {row.pk: row for row in tubs(actor).filter(pk__in=ids)}
    if len(found) != len(set(ids)):
        raise Http404
    return [found[key] for key in ids]
