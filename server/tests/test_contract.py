"""The API's contract file is what the code says, and migrations are what the models say."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from django.core.management import call_command
from oldspoon.api import api

CONTRACT = Path(__file__).parents[1] / "openapi.json"


def test_the_contract_is_in_step():
    now = json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/")))
    assert json.loads(CONTRACT.read_text()) == now, "run ./spoon contract and review the difference"


@pytest.mark.django_db
def test_no_migration_is_missing():
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
