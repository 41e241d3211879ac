"""Write a backup of the whole kitchen to standard output."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from oldspoon.backup import BackupError, write


class Command(BaseCommand):
    """`./spoon backup FILE` calls this."""

    help = "Write a backup of the whole kitchen to standard output."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def handle(self, *args: Any, **options: Any) -> None:
        """Write it; says on standard error what is in it."""
        try:
            manifest = write(sys.stdout.buffer)
        except BackupError as error:
            raise CommandError(str(error)) from None
        rows = sum(count for count, _ in manifest.tables.values())
        self.stderr.write(f"· {rows} rows of {len(manifest.tables)} tables")
