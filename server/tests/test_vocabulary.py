"""A word that stands in a table of core is written there and nowhere else."""

import csv
import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import custard
import pytest

CUSTARD = Path(custard.__file__).parent
WEB = Path(__file__).parents[2] / "web/src"
FAMILY = "made-up,made-up sauce,coats,direct,stream,no,2.2,3,45,0,,4,0,kitchen practice as remembered,L"
RULE = "made-up-land,Made-up Land,60,10,2,4,24,start,{60 C} to {10 C} within 2 h,A made-up code.,made up,L"
SIGN = """
[made-up-sign]
name = "made-up sign"
where = "stirred"
[made-up-sign.asks.over_stop_k]
ask = "How hot did it get?"
answers = [["well under {stop}", -6.0], ["{stop} or more", 0.5]]
[made-up-sign.causes.early]
say = "It was stopped too early."
next = "Lift it at {lift}."
usual = 1
tells = { thickened = [0.6, -0.06] }
"""
SHOWS = """
import json, os, django
os.environ["DJANGO_SETTINGS_MODULE"] = "oldspoon.settings"
django.setup()
from kitchen.routes import read_larder
from oldspoon.api import api
import custard
print(json.dumps({
    "contract": api.get_openapi_schema(),
    "larder": read_larder(None).model_dump(mode="json"),
    "seen": [fault.name for fault in custard.trouble.faults().values()],
}, default=str))
"""
DEFAULTS = {("anglaise", "draft.ts")}
"""What an empty formula begins as."""


@pytest.fixture(scope="module")
def shown(tmp_path_factory):
    """What the server says when three rows more stand in core's tables."""
    home = tmp_path_factory.mktemp("core")
    shutil.copytree(CUSTARD, home / "custard", ignore=shutil.ignore_patterns("__pycache__"))
    data = home / "custard/larder/data"
    for table, row in (("families.csv", FAMILY), ("cooling_rules.csv", RULE), ("trouble.toml", SIGN)):
        with (data / table).open("a", encoding="utf-8") as file:
            file.write(f"{row}\n")
    # Its tables differ, so that it would delete the compiled kernel of everybody else.
    environment = {**os.environ, "PYTHONPATH": str(home), "NUMBA_CACHE_DIR": str(home / "kernel")}
    done = subprocess.run(
        [sys.executable, "-c", SHOWS],
        cwd=WEB.parents[1] / "server",
        env=environment,
        capture_output=True,
        check=True,
    )
    return json.loads(done.stdout)


def test_a_row_more_is_a_word_more_in_the_contract(shown):
    schemas = shown["contract"]["components"]["schemas"]
    assert "made-up" in schemas["Draft"]["properties"]["family"]["enum"]
    assert "made-up-land" in schemas["KitchenOut"]["properties"]["cooling_rule"]["enum"]


def test_and_its_name_is_what_the_screens_list(shown):
    larder = shown["larder"]
    assert {"family": "made-up", "name": "made-up sauce", "baked": False} in larder["families"]
    assert "Made-up Land" in [rule["name"] for rule in larder["cooling_rules"]]
    assert "made-up sign" in shown["seen"]


@pytest.mark.parametrize(("table", "column"), [("families", "family"), ("cooling_rules", "rule")])
def test_no_screen_lists_them_itself(table, column):
    with (CUSTARD / f"larder/data/{table}.csv").open(encoding="utf-8") as file:
        words = [row[column] for row in csv.DictReader(file)]
    sources = [path for path in WEB.rglob("*.ts*") if path.parent.name != "contract"]
    for path in sources:
        text = path.read_text(encoding="utf-8")
        found = {word for word in words if len(word) > 2 and re.search(f'"{re.escape(word)}"', text)}
        assert {(word, path.name) for word in found} <= DEFAULTS, path
