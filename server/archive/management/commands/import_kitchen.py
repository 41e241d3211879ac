"""A kitchen out of an archive, beside those that are there."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from archive.reading import read
from archive.tables import ArchiveError


class Command(BaseCommand):
    """Read the archive from standard input, which must be a file."""

    help = "Bring the kitchen of an archive in, from standard input; nothing is written unless all of it is."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whose it becomes, and how it is called."""
        parser.add_argument("chef", help="the username of somebody here who becomes its chef")
        parser.add_argument("--slug", help="what it is called in its addresses; by default as it was")

    def handle(self, *args: Any, chef: str, slug: str | None, **options: Any) -> None:
        """Bring it in, or say why not."""
        try:
            kitchen = read(sys.stdin.buffer, chef, slug)
        except ArchiveError as refused:
            raise CommandError(str(refused)) from None
        self.stdout.write(f"· {kitchen.name} is here as /k/{kitchen.slug}; {chef} is its chef")
