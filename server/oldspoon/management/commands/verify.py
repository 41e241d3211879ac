"""Say whether every record is as it was written."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from oldspoon.verifying import MOST_TOLD, verify


class Command(BaseCommand):
    """Reads everything and changes nothing; fails when something was altered."""

    help = "Look for a record that was altered, dropped or put in between."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def handle(self, *args: Any, **options: Any) -> None:
        """Print what was looked at and what is wrong."""
        found = verify()
        self.stdout.write(f"{found.entries} records in {found.chains} chains.")
        for sentence in found.wrong[:MOST_TOLD]:
            self.stdout.write(f"✗ {sentence}")
        if len(found.wrong) > MOST_TOLD:
            self.stdout.write(f"… and {len(found.wrong) - MOST_TOLD} more.")
        if found.wrong:
            raise CommandError(f"{len(found.wrong)} things are not as they were written.")
        for name, head in sorted(found.heads.items()):
            self.stdout.write(f"  {name}: {head[:16]}")
        self.stdout.write("Every record is as it was written.")
