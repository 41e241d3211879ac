"""Small days to plan, short to write."""

from __future__ import annotations

from custard.planning import LOOKS, RING, Day, Hands, Job, Minutes, Room, Step
from custard.planning.day import BUSY, FULL
from custard.vocabulary import StageName

NINE, NOON = 540, 720


def sauce(name: str, due: int | None, weigh=8, warm=6, cook=10, **more) -> Job:
    """Weighed, warmed with a look now and then, cooked with full hands; each for so many minutes exactly."""
    return Job(
        name,
        name,
        (
            Step("weigh", "Weigh out", Minutes(weigh), BUSY, stage=StageName.WEIGH),
            Step("warm", "Warm the dairy", Minutes(warm), LOOKS, {RING: 1}, most=90, stage=StageName.WARM),
            Step("cook", "Temper, cook, sieve", Minutes(cook), FULL, {RING: 1}, stage=StageName.COOK),
        ),
        due,
        **more,
    )


def one(name: str, due: int | None, minutes: float, hands=FULL, **needs) -> Job:
    """One thing that takes so long."""
    return Job(name, name, (Step("work", name, Minutes(minutes), hands, needs),), due)


def people(count: int, opens=NINE, closes=NOON + 120) -> tuple[Hands, ...]:
    return tuple(Hands(f"cook {n + 1}", ((opens, closes),)) for n in range(count))


def room(count=1, opens=NINE, closes=NOON + 120, **places) -> Room:
    return Room(
        people(count, opens, closes),
        {"ring": 2, "steam": 1, "bath": 2, "oven": 100, "churn": 1, **places},
    )


def day(*jobs: Job, hands=1, now=None, **places) -> Day:
    return Day(room(hands, **places), jobs, now)
