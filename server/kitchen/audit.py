"""Who did what, as a chef reads it."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from functools import cache
from pathlib import Path

from kitchen.access import Actor, Role
from kitchen.crew_schemas import AuditOut, AuditPage
from kitchen.models import AuditEntry

PAGE = 60


@cache
def words() -> Mapping[str, str]:
    """What every action is called where people read of it."""
    with (Path(__file__).parent / "audit_words.csv").open(encoding="utf-8", newline="") as file:
        return {row["action"]: row["did"] for row in csv.DictReader(file)}


def read(actor: Actor, before: int | None, person_id: int | None) -> AuditPage:
    """What was done, the newest first, of everybody or of one."""
    actor.must(Role.CHEF)
    found = AuditEntry.objects.filter(kitchen=actor.kitchen).select_related("user").order_by("-id")
    if before is not None:
        found = found.filter(pk__lt=before)
    if person_id is not None:
        found = found.filter(user=person_id)
    page = list(found[: PAGE + 1])
    return AuditPage(
        entries=[
            AuditOut(
                id=one.pk,
                at=one.at,
                who=one.user.shown() if one.user else "a device",
                did=words().get(one.action, one.action),
                subject=one.subject,
            )
            for one in page[:PAGE]
        ],
        next=page[PAGE - 1].pk if len(page) > PAGE else None,
    )
