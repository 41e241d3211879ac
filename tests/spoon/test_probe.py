"""The stand-in probe: it cooks what it lies in, obeys what is marked, and catches up after a gap."""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from kitchenhand.probe import Heard, Kettle, Link, StandIn

BEGAN = datetime(2026, 1, 1, 12, tzinfo=UTC)
TOLD = {
    "batch": 7,
    "kitchen_altitude_m": 12,
    "formula": {
        "format": "old-spoon/formula",
        "version": 1,
        "name": "Anglaise",
        "family": "anglaise",
        "eggs": "EU-M",
        "measures": "metric",
        "lines": [
            {"ingredient": "whole-milk", "amount": "500 ml"},
            {"ingredient": "egg-yolk", "amount": "6"},
            {"ingredient": "white-sugar", "amount": "90 g"},
        ],
    },
    "pace": 1,
    "landing_c": 70.0,
    "over_steam": False,
    "power_w": 350,
    "pan": "clad",
    "started_at": BEGAN.isoformat(),
    "cooks_since": BEGAN.isoformat(),
    "marks": [],
}


def heard(*marks: tuple[str, str, float], **more) -> Heard:
    told = [
        {"kind": kind, "stage": stage, "at": (BEGAN + timedelta(seconds=at)).isoformat()}
        for kind, stage, at in marks
    ]
    return Heard.of({**TOLD, "marks": told, **more})


def at(seconds: float) -> datetime:
    return BEGAN + timedelta(seconds=seconds)


def test_it_warms_and_obeys_the_marks():
    kettle = Kettle(heard(), seed=1)
    warm = kettle.until(at(60))
    assert kettle.until(at(120)) > warm > 70
    off = Kettle(heard(("off-heat", "cook", 60)), seed=1)
    assert off.until(at(60)) == pytest.approx(warm, abs=0.3)
    assert off.until(at(240)) < kettle.until(at(240))
    cold = Kettle(heard(("off-heat", "cook", 60), ("into-ice", "chill", 80)), seed=1)
    assert cold.until(at(600)) < 45


def test_a_mark_heard_late_counts_from_when_it_was_made():
    late, early = Kettle(heard(), seed=3), Kettle(heard(("off-heat", "cook", 50)), seed=3)
    late.until(at(90))
    again = Kettle(replace(late.heard, marks=early.heard.marks), late.seed)
    assert again.until(at(90)) == pytest.approx(early.until(at(90)))


def test_a_seed_is_one_hob_and_another_seed_another():
    reads = [Kettle(heard(), seed=seed).until(at(60)) for seed in (1, 1, 2, 3)]
    assert reads[0] == reads[1]
    assert len(set(reads[1:])) == 3


def test_time_may_run_faster():
    assert Kettle(heard(pace=10), 1).until(at(6)) == pytest.approx(Kettle(heard(), 1).until(at(60)), abs=0.01)


def test_before_the_cook_it_lies_on_the_bench_or_in_the_dairy():
    waiting = heard(cooks_since=None)
    assert Kettle(waiting, 1).until(at(500)) == 21
    warming = heard(("done", "weigh", 0), cooks_since=None)
    assert 21 < Kettle(warming, 1).until(at(60)) < Kettle(warming, 1).until(at(200)) < 95


def test_what_could_not_be_sent_is_sent_later(monkeypatch):
    sent: list[list[dict]] = []
    link = Link("http://nowhere", "token", random.Random(1), perfect=True)
    there: list[dict | None] = [None, None, {"new": 3}]

    def answer(method, path, body=None):
        if method == "GET":
            return {**TOLD, "cooks_since": datetime.now(UTC).isoformat()}
        found = there.pop(0)
        if found is not None:
            sent.append(body["readings"])
        return found

    monkeypatch.setattr(link, "_call", answer)
    probe = StandIn(link, 1)
    for _ in range(3):
        probe.tick()
    assert [len(readings) for readings in sent] == [3]
    assert link.kept == []
    assert [r["at"] for r in sent[0]] == sorted(r["at"] for r in sent[0])


def test_a_network_that_goes_away_comes_back():
    link = Link("http://nowhere", "token", random.Random(5), perfect=False)
    link._call = lambda *_: {"new": 1}
    there = [link.send({"at": str(i)}, now=float(i)) for i in range(400)]
    assert 0.5 < sum(there) / 400 < 0.99
    assert len(link.kept) < 10
