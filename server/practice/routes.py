"""Routes of Practice."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from kitchen.access import enter
from ninja import Router, Status
from papers.answers import printed

from practice import actions, exercises, passes, reads, sheets
from practice.schemas import (
    Again,
    AttemptOut,
    Beginning,
    BookOut,
    ExerciseMade,
    Marking,
    NewExercise,
    NewSet,
    NewSheet,
    Playing,
    PracticeOut,
    SectionOut,
    SetOut,
    SheetOut,
    Shown,
)

router = Router()


@router.get("/k/{kitchen}/practice", response=PracticeOut)
def read_practice(request: HttpRequest, kitchen: str) -> PracticeOut:
    """What there is to practise, and how far one has come."""
    return reads.page(enter(request, kitchen))


@router.get("/k/{kitchen}/practice/section", response=SectionOut)
def read_section(request: HttpRequest, kitchen: str) -> SectionOut:
    """Everybody beside every exercise."""
    return reads.section(enter(request, kitchen))


@router.get("/k/{kitchen}/practice/people/{person_id}", response=BookOut)
def read_book_of(request: HttpRequest, kitchen: str, person_id: int) -> BookOut:
    """A trainee's book."""
    return reads.book_of(enter(request, kitchen), person_id)


@router.post("/k/{kitchen}/practice/attempts", response=AttemptOut)
def begin(request: HttpRequest, kitchen: str, body: Beginning) -> AttemptOut:
    """Begin an attempt."""
    actor = enter(request, kitchen)
    return reads.opened(actor, actions.begin(actor, body))


@router.get("/k/{kitchen}/practice/attempts/{attempt_id}", response=AttemptOut)
def read_attempt(request: HttpRequest, kitchen: str, attempt_id: int) -> AttemptOut:
    """An attempt as it stands: only what a cook could see, and what was said once it is over."""
    actor = enter(request, kitchen)
    return reads.opened(actor, reads.attempt(actor, attempt_id))


@router.post(
    "/k/{kitchen}/practice/attempts/{attempt_id}/acts", response=Shown, auth=passes.Player(csrf=True)
)
def play(request: HttpRequest, kitchen: str, attempt_id: int, body: Playing) -> Shown:
    """Acts, in order and once; the answer is what there is to see after them."""
    actor, attempt = passes.player(request, kitchen, attempt_id)
    shown = actions.play(actor, attempt, body)
    passes.moved(request, attempt)
    return shown


@router.post("/k/{kitchen}/practice/attempts/{attempt_id}/debrief", response=AttemptOut)
def debrief(request: HttpRequest, kitchen: str, attempt_id: int) -> AttemptOut:
    """What is said of an attempt that is over."""
    actor = enter(request, kitchen)
    return reads.opened(actor, actions.debriefed(actor, attempt_id))


@router.post("/k/{kitchen}/practice/attempts/{attempt_id}/again", response=AttemptOut)
def again(request: HttpRequest, kitchen: str, attempt_id: int, body: Again) -> AttemptOut:
    """Play it again from a moment."""
    actor = enter(request, kitchen)
    return reads.opened(actor, actions.again(actor, attempt_id, body.id, body.from_s))


@router.post("/k/{kitchen}/practice/exercises", response={201: ExerciseMade})
def make(request: HttpRequest, kitchen: str, body: NewExercise) -> Status[ExerciseMade]:
    """Make an exercise of a formula of the Book."""
    made = exercises.make(enter(request, kitchen), body)
    return Status(201, ExerciseMade(id=made.pk, name=made.name))


@router.delete("/k/{kitchen}/practice/exercises/{exercise_id}", response={204: None})
def take_out(request: HttpRequest, kitchen: str, exercise_id: int) -> Status[None]:
    """Take an exercise out; attempts at it stay."""
    exercises.take_out(enter(request, kitchen), exercise_id)
    return Status(204, None)


@router.post("/k/{kitchen}/practice/exercises/{exercise_id}/back", response={204: None})
def put_back(request: HttpRequest, kitchen: str, exercise_id: int) -> Status[None]:
    """An exercise that was taken out is there again."""
    exercises.put_back(enter(request, kitchen), exercise_id)
    return Status(204, None)


@router.post("/k/{kitchen}/practice/set", response={201: SetOut})
def set_for(request: HttpRequest, kitchen: str, body: NewSet) -> Status[SetOut]:
    """Set an exercise for somebody."""
    return Status(201, reads.set_out(exercises.set_for(enter(request, kitchen), body), []))


@router.delete("/k/{kitchen}/practice/set/{set_id}", response={204: None})
def take_back(request: HttpRequest, kitchen: str, set_id: int) -> Status[None]:
    """They need not do it any more."""
    exercises.take_back(enter(request, kitchen), set_id)
    return Status(204, None)


@router.post("/k/{kitchen}/practice/set/{set_id}/back", response={204: None})
def set_again(request: HttpRequest, kitchen: str, set_id: int) -> Status[None]:
    """What was taken back is set as it was."""
    exercises.set_again(enter(request, kitchen), set_id)
    return Status(204, None)


@router.post("/k/{kitchen}/practice/sheets", response={201: SheetOut})
def begin_sheet(request: HttpRequest, kitchen: str, body: NewSheet) -> Status[SheetOut]:
    """Begin an assessment sheet."""
    return Status(201, sheets.sheet_out(sheets.begin(enter(request, kitchen), body)))


@router.get("/k/{kitchen}/practice/sheets/{sheet_id}", response=SheetOut)
def read_sheet(request: HttpRequest, kitchen: str, sheet_id: int) -> SheetOut:
    """A sheet as it is marked."""
    return sheets.sheet_out(sheets.sheet(enter(request, kitchen), sheet_id))


@router.put("/k/{kitchen}/practice/sheets/{sheet_id}", response=SheetOut)
def mark_sheet(request: HttpRequest, kitchen: str, sheet_id: int, body: Marking) -> SheetOut:
    """Write what was touched."""
    return sheets.sheet_out(sheets.mark(enter(request, kitchen), sheet_id, body))


@router.get("/k/{kitchen}/practice/sheets/{sheet_id}/sheet.pdf", response={200: None, 202: None})
def print_sheet(request: HttpRequest, kitchen: str, sheet_id: int) -> HttpResponse:
    """The sheet on paper."""
    actor = enter(request, kitchen)
    return printed(request, actor, "sheet", {"sheet": sheets.sheet(actor, sheet_id).pk}, f"sheet-{sheet_id}")
