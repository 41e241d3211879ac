"""Questions about formulas, answered with the core's computation."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import custard
from common.fair_limiter import in_turn
from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from django.http import Http404
from kitchen.access import Actor
from kitchen.reads import conditions_of, prices_per_kg
from pydantic import TypeAdapter

from book import kept
from book.models import Formula, FormulaVersion, KeptLine, Reminder
from book.schemas import (
    ComputedLine,
    Draft,
    FormulaLine,
    FormulaOut,
    FormulaPage,
    LineDraft,
    ReminderOut,
    VersionLine,
)

PAGE = 50
MOST_REMINDERS = 10

OVERVIEW = TypeAdapter(custard.stove.Overview)
"""From an overview, as it is computed or as it was kept, to one whose figures are rounded."""


@dataclass(frozen=True)
class BookAsked:
    """What is looked for in the book; `after` is the last formula of the page before."""

    archived: bool = False
    words: str = ""
    family: str = ""
    word: str = ""
    after: int | None = None


def patterns(actor: Actor) -> list[Draft]:
    """A plain formula of each family, in this kitchen's eggs and cups, to start from."""
    return [
        Draft(
            name=f"New {one.name}",
            family=one.family,
            eggs=actor.kitchen.eggs,
            measures=actor.kitchen.measures,
            lines=[
                LineDraft(ingredient=name, amount=amount)
                for name, amount in custard.larder.patterns()[one.family]
            ],
        )
        for one in custard.larder.all_families().values()
    ]


MOST_COUNTED = 400
MOST_USUAL = 12


def usual_ingredients(actor: Actor) -> list[str]:
    """What this kitchen's formulas are made of most often, by id, the most usual first."""
    lines = FormulaVersion.latest_of(actor.kitchen.pk).values_list("content__lines", flat=True)[:MOST_COUNTED]
    used = Counter(
        line["ingredient"] for some in lines for line in some if isinstance(line["ingredient"], str)
    )
    # Of two that are used as often, the one that the larder has first is the plainer.
    order = {name: place for place, name in enumerate(custard.larder.all_ingredients())}
    return sorted(used, key=lambda name: (-used[name], order.get(name, len(order))))[:MOST_USUAL]


def last_used(actor: Actor) -> list[str]:
    """What this kitchen's formulas are made of, by ingredient id, what was written last first."""
    written = FormulaVersion.latest_of(actor.kitchen.pk).order_by("-created_at", "-pk")
    lines = written.values_list("content__lines", flat=True)[:MOST_COUNTED]
    return list(
        dict.fromkeys(
            line["ingredient"] for some in lines for line in some if isinstance(line["ingredient"], str)
        )
    )


def page(actor: Actor, asked: BookAsked) -> FormulaPage:
    """A page of the kitchen's book, or of what was taken out of it."""
    conditions = conditions_of(actor.kitchen)
    under = kept.under(conditions)
    whole = FormulaVersion.latest_of(actor.kitchen.pk, archived=asked.archived)
    lines = KeptLine.objects.filter(under=under, content_sum=OuterRef("content_sum"))
    found = whole
    if asked.words:
        named = [key for key, one in _families() if asked.words.lower() in one.name.lower()]
        found = found.filter(Q(formula__name__icontains=asked.words) | Q(formula__family__in=named))
    if asked.family:
        found = found.filter(formula__family=asked.family)
    if asked.word:
        found = found.filter(Exists(lines.filter(word=asked.word)))
    rest = found
    if asked.after is not None:
        last = formula(actor, asked.after)
        rest = found.filter(
            Q(formula__name__gt=last.name) | Q(formula__name=last.name, formula__id__gt=last.pk)
        )
    rows = list(rest[: PAGE + 1])
    computed = kept.lines(rows[:PAGE], conditions)
    prices = prices_per_kg(actor.kitchen)
    words = whole.annotate(word=Subquery(lines.values("word")[:1])).order_by("word")
    families = whole.order_by("formula__family").values_list("formula__family", flat=True).distinct()
    return FormulaPage(
        lines=[_line(row, computed[row.content_sum], prices) for row in rows[:PAGE]],
        after=rows[PAGE - 1].formula_id if len(rows) > PAGE else None,
        total=whole.count(),
        found=found.count(),
        families=list(families),
        words=[word for word in words.values_list("word", flat=True).distinct() if word],
    )


def _families() -> Iterable[tuple[str, custard.larder.Family]]:
    return custard.larder.all_families().items()


def draft_of(content: Mapping[str, Any]) -> Draft:
    """A formula of the open format as the Bench edits it."""
    return Draft.model_validate(
        {key: part for key, part in content.items() if key not in ("format", "version")}
    )


def formula(actor: Actor, formula_id: int) -> Formula:
    """One formula of this kitchen.

    Raises
    ------
    Http404
        when this kitchen has no such formula.
    """
    found = _of(actor).filter(pk=formula_id).first()
    if found is None:
        raise Http404
    return found


def version(actor: Actor, formula_id: int, number: int | None = None) -> FormulaVersion:
    """One version of a formula, the latest by default."""
    found = formula(actor, formula_id)
    wanted = found.versions.filter(number=found.latest if number is None else number).first()
    if wanted is None:
        raise Http404
    return wanted


def latest(actor: Actor) -> QuerySet[FormulaVersion]:
    """The latest version of every formula in this kitchen's book."""
    return FormulaVersion.latest_of(actor.kitchen.pk)


def cooked(actor: Actor) -> list[Formula]:
    """The formulas of this kitchen of which a batch was begun, by name."""
    begun = FormulaVersion.objects.filter(formula=OuterRef("pk"), batches__isnull=False)
    return list(_of(actor).filter(Exists(begun)))


def latest_by_formula(actor: Actor, formulas: Iterable[int]) -> dict[int, FormulaVersion]:
    """The latest version of each of those formulas of this kitchen, also where it was put away since."""
    rows = FormulaVersion.objects.filter(
        formula__kitchen=actor.kitchen, formula__in=set(formulas), number=F("formula__latest")
    )
    return {row.formula_id: row for row in rows.select_related("formula")}


def made_alike(actor: Actor, contents: Iterable[Mapping[str, Any]]) -> dict[str, list[FormulaVersion]]:
    """The versions in this kitchen's book, put away ones left out, of the same contents by their sums."""
    rows = FormulaVersion.objects.filter(
        formula__kitchen=actor.kitchen,
        formula__archived_at=None,
        content_sum__in={kept.content_sum(one) for one in contents},
    )
    found: dict[str, list[FormulaVersion]] = {}
    for row in rows.select_related("formula").order_by("formula__id"):
        found.setdefault(row.content_sum, []).append(row)
    return found


def opened(actor: Actor, formula_id: int, number: int | None = None) -> FormulaOut:
    """A formula as the Bench opens it."""
    wanted = version(actor, formula_id, number)
    history = wanted.formula.versions.select_related("created_by")
    return FormulaOut(
        id=formula_id,
        version=wanted.number,
        latest=wanted.formula.latest,
        draft=draft_of(wanted.content),
        versions=[
            VersionLine(
                number=row.number,
                note=row.note,
                by=row.created_by.shown() if row.created_by else "someone who has left",
                at=row.created_at,
            )
            for row in history
        ],
        archived=wanted.formula.archived_at is not None,
        proposed_by=_proposer(wanted.formula),
        schools=wanted.formula.schools,
        reminders=reminders(actor, formula_id),
        recipe=wanted.formula.recipe,
        pictures=list(wanted.formula.pictures.values_list("pk", flat=True)),
    )


def reminders_of(actor: Actor, formula_id: int) -> QuerySet[Reminder]:
    """The reminders of a formula of this kitchen that stand."""
    return Reminder.objects.filter(formula__kitchen=actor.kitchen, formula=formula_id, done_at=None)


def reminders(actor: Actor, formula_id: int) -> list[ReminderOut]:
    """The same as they are shown, the newest first."""
    return [
        ReminderOut(
            id=row.pk,
            say=row.say,
            batch=row.batch,
            by=row.by.shown() if row.by else "someone who has left",
            at=row.at,
        )
        for row in reminders_of(actor, formula_id).select_related("by")[:MOST_REMINDERS]
    ]


def _of(actor: Actor) -> QuerySet[Formula]:
    return Formula.objects.filter(kitchen=actor.kitchen)


def _line(row: FormulaVersion, computed: ComputedLine, prices: dict[str, float]) -> FormulaLine:
    return FormulaLine(
        **dict(computed),
        id=row.formula_id,
        name=row.formula.name,
        family=row.formula.family,
        version=row.number,
        cost=_cost(custard.read_formula(row.content), prices) if prices else None,
        archived=row.formula.archived_at is not None,
        proposed_by=_proposer(row.formula),
    )


def _proposer(formula: Formula) -> str:
    return "" if formula.proposed_by is None else formula.proposed_by.shown()


def cost_per_g(actor: Actor, versions: Iterable[int]) -> dict[int, float]:
    """What a gram of versions costs today, by their ids; left out where something has no price."""
    prices, found = prices_per_kg(actor.kitchen), {}
    rows = FormulaVersion.objects.filter(formula__kitchen=actor.kitchen, pk__in=list(versions))
    for key, content in rows.values_list("pk", "content"):
        formula = custard.read_formula(content)
        cost = _cost(formula, prices)
        if cost is not None:
            found[key] = cost / formula.mass_g()
    return found


def _cost(formula: custard.Formula, prices: dict[str, float]) -> float | None:
    """What a formula costs; None while something in it has no price."""
    try:
        return round(custard.bench.cost(formula, prices), 2)
    except custard.Impossible:
        return None


@in_turn
def assessed(
    actor: Actor, formula: custard.Formula, schools: Mapping[str, str] | None = None
) -> custard.stove.Overview:
    """What a draft becomes in this kitchen."""
    return assessment(formula, conditions_of(actor.kitchen), schools)


def assessment(
    formula: custard.Formula, conditions: custard.Conditions, schools: Mapping[str, str] | None = None
) -> custard.stove.Overview:
    """Everything the Bench shows at once for one mix, made and cooled as chosen."""
    return assessment_of(formula, custard.assess(formula, conditions), schools)


def assessment_of(
    formula: custard.Formula, result: custard.Assessment, schools: Mapping[str, str] | None = None
) -> custard.stove.Overview:
    """The same of a mix that is assessed already."""
    return OVERVIEW.validate_python(custard.plain(custard.stove.overview(formula, result, schools)))
