"""When it has gone wrong."""

from custard.advice.trouble.rescue import FAULTS, Remedy, rescue

__all__ = [
    "FAULTS",
    "Remedy",
    "rescue",
]
