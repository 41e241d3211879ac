"""Bring a kitchen back out of a backup on standard input."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser

from oldspoon.backup import BackupError
from oldspoon.restoring import read


class Command(BaseCommand):
    """`./spoon restore FILE` calls this."""

    help = "Bring a kitchen back out of a backup on standard input; then bring it up to date."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether a kitchen that is there may go."""
        parser.add_argument("--replace", action="store_true")

    def handle(self, *args: Any, replace: bool, **options: Any) -> None:
        """Bring it, prove it, migrate it."""
        try:
            manifest, before = read(sys.stdin.buffer, replace=replace)
        except BackupError as error:
            raise CommandError(str(error)) from None
        rows = sum(count for count, _ in manifest.tables.values())
        if before:
            self.stdout.write(f"· what was here before is in {before}")
        self.stdout.write(
            f"· {rows} rows as they were on {manifest.made_at[:16].replace('T', ' at ')} UTC, each proven"
        )
        call_command("prepare", quiet=True)
