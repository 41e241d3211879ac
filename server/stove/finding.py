"""Looking for batches: by what they are, who made them and on what, what came of them, and words."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from custard.vocabulary import MarkKind
from django.contrib.postgres.search import SearchQuery
from django.db.models import Exists, OuterRef, Q, QuerySet, Subquery
from kitchen.access import Actor

from stove.models import BATCH_WORDS, LANGUAGE, MARK_WORDS, ODD, Batch, Mark, Remedy

MOST_WORDS = 8
COLUMNS = {
    "number": "number",
    "family": "family",
    "formula_id": "version__formula_id",
    "verdict": "verdict",
    "person": "started_by__username",
    "hob_id": "hob_id",
    "pan_id": "pan_id",
}
"""By which column each question is answered."""


def found(actor: Actor, rows: QuerySet[Batch], asked: Mapping[str, Any]) -> QuerySet[Batch]:
    """Those of a kitchen's batches that are looked for, each with what was said of it last (`odd_said`).

    `asked` may hold words, wrong, fault, odd, and what `COLUMNS` names.
    """
    odd = Mark.objects.filter(batch=OuterRef("pk"), kind=MarkKind.ODD).order_by("-at", "-id")
    rows = rows.annotate(odd_said=Subquery(odd.values("what")[:1]))
    wanted = {name: one for name, one in asked.items() if name in COLUMNS and one is not None}
    rows = rows.filter(**{COLUMNS[name]: one for name, one in wanted.items()})
    if asked.get("odd") is not None:
        called = Q(odd_said=ODD)
        rows = rows.filter(called if asked["odd"] else ~called | Q(odd_said=None))
    stands = Mark.objects.filter(batch=OuterRef("pk"), withdrawal=None)
    if asked.get("wrong"):
        rows = rows.filter(Exists(stands.filter(kind__in=(MarkKind.REMEDY, MarkKind.WRONG))))
    if asked.get("fault"):
        rows = rows.filter(Exists(stands.filter(remedy__fault=asked["fault"])))
    query = prefixed(asked.get("words") or "")
    if query is not None:
        # Asked one after the other, each finds its index; asked with OR, neither does.
        named = Batch.objects.filter(kitchen=actor.kitchen).annotate(words=BATCH_WORDS).filter(words=query)
        noted = Mark.objects.annotate(words=MARK_WORDS).exclude(note="").filter(words=query)
        ids = named.values("pk").union(noted.filter(batch__kitchen=actor.kitchen).values("batch_id"))
        rows = rows.filter(pk__in=ids)
    return rows


def is_odd(row: Batch) -> bool:
    """Whether nothing is to be learned of a batch that was found."""
    return getattr(row, "odd_said", None) == ODD


def prefixed(words: str) -> SearchQuery | None:
    """Words as a question to the index: each as the beginning of a word, all of them; None without any."""
    parts = re.findall(r"\w+", words.lower())[:MOST_WORDS]
    if not parts:
        return None
    return SearchQuery(" & ".join(f"{one}:*" for one in parts), search_type="raw", config=LANGUAGE)


def faults(actor: Actor) -> list[str]:
    """What remedies were taken against here, by its key."""
    rows = Remedy.objects.filter(mark__batch__kitchen=actor.kitchen)
    return list(rows.order_by("fault").values_list("fault", flat=True).distinct())


def cooks(actor: Actor) -> list[int]:
    """The ids of those who began batches here; the index has nothing else."""
    rows = Batch.objects.filter(kitchen=actor.kitchen, started_by__isnull=False).order_by("started_by_id")
    return list(rows.values_list("started_by_id", flat=True).distinct())
