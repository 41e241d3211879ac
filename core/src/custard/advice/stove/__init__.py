"""Following a sauce: its stages, what is known of it while it cooks, what to do next, what it teaches."""

from custard.advice.stove.account import (
    UNKNOWN_PAN,
    UNKNOWN_POWER,
    Curve,
    Equipment,
    History,
    Live,
    Spoon,
    off_the_heat,
    unmeasured,
)
from custard.advice.stove.after import beside_plan
from custard.advice.stove.calibrate import Calibration, Estimate, Learned, calibrate, learned, time_to
from custard.advice.stove.checked import CheckedProbe, probe_checked
from custard.advice.stove.coach import Alarm, Coach, coach
from custard.advice.stove.live import live, settled
from custard.advice.stove.live_oven import LiveOven, live_oven
from custard.advice.stove.overview import Overview, SlipLine, overview
from custard.advice.stove.planned import PlannedLift, heat_warnings, planned_lift
from custard.advice.stove.stages import Sign, Stage, landing_of, stage_words, stages
from custard.larder.stage_table import StageRecord, stage_records

__all__ = [
    "UNKNOWN_PAN",
    "UNKNOWN_POWER",
    "Alarm",
    "Calibration",
    "CheckedProbe",
    "Coach",
    "Curve",
    "Equipment",
    "Estimate",
    "History",
    "Learned",
    "Live",
    "LiveOven",
    "Overview",
    "PlannedLift",
    "Sign",
    "SlipLine",
    "Spoon",
    "Stage",
    "StageRecord",
    "beside_plan",
    "calibrate",
    "coach",
    "heat_warnings",
    "landing_of",
    "learned",
    "live",
    "live_oven",
    "off_the_heat",
    "overview",
    "planned_lift",
    "probe_checked",
    "settled",
    "stage_records",
    "stage_words",
    "stages",
    "time_to",
    "unmeasured",
]
