"""Set one paper, in a process that ends with it."""

from __future__ import annotations

import os
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from papers import orders

BEHIND = 10
"""How far it stands behind the processes that serve and follow."""


class Command(BaseCommand):
    """What the worker calls for what can be large."""

    help = "Set one paper that was ordered."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which one."""
        parser.add_argument("paper")

    def handle(self, *args: Any, **options: Any) -> None:
        """Set it, behind everything else that wants the processor."""
        os.nice(BEHIND)
        orders.make(options["paper"])
