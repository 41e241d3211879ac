"""One kitchen into one file that anybody can read."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from archive.tables import ArchiveError
from archive.writing import write


class Command(BaseCommand):
    """Write the archive to standard output, so that it can be led anywhere."""

    help = "Write the archive of a kitchen to standard output."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which kitchen."""
        parser.add_argument("slug", help="what the kitchen is called in its addresses")

    def handle(self, *args: Any, slug: str, **options: Any) -> None:
        """Write it, or say why not."""
        try:
            members = write(slug, sys.stdout.buffer)
        except ArchiveError as refused:
            raise CommandError(str(refused)) from None
        rows = sum(one.rows for one in members.values())
        self.stderr.write(f"· {rows} rows of {len(members)} tables")
