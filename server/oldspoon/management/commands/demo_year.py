"""Fill the demo kitchen with a year of batches."""

from __future__ import annotations

from typing import Any

from demo.seed import seed
from demo.year import BATCHES, year
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    """Make the demo kitchen with a year behind it instead of a fortnight; run as the tables' owner."""

    help = "Fill the demo kitchen with a year of batches, where there is none yet; takes some minutes."

    def add_arguments(self, parser: CommandParser) -> None:
        """How many batches."""
        parser.add_argument("--batches", type=int, default=BATCHES)

    def handle(self, *args: Any, batches: int, **options: Any) -> None:
        """Make it, unless there is a demo kitchen."""
        if not 1 <= batches <= BATCHES:
            raise CommandError(f"--batches must be 1 to {BATCHES}.")
        if not seed(year(batches), day_too=False):
            raise CommandError("There is a demo kitchen already. Use another database: --empty.")
        self.stdout.write(f"· the demo kitchen has a year of {batches} batches behind it")
