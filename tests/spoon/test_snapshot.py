"""The clusters of the tests: in memory where there is plenty, and nothing of a killed run stays there."""

from __future__ import annotations

import os
import shutil

import pytest
from kitchenhand import snapshot


@pytest.fixture
def memory(tmp_path, monkeypatch):
    monkeypatch.setattr(snapshot, "MEMORY", tmp_path)
    monkeypatch.setattr(snapshot, "ROOM", 1)
    return tmp_path


def test_a_run_has_a_folder_of_its_own_and_takes_away_what_a_killed_one_left(memory):
    left, others = memory / f"{snapshot.PREFIX}{2**22 + 1}", memory / f"{snapshot.PREFIX}{os.getppid()}"
    left.mkdir(), others.mkdir()
    home = snapshot.in_memory()
    assert home == memory / f"{snapshot.PREFIX}{os.getpid()}"
    assert (left.exists(), others.exists()) == (False, True)
    (home / "snapshot-1").mkdir()
    snapshot.remove(home / "snapshot-1")
    assert not home.exists()


@pytest.mark.parametrize("lacks", ["room", "folder"])
def test_where_there_is_no_room_in_memory_they_are_with_the_others(memory, monkeypatch, lacks):
    if lacks == "room":
        monkeypatch.setattr(snapshot, "ROOM", shutil.disk_usage(memory).free + 10**12)
    else:
        monkeypatch.setattr(snapshot, "MEMORY", memory / "none")
    assert snapshot.in_memory() is None
