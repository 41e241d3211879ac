"""The API's contract file is what the code says, and migrations are what the models say."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from django.core.management import call_command
from ninja.openapi.schema import OpenAPISchema
from oldspoon.api import api

CONTRACT = Path(__file__).parents[1] / "openapi.json"


def test_the_contract_is_in_step():
    now = json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/")))
    assert json.loads(CONTRACT.read_text()) == now, "run ./spoon contract and review the difference"


def test_no_two_schemas_share_a_name(monkeypatch):
    """Of two with one name the contract would tell only the later, and the page would be typed by it."""
    told: dict[str, dict] = {}
    add = OpenAPISchema.add_schema_definitions

    def adding(self, definitions):
        for name, definition in definitions.items():
            assert told.setdefault(name, definition) == definition, f"two schemas are called {name}"
        add(self, definitions)

    monkeypatch.setattr(OpenAPISchema, "add_schema_definitions", adding)
    api.get_openapi_schema(path_prefix="/api/")
    assert "AttemptOut" in told, "nothing was looked at"


@pytest.mark.django_db
def test_no_migration_is_missing():
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
