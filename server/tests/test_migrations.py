"""The squashed migrations: from nothing, from a database of the version before, and from one too old."""

from __future__ import annotations

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.recorder import MigrationRecorder

OURS = ("records", "people", "kitchen", "book", "devices", "stove", "shelf", "day", "practice")


def squashed() -> dict[str, list[tuple[str, str]]]:
    """What each application's squashed migration replaces."""
    disk = MigrationExecutor(connection).loader.disk_migrations
    found = {key: one for key, one in disk.items() if key[1] == "0001_squashed"}
    assert {app for app, _ in found if app in OURS} == set(OURS)
    assert sum(app in OURS for app, _ in found) == len(OURS), "one squashed migration an application"
    return {app: list(one.replaces) for (app, _), one in found.items() if app in OURS}


def as_before(without: tuple[str, str] | None = None) -> None:
    """Say in the database that the old migrations made it, all or all but one."""
    rows = MigrationRecorder(connection).migration_qs
    rows.filter(app__in=OURS).delete()
    for replaced in squashed().values():
        for app, name in replaced:
            if (app, name) != without:
                rows.create(app=app, name=name)


@pytest.mark.django_db
def test_a_database_of_the_version_before_is_taken_as_it_is():
    as_before()
    later = [key for key in MigrationExecutor(connection).loader.disk_migrations if key[0] in OURS]
    for app, name in later:
        if name != "0001_squashed":
            MigrationRecorder(connection).migration_qs.create(app=app, name=name)
    executor = MigrationExecutor(connection)
    assert executor.migration_plan(executor.loader.graph.leaf_nodes()) == []
    call_command("migrate", verbosity=0)
    done = set(MigrationRecorder(connection).migration_qs.values_list("app", "name"))
    assert {(app, "0001_squashed") for app in OURS} <= done


@pytest.mark.django_db
@pytest.mark.parametrize("last", [("stove", "0013_remedies"), ("kitchen", "0010_taken_off")])
def test_one_that_is_too_old_is_refused_in_a_sentence(last):
    as_before(without=last)
    with pytest.raises(CommandError, match="too old for this one"):
        call_command("prepare", quiet=True)
