"""The command `custard`."""

from custard.cli.main import main

__all__ = ["main"]
