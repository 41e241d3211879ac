"""Answers as tables, and the help of every command."""

from __future__ import annotations

import subprocess
import sys

import pytest
from custard.cli.main import main, parser
from custard.cli.show import table

COMMANDS = (
    "assess",
    "scale",
    "temper",
    "cook",
    "chill",
    "bake",
    "whisk",
    "solve",
    "rescue",
    "calibrate",
    "bench",
    "plan",
)


def test_nested_answers_become_aligned_lines():
    shown = table(
        {"mass_g": 12.5, "window": {"nappe_c": 80.1, "curdles_c": None}, "allergens": ["egg", "milk"]}
    )
    assert shown.splitlines() == [
        "mass_g            12.5",
        "window nappe_c    80.1",
        "window curdles_c  –",
        "allergens         egg, milk",
    ]


def test_a_curve_is_thinned_to_a_dozen_rows():
    curve = {"t_s": list(range(500)), "sauce_c": [20 + t / 10 for t in range(500)]}
    rows = table({"curve": curve}).splitlines()
    assert len(rows) == 13
    assert rows[0].split() == ["curve", "t_s", "sauce_c"]
    assert rows[-1].split() == ["499", "69.9"]


def test_a_list_of_things_has_a_line_each():
    shown = table({"pours": [{"g": 1, "c": 2}, {"g": 3, "c": 4}], "steps": []})
    assert "pours 1  g=1  c=2" in shown
    assert shown.endswith("none")


@pytest.mark.parametrize("command", COMMANDS)
def test_help_has_an_example_that_can_be_parsed(capsys, command):
    with pytest.raises(SystemExit) as left:
        main([command, "--help"])
    assert left.value.code == 0
    text = " ".join(capsys.readouterr().out.split())
    example = text.rpartition("example: custard ")[2].replace("'", "")
    words = example.replace("heavy coat", "heavy_coat").split()
    options = parser().parse_args([word.replace("_", " ") for word in words])
    assert options.command == command


def test_python_m_custard_is_the_command():
    done = subprocess.run(
        [sys.executable, "-m", "custard", "assess", "/no/such/file"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 2
    assert done.stderr.startswith("FILE: ")
