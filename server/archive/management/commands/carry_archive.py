"""Make one archive or bring one in, in a process that ends with it."""

from __future__ import annotations

import os
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from archive import runs

BEHIND = 10
"""How far it stands behind the processes that serve and follow."""


class Command(BaseCommand):
    """What the worker calls."""

    help = "Make one archive that was asked for, or bring one in."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which one."""
        parser.add_argument("run")

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it, behind everything else that wants the processor."""
        os.nice(BEHIND)
        runs.carry(options["run"])
