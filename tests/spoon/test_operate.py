"""The handbook for whoever runs it says what is: every setting, and files that call what there is."""

from __future__ import annotations

import configparser
import re
import shlex
import subprocess

import pytest
from kitchenhand.places import ROOT

OPERATE = ROOT / "docs" / "operate"
NAMED = re.compile(r"OLDSPOON_[A-Z_]+")


def test_every_setting_stands_in_the_table_and_no_other():
    read = set()
    for path in (ROOT / "server").rglob("*.py"):
        if "tests" not in path.parts and "speed" not in path.parts:
            text = path.read_text()
            read |= set(re.findall(r'environ(?:\.get\(|\[)"(OLDSPOON_[A-Z_]+)"', text))
            read |= set(re.findall(r'_number\("(OLDSPOON_[A-Z_]+)"', text))
            secrets = re.findall(r'_secret\("(OLDSPOON_[A-Z_]+)"', text)
            read |= {*secrets, *(f"{name}_FILE" for name in secrets)}
    rows = [line for line in (OPERATE / "README.md").read_text().splitlines() if line.startswith("| `OLD")]
    assert {name for row in rows for name in NAMED.findall(row.split("|")[1])} == read


@pytest.mark.parametrize("name", ["web", "worker"])
def test_a_unit_calls_a_command_that_there_is(name):
    unit = configparser.ConfigParser(strict=False, interpolation=None)
    unit.optionxform = str
    unit.read(OPERATE / f"old-spoon-{name}.service")
    service = unit["Service"]
    home = service["WorkingDirectory"]
    program, *words = shlex.split(service["ExecStart"])
    assert program == f"{home}/spoon"
    _is_a_command([*words, "--help"])
    assert words[0] == name
    assert service["User"] != "root"


def test_the_image_calls_commands_that_there_are():
    text = (OPERATE / "Containerfile").read_text()
    for words in re.findall(r"^(?:RUN \./spoon|#   run .* old-spoon) (.*)$", text, re.MULTILINE):
        _is_a_command([*shlex.split(words), "--help"])
    assert "USER oldspoon" in text


def _is_a_command(words: list[str]) -> None:
    done = subprocess.run([ROOT / "spoon", *words], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
