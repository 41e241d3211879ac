"""Whatever happens to a batch in whatever order, nothing breaks and nothing that was acknowledged is lost.

OLDSPOON_SEQUENCES says how many random sequences are tried.
"""

from __future__ import annotations

import os
import uuid
from collections import Counter
from datetime import UTC, datetime, timedelta
from typing import Any, ClassVar

from custard.vocabulary import MarkKind, StageName
from house import K, Person, post_readings
from hypothesis import HealthCheck, seed, settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)

SEQUENCES = int(os.environ.get("OLDSPOON_SEQUENCES", "3"))
SEED = int(os.environ.get("OLDSPOON_SEED", "1"))
STEPS = 25
STAGES = tuple(StageName)
KINDS = tuple(MarkKind)
"""All kinds of marks there are, also those that nobody may send."""
temperatures = st.one_of(st.none(), st.floats(-20, 120), st.just(4.0), st.just(83.0))


class Stove(RuleBasedStateMachine):
    """One batch, a probe, and somebody who touches everything."""

    port: ClassVar[int]
    answers: ClassVar[Counter[int]] = Counter()

    @initialize()
    def begin(self) -> None:
        self.cook = Person(self.port)
        self.batch = self.cook.batch()["id"]
        self.kept: set[str] = set()
        self.withdrawn: set[str] = set()
        self.read = 0
        self.token = self.cook.probe_in(self.batch)
        self.open = True
        self.at = datetime.now(UTC) - timedelta(minutes=50)

    def call(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        status, answer = self.cook.call(method, f"{K}{path}", body)
        self.answers[status] += 1
        assert status < 500, (method, path, body, answer)
        return status, answer

    @rule(
        stage=st.sampled_from(STAGES), kind=st.sampled_from(KINDS), temperature=temperatures,
        line=st.one_of(st.none(), st.integers(0, 12)), coat=st.sampled_from([None, "nappe", "thin coat"]),
        sieve=st.sampled_from([None, "clean", "many bits"]), ahead=st.integers(1, 200),
        what=st.sampled_from([None, "foam", "steam", "too-thin"]), grams=st.none() | st.floats(0, 3000),
    )  # fmt: skip
    def mark(self, stage, kind, temperature, line, coat, sieve, ahead, what, grams) -> None:
        self.at = min(self.at + timedelta(seconds=ahead), datetime.now(UTC))
        given = {
            "temperature_c": temperature,
            "line": line,
            "coat": coat,
            "sieve": sieve,
            "what": what,
            "grams": grams,
        }
        mark = {"id": str(uuid.uuid4()), "stage": stage, "kind": kind, "at": self.at.isoformat()}
        mark |= {name: value for name, value in given.items() if value is not None}
        status, _ = self.call("POST", f"/batches/{self.batch}/marks", mark)
        if status == 200:
            self.kept.add(mark["id"])

    @precondition(lambda self: self.kept)
    @rule(dice=st.randoms())
    def withdraw(self, dice) -> None:
        one = dice.choice(sorted(self.kept))
        status, _ = self.call("POST", f"/batches/{self.batch}/marks/{one}/withdraw")
        if status == 200:
            self.withdrawn.add(one)

    @rule(values=st.lists(st.floats(-30, 130), min_size=1, max_size=20))
    def probe_reads(self, values) -> None:
        at = datetime.now(UTC) - timedelta(seconds=len(values))
        readings = [
            {"at": (at + timedelta(seconds=n)).isoformat(), "celsius": value}
            for n, value in enumerate(values)
        ]
        assert post_readings(self.port, self.token, readings)
        self.read += len(readings)

    @rule(path=st.sampled_from(["live", "pours?ladle_g=80", "oven", "remedies", "for-probe", ""]))
    def look(self, path) -> None:
        self.call("GET", f"/batches/{self.batch}/{path}".rstrip("/"))

    @precondition(lambda self: self.open)
    @rule(verdict=st.sampled_from(["good", "usable", "discarded"]), landed=temperatures)
    def close(self, verdict, landed) -> None:
        status, _ = self.call(
            "POST", f"/batches/{self.batch}/close", {"verdict": verdict, "note": "", "landed_c": landed}
        )
        self.open = status != 200

    @invariant()
    def nothing_acknowledged_is_lost(self) -> None:
        if not hasattr(self, "kept"):
            return
        _, batch = self.call("GET", f"/batches/{self.batch}")
        marks = {mark["id"]: mark for mark in batch["marks"]}
        assert self.kept - self.withdrawn <= set(marks)


def test_any_order_of_what_happens_at_the_stove(port, record_property):
    Stove.port = port
    how = settings(
        max_examples=SEQUENCES, stateful_step_count=STEPS, deadline=None, database=None,
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    run_state_machine_as_test(seed(SEED)(Stove), settings=how)
    said = ", ".join(f"{count} × {status}" for status, count in sorted(Stove.answers.items()))
    record_property("told", f"{SEQUENCES} sequences at the stove: {said}")
    assert Stove.answers[200] > 0
