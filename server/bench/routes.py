"""Routes of the Bench: questions about a draft. None of them writes."""

from __future__ import annotations

from typing import Any, Literal

import custard
from book.drafts import read_draft
from book.schemas import Draft
from django.http import HttpRequest, HttpResponse
from django.utils.http import content_disposition_header
from kitchen.access import enter
from ninja import Router

from bench import importing, reads, solving
from bench.schemas import (
    BandOut,
    Building,
    Bundle,
    BundledOut,
    Compared,
    Crusting,
    DetailsOut,
    FittedOut,
    Fitting,
    Imported,
    ImportOut,
    MapOf,
    MapOut,
    SolutionOut,
    ToppingUp,
    TopUpOut,
    TurnedOut,
    Turning,
    Wanted,
)

router = Router()


@router.post("/k/{kitchen}/details", response=DetailsOut)
def details(request: HttpRequest, kitchen: str, draft: Draft) -> DetailsOut:
    """Handles, what changes if, schools, measures and facts of a draft."""
    actor = enter(request, kitchen)
    return reads.details(actor, read_draft(draft.content()))


@router.post("/k/{kitchen}/band", response=BandOut)
def band(request: HttpRequest, kitchen: str, draft: Draft) -> BandOut:
    """How sure a draft's window is."""
    actor = enter(request, kitchen)
    return reads.band(actor, read_draft(draft.content()))


@router.post("/k/{kitchen}/turn", response=TurnedOut)
def turn(request: HttpRequest, kitchen: str, body: Turning) -> TurnedOut:
    """A draft with some of its handles turned."""
    actor = enter(request, kitchen)
    return reads.turned(actor, read_draft(body.draft.content()), body)


@router.post("/k/{kitchen}/map", response=MapOut)
def ratio_map(request: HttpRequest, kitchen: str, body: MapOf) -> MapOut:
    """The ratio map: one handle against another, every cell a simulated cook."""
    actor = enter(request, kitchen)
    return reads.ratio_map(actor, read_draft(body.draft.content()), body.x, body.y, body.lift_c)


@router.post("/k/{kitchen}/solve", response=list[SolutionOut])
def solve(request: HttpRequest, kitchen: str, body: Wanted) -> list[SolutionOut]:
    """The mix that does what is wanted, shown line by line before it is taken."""
    actor = enter(request, kitchen)
    return solving.solve(actor, read_draft(body.draft.content()), body)


@router.post("/k/{kitchen}/fit", response=FittedOut)
def fit(request: HttpRequest, kitchen: str, body: Fitting) -> FittedOut:
    """A draft sized for a dish, or split for a pan."""
    return reads.fitted(enter(request, kitchen), read_draft(body.draft.content()), body)


@router.post("/k/{kitchen}/top-up", response=TopUpOut)
def top_up(request: HttpRequest, kitchen: str, body: ToppingUp) -> TopUpOut:
    """What brings infused dairy back to its weight."""
    enter(request, kitchen)
    return reads.topped_up(read_draft(body.draft.content()), body.left_g)


@router.post("/k/{kitchen}/layers", response=list[custard.bench.Layer])
def layers(request: HttpRequest, kitchen: str, body: Building) -> list[custard.bench.Layer]:
    """How much of each batch a built-up dish takes, and when the next layer may go on."""
    return reads.built(enter(request, kitchen), body)


@router.post("/k/{kitchen}/crust", response=custard.finish.Crust)
def crust(request: HttpRequest, kitchen: str, body: Crusting) -> custard.finish.Crust:
    """The sugar of a burnt crust, and how long it takes under a flame or a grill."""
    return reads.crusted(enter(request, kitchen), body)


@router.get("/k/{kitchen}/compare", response=Compared)
def compare(
    request: HttpRequest,
    kitchen: str,
    a: int,
    b: int,
    a_version: int | None = None,
    b_version: int | None = None,
) -> Compared:
    """Two formulas, or two versions of one, side by side."""
    return reads.compared(enter(request, kitchen), (a, a_version), (b, b_version))


@router.post("/k/{kitchen}/import/files", response=list[BundledOut])
def open_bundle(request: HttpRequest, kitchen: str, body: Bundle) -> list[BundledOut]:
    """The texts of a zip or a table, one a recipe, to be read one by one."""
    enter(request, kitchen)
    return importing.unbundled(body)


@router.post("/k/{kitchen}/import", response=ImportOut)
def read_file(request: HttpRequest, kitchen: str, body: Imported) -> ImportOut:
    """Read a formula, or a recipe as people have it; what is not clear comes back to be settled."""
    return importing.imported(enter(request, kitchen), body.text, body.doubtful)


@router.get("/k/{kitchen}/formulas/{formula_id}/versions/{number}/export/{kind}", response={200: None})
def export(
    request: HttpRequest,
    kitchen: str,
    formula_id: int,
    number: int,
    kind: Literal["formula", "recipe", "slip"],
) -> HttpResponse:
    """A version as a file: Old Spoon JSON, schema.org Recipe, or the Slip as CSV."""
    text, content_type, name = reads.exported(enter(request, kitchen), formula_id, number, kind)
    answer = HttpResponse(text, content_type=content_type)
    answer["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=name)
    return answer


@router.get("/schemas/formula-2", response=dict[str, Any], auth=None)
def formula_schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of the open formula format, as it is written now."""
    return custard.formats.formula_schema()
