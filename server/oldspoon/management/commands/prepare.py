"""Bring the database up to date, and fill the demo kitchen when asked."""

from __future__ import annotations

from typing import Any

from demo.seed import seed
from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader
from records.triggers import ask_quickly

from oldspoon import backup, roles

TOO_OLD = (
    "This kitchen was last used with a version of Old Spoon that is too old for this one. Start it once with "
    "the version of 30 November 2026, then with this one. Nothing was changed."
)


class Command(BaseCommand):
    """Run at every start as the tables' owner; does nothing when there is nothing to do."""

    help = "Create and migrate the database, backing it up before; --demo fills the demo kitchen."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def add_arguments(self, parser: CommandParser) -> None:
        """What to fill, how much to say."""
        parser.add_argument("--demo", action="store_true")
        parser.add_argument("--quiet", action="store_true")

    def handle(self, *args: Any, demo: bool, quiet: bool, **options: Any) -> None:
        """Create the database when it is missing, migrate, say who may do what, seed."""
        self._create_database()
        loader = MigrationExecutor(connection).loader
        if _is_too_old(loader):
            raise CommandError(TOO_OLD)
        if self._behind():
            kept = backup.keep("before-migration")
            self.stdout.write(f"· the kitchen is kept in {kept} before its tables are changed")
        call_command("migrate", verbosity=0)
        ask_quickly()
        serving = settings.DB_SERVING
        if serving and serving != connection.settings_dict["USER"]:
            roles.grant(serving)
        if demo and seed() and not quiet:
            self.stdout.write("· the demo kitchen is set up")

    def _create_database(self) -> None:
        name = connection.settings_dict["NAME"]
        with connection._nodb_cursor() as cursor:
            cursor.execute("SELECT 1 FROM pg_database WHERE datname = %s", [name])
            if cursor.fetchone() is None:
                cursor.execute(f"CREATE DATABASE {connection.ops.quote_name(name)}")

    def _behind(self) -> bool:
        """Whether there is something in it, and it has still to be migrated."""
        executor = MigrationExecutor(connection)
        applied = executor.loader.applied_migrations
        return bool(applied) and bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def _is_too_old(loader: MigrationLoader) -> bool:
    """Whether only some of the migrations that a squashed one replaces have been applied."""
    applied = set(loader.applied_migrations)
    return any(
        key not in applied and set(one.replaces) & applied and set(one.replaces) - applied
        for key, one in loader.disk_migrations.items()
    )
