"""Take old months of readings out of the database."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from devices.archiving import ArchiveError, archive, left_behind


class Command(BaseCommand):
    """Writes a file a month and takes the month out; run by the owner of the tables."""

    help = "Take readings of the months before one out of the database, into a file each."

    def add_arguments(self, parser: argparse.ArgumentParser) -> None:
        """Which months, and where to."""
        parser.add_argument("--before", required=True, help="the first month to leave there, as 2026-06")
        parser.add_argument("--to", required=True, type=Path, help="the folder for the files")

    def handle(self, *args: Any, **options: Any) -> None:
        """Archive, and say what went where."""
        try:
            before = date.fromisoformat(f"{options['before']}-01")
        except ValueError:
            raise CommandError(f"--before {options['before']} is no month: write it as 2026-06.") from None
        if not options["to"].is_dir():
            raise CommandError(f"--to {options['to']} is no folder.")
        try:
            for one in archive(before, options["to"]):
                self.stdout.write(
                    f"{one.month:%Y-%m}: {one.readings} readings in {one.path}, SHA-256 {one.digest}"
                )
        except ArchiveError as error:
            raise CommandError(str(error)) from None
        self.stdout.write(_left(left_behind(before)))


def _left(many: int) -> str:
    """What of before those months is still there, as a sentence."""
    if many == 0:
        return "Nothing older is left."
    readings = "1 reading of before stays" if many == 1 else f"{many} readings of before stay"
    return f"{readings}: in no month's own table, so that no file takes it."
