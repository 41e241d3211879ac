"""The day: what is wanted, its steps, its plan, why it cannot be and what would help.

A room of its own beside the public door: whoever plans imports it, and nobody else waits for the solver.

>>> from custard import planning
>>> room = planning.Room((planning.Hands("cook", ((480, 720),)),), {"ring": 1})
>>> caramel = planning.Other("a", planning.OtherWork("caramel", 15, True, "ring"), by=600)
>>> plan = planning.solve(planning.Day(room, (caramel.job(),)))
>>> plan.proven, planning.clock(plan.steps[0].end)
(True, '9:55')
"""

from custard.planning.ahead import Ahead, Outlook, next_for, outlook
from custard.planning.check import broken, clock, said
from custard.planning.cost import cost, ready, weights
from custard.planning.day import (
    AT_ONCE_MIN,
    BATH,
    BOWL,
    CHURN,
    DAY_MIN,
    EARLIEST,
    ICE,
    LATEST,
    LOOKS,
    MOST_HANDS,
    OVEN,
    RING,
    STEAM,
    Begun,
    Day,
    Hands,
    Job,
    Minutes,
    Placed,
    Plan,
    Room,
    Step,
)
from custard.planning.file import SHELVES, DayFile, PlannedStep, day_schema, read_day, write_day
from custard.planning.greedy import greedy
from custard.planning.helps import Change, helps
from custard.planning.lists import Lists, Price, lists
from custard.planning.of_formula import Learned, Made, life_min, steps_of
from custard.planning.pace import Lesson, Took, learned, lessons
from custard.planning.risk import risks
from custard.planning.shelf import Tub, Want, shared_out
from custard.planning.solver import solve
from custard.planning.tidy import tidy
from custard.planning.wanted import Batch, Other, Wanted, standing, work
from custard.planning.why import Why, counted, why
from custard.purpose import OtherWork

__all__ = [
    "AT_ONCE_MIN",
    "BATH",
    "BOWL",
    "CHURN",
    "DAY_MIN",
    "EARLIEST",
    "ICE",
    "LATEST",
    "LOOKS",
    "MOST_HANDS",
    "OVEN",
    "RING",
    "SHELVES",
    "STEAM",
    "Ahead",
    "Batch",
    "Begun",
    "Change",
    "Day",
    "DayFile",
    "Hands",
    "Job",
    "Learned",
    "Lesson",
    "Lists",
    "Made",
    "Minutes",
    "Other",
    "OtherWork",
    "Outlook",
    "Placed",
    "Plan",
    "PlannedStep",
    "Price",
    "Room",
    "Step",
    "Took",
    "Tub",
    "Want",
    "Wanted",
    "Why",
    "broken",
    "clock",
    "cost",
    "counted",
    "day_schema",
    "greedy",
    "helps",
    "learned",
    "lessons",
    "life_min",
    "lists",
    "next_for",
    "outlook",
    "read_day",
    "ready",
    "risks",
    "said",
    "shared_out",
    "solve",
    "standing",
    "steps_of",
    "tidy",
    "weights",
    "why",
    "work",
    "write_day",
]
