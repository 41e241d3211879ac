"""When it has gone wrong."""

from custard.advice.trouble.diagnose import Cause, diagnose, troubles
from custard.advice.trouble.remedies import Rescued, rescued
from custard.advice.trouble.rescue import FAULTS, Remedy, rescue
from custard.advice.trouble.story import Story, story_of, untold

__all__ = [
    "FAULTS",
    "Cause",
    "Remedy",
    "Rescued",
    "Story",
    "diagnose",
    "rescue",
    "rescued",
    "story_of",
    "troubles",
    "untold",
]
