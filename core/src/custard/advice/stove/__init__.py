"""Following a sauce: its stages, what is known of it while it cooks, what to do next, what it teaches."""

from custard.advice.stove.account import (
    UNKNOWN_PAN,
    UNKNOWN_POWER,
    Curve,
    Equipment,
    History,
    Live,
    Spoon,
    unmeasured,
)
from custard.advice.stove.after import beside_plan
from custard.advice.stove.calibrate import Calibration, Estimate, Learned, calibrate, learned, time_to
from custard.advice.stove.coach import Alarm, Coach, coach
from custard.advice.stove.live import live, settled
from custard.advice.stove.live_oven import LiveOven, live_oven
from custard.advice.stove.planned import PlannedLift, heat_warnings, planned_lift
from custard.advice.stove.stages import STAGES, Stage, landing_of, stage_words, stages

__all__ = [
    "STAGES",
    "UNKNOWN_PAN",
    "UNKNOWN_POWER",
    "Alarm",
    "Calibration",
    "Coach",
    "Curve",
    "Equipment",
    "Estimate",
    "History",
    "Learned",
    "Live",
    "LiveOven",
    "PlannedLift",
    "Spoon",
    "Stage",
    "beside_plan",
    "calibrate",
    "coach",
    "heat_warnings",
    "landing_of",
    "learned",
    "live",
    "live_oven",
    "planned_lift",
    "settled",
    "stage_words",
    "stages",
    "time_to",
    "unmeasured",
]
