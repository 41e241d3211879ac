"""A simulated wireless thermometer: a stand-in that speaks to the application only as a real one would.

It asks which batch it lies in, cooks that very batch on a simulated hob that nobody knows (chosen by a seed),
obeys what is marked, and sends what a probe would read: late, noisy, with gaps, and with a network that goes
away now and then and is caught up on afterwards.
"""

from __future__ import annotations

import argparse
import json
import random
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

import custard

from kitchenhand.say import Trouble, fail, step

ROOM_C, FRIDGE_WARM_C = 21.0, 18.0
HOT_DAIRY_C, WARMS_S = 92.0, 240.0
STEP_S, LONGEST_S = 1.0, 4 * 3600.0
NOISE_K = 0.2
LOST_SHARE = 0.03
AWAY_SHARE, AWAY_S = 0.015, (2.0, 6.0)
"""The chance at every sending that the network goes away, and for how long."""
LEAST_EVERY_S, LEAST_STEP_S = 0.2, 1e-6


@dataclass(frozen=True)
class Heard:
    """What the application tells a probe about its batch."""

    result: custard.Assessment
    pace: float
    start_c: float
    stove: custard.process.Stove
    started_at: datetime
    cooks_since: datetime | None
    marks: tuple[tuple[str, str, datetime], ...]
    cups: custard.process.Cups | None = None

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Heard:
        """Read from the answer to /api/device/batch."""
        formula = custard.read_formula(told["formula"])
        landing = told["landing_c"]
        return cls(
            custard.assess(formula, custard.Conditions(altitude_m=told["kitchen_altitude_m"])),
            told["pace"],
            FRIDGE_WARM_C if landing is None else landing,
            custard.process.Stove(
                power_w=told["power_w"],
                pan=told["pan"],
                over_steam=told["over_steam"],
            ),
            datetime.fromisoformat(told["started_at"]),
            None if told["cooks_since"] is None else datetime.fromisoformat(told["cooks_since"]),
            tuple((m["kind"], m["stage"], datetime.fromisoformat(m["at"])) for m in told["marks"]),
            None if told.get("cups") is None else custard.process.Cups.of(told["cups"]),
        )


@dataclass
class Kettle:
    """The simulated batch. When a mark comes in late it is cooked again from its beginning, with the mark."""

    heard: Heard
    seed: int
    cook: custard.process.Rehearsal = field(init=False)

    def __post_init__(self) -> None:
        result, heard = self.heard.result, self.heard
        self.cook = custard.process.rehearse(
            result.way, result.pan, heard.stove, heard.start_c, self.seed, result.conditions, heard.cups
        )
        self._t = 0.0

    def seconds(self, at: datetime) -> float:
        """A time as seconds of the cook; 0 when it began."""
        since = self.heard.cooks_since or at
        return (at - since).total_seconds() * self.heard.pace

    def until(self, at: datetime) -> float:
        """Cook on until then; returns what the probe reads, without its noise [degC]."""
        if self.heard.cooks_since is None or at <= self.heard.cooks_since:
            return self._before(at)
        goal = min(self.seconds(at), LONGEST_S)
        while goal - self._t > LEAST_STEP_S:
            kinds = [kind for kind, _, when in self.heard.marks if 0 <= self.seconds(when) <= self._t]
            hands = [kind for kind in kinds if kind in ("hands-off", "stirring")]
            self.cook.on(
                min(STEP_S, goal - self._t),
                lit="off-heat" not in kinds and "into-ice" not in kinds,
                stirred=not hands or hands[-1] == "stirring",
                in_ice="into-ice" in kinds,
            )
            self._t += min(STEP_S, goal - self._t)
        return self.cook.probe_c

    def _before(self, at: datetime) -> float:
        """Resting on the bench, or in the dairy while it warms."""
        weighed = next(
            (when for kind, stage, when in self.heard.marks if (kind, stage) == ("done", "weigh")), None
        )
        if weighed is None or at <= weighed:
            return ROOM_C
        share = min(1.0, (at - weighed).total_seconds() * self.heard.pace / WARMS_S)
        return ROOM_C + share * (HOT_DAIRY_C - ROOM_C)


class Link:
    """The network, which is away now and then; what could not be sent is kept and sent later."""

    def __init__(self, url: str, token: str, dice: random.Random, *, perfect: bool) -> None:
        self.url, self.token, self.dice, self.perfect = url.rstrip("/"), token, dice, perfect
        self.kept: list[dict[str, Any]] = []
        self.away_until = 0.0

    def ask(self) -> dict[str, Any] | None:
        """Which batch this probe lies in, or None while the network is away."""
        return self._call("GET", "/api/device/batch")

    def send(self, reading: Mapping[str, Any], now: float) -> bool:
        """Send a reading, and whatever could not be sent before; returns whether the network was there."""
        self.kept.append(dict(reading))
        if not self.perfect and now > self.away_until and self.dice.random() < AWAY_SHARE:
            self.away_until = now + self.dice.uniform(*AWAY_S)
        if now < self.away_until:
            return False
        if self._call("POST", "/api/device/readings", {"readings": self.kept[-1000:]}) is None:
            return False
        self.kept.clear()
        return True

    def _call(self, method: str, path: str, body: object = None) -> dict[str, Any] | None:
        request = urllib.request.Request(  # noqa: S310 an address the person typed
            self.url + path,
            data=None if body is None else json.dumps(body).encode(),
            headers={"Content-Type": "application/json", "Authorization": f"Bearer {self.token}"},
            method=method,
        )
        try:
            with urllib.request.urlopen(request, timeout=5) as answer:  # noqa: S310
                found: dict[str, Any] = json.load(answer)
                return found
        except urllib.error.HTTPError as error:
            if error.code in (401, 403):
                raise Trouble("The kitchen does not know this token; register the probe again.") from None
            fail(f"The kitchen answered {error.code}; trying again.")
        except OSError:
            fail("The kitchen's server cannot be reached; readings are kept and sent later.")
        return None


class StandIn:
    """The probe itself: asks, cooks, reads, sends, at every tick."""

    def __init__(self, link: Link, seed: int) -> None:
        self.link, self.seed, self.dice = link, seed, link.dice
        self.kettle: Kettle | None = None
        self.lies_in: int | None = -1

    @property
    def pace(self) -> float:
        """How many times as fast the batch's time runs."""
        return 1.0 if self.kettle is None else self.kettle.heard.pace

    def tick(self) -> None:
        """Once round."""
        told = self.link.ask()
        if told is None:
            return
        if told["batch"] != self.lies_in:
            self.lies_in = told["batch"]
            nowhere = "in no batch; put this probe into one at the Stove"
            step(f"in batch {self.lies_in}" if self.lies_in else nowhere)
        if told["formula"] is None:
            return
        heard = Heard.of(told)
        if self.kettle is None or self.kettle.heard != heard:
            self.kettle = Kettle(heard, self.seed)
        now = datetime.now(UTC)
        noise = 0.0 if self.link.perfect else self.dice.gauss(0, NOISE_K)
        read = round(self.kettle.until(now) + noise, 1)
        if self.link.perfect or self.dice.random() >= LOST_SHARE:
            self.link.send({"at": now.isoformat(), "celsius": read}, time.monotonic())


def run(
    url: str, token: str, seed: int, every_s: float | None, *, perfect: bool, seconds: float | None
) -> int:
    """Be a probe until Ctrl-C, or for so many seconds."""
    dice = random.Random(seed)  # noqa: S311 noise, not a secret
    probe = StandIn(Link(url, token, dice, perfect=perfect), seed)
    ends = time.monotonic() + (seconds or float("inf"))
    while time.monotonic() < ends:
        probe.tick()
        time.sleep(every_s or max(LEAST_EVERY_S, 1.0 / probe.pace))
    return 0


def main(argv: Iterable[str]) -> int:
    """The command line of the stand-in."""
    parser = argparse.ArgumentParser(prog="./spoon probe", description=__doc__)
    parser.add_argument("--token", required=True, help="the token the kitchen showed once")
    parser.add_argument("--url", default="http://127.0.0.1:8000", help="where Old Spoon is served")
    parser.add_argument("--seed", type=int, default=1, help="which hidden hob, pan and probe it is")
    parser.add_argument("--every", type=float, help="seconds between readings")
    parser.add_argument("--perfect", action="store_true", help="no noise, no gaps, no network that goes away")
    parser.add_argument("--seconds", type=float, help="end after so long")
    options = parser.parse_args(list(argv))
    try:
        return run(
            options.url,
            options.token,
            options.seed,
            options.every,
            perfect=options.perfect,
            seconds=options.seconds,
        )
    except Trouble as trouble:
        fail(str(trouble))
        return 1
    except KeyboardInterrupt:
        return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
