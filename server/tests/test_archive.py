"""A kitchen carried away and brought in again is the same; what is no archive of one is refused whole."""

from __future__ import annotations

import hashlib
import io
import json
import random
import zipfile
from collections import Counter
from typing import Any

import pytest
from archive.reading import read
from archive.tables import TABLES, ArchiveError, Table
from archive.writing import write
from demo.seed import seed
from devices.models import Device
from django.core.management import CommandError, call_command
from kitchen.models import Kitchen, Membership
from people.models import User
from stove.models import Batch, Mark

from tests.conftest import Api, make_kitchen

SECRETS = {"password", "token_hash", "secret_sum", "digest", "pin"}
Rows = dict[str, list[dict[str, Any]]]


def exported(slug: str) -> bytes:
    out = io.BytesIO()
    write(slug, out)
    return out.getvalue()


def rows_of(data: bytes) -> Rows:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        names = [name for name in archive.namelist() if name.endswith(".ndjson")]
        return {
            name.removesuffix(".ndjson"): [json.loads(line) for line in archive.read(name).splitlines()]
            for name in names
        }


def relations(table: Table) -> dict[str, Any]:
    return {one.attname: one.related_model for one in table.fields if one.is_relation}


def without_ids(data: bytes) -> dict[str, Counter[str]]:
    """The rows of an archive with every id put as the row that it means: comparable wherever they stand."""
    rows = rows_of(data)
    people = {str(row["id"]): row["title"] for row in rows["people"]}
    means: dict[tuple[Any, str], str] = {}
    for table in TABLES:
        key, refers = table.model._meta.pk.attname, relations(table)
        for row in rows[table.name]:
            own = {name: value for name, value in row.items() if name not in {key, "cooling", *refers}}
            means[table.model, str(row.get(key))] = json.dumps(own, sort_keys=True)
    found = {}
    for table in TABLES:
        key, refers = table.model._meta.pk.attname, relations(table)

        def put(name: str, value: Any, refers: dict[str, Any] = refers) -> Any:
            if name not in refers or value is None:
                return value
            if refers[name] is User:
                return people[str(value)]
            return means.get((refers[name], str(value)), "the kitchen")

        lines = []
        for row in rows[table.name]:
            for way in (row.get("cooling") or {}).get("ways", ()):
                way["cooler_id"] = way.get("cooler_id") and "one of its coolers"
            line = {name: put(name, value) for name, value in row.items() if name != key or name in refers}
            lines.append(json.dumps(line, sort_keys=True))
        found[table.name] = Counter(lines)
    return found


@pytest.mark.django_db(transaction=True)
def test_what_is_brought_in_is_what_was_carried_away():
    seed()
    data = exported("tidemill-house")
    for name, rows in rows_of(data).items():
        assert not any(SECRETS & set(row) for row in rows), name
    before = Kitchen.objects.get().pk
    kitchen = read(io.BytesIO(data), "pastry")
    assert (kitchen.slug, kitchen.name, kitchen.demo) == ("tidemill-house-2", "Tidemill House", False)
    came, went = without_ids(exported(kitchen.slug)), without_ids(data)
    for name in went:
        assert came[name] - went[name] == Counter(), name
        assert went[name] - came[name] == Counter(), name
    # It is a kitchen of its own: nothing in it is the other's, and its people cannot log in.
    assert not Batch.objects.filter(kitchen=kitchen, version__formula__kitchen=before).exists()
    assert not Mark.objects.filter(batch__kitchen=kitchen, batch__hob__kitchen=before).exists()
    its = Membership.objects.filter(kitchen=kitchen)
    assert [one.user.username for one in its if one.user.has_usable_password()] == ["pastry"]
    assert Device.objects.filter(kitchen=kitchen).exists()
    api = Api()
    assert api.log_in("pastry", "nappe-at-82").status_code == 200
    log = api("GET", f"/api/k/{kitchen.slug}/log").json()["lines"]
    assert [line["number"] for line in log] == list(range(18, 0, -1))
    live = api("GET", f"/api/k/{kitchen.slug}/batches/{log[0]['id']}/live").json()
    assert len(live["past"]["c"]) > 20
    one, other = (api("GET", f"/api/k/{slug}/shelf").json() for slug in ("tidemill-house", kitchen.slug))
    assert one["totals"] == other["totals"]
    call_command("verify", stdout=io.StringIO())
    _refused(data)


def _refused(data: bytes) -> None:
    """What is damaged, newer or foreign is refused with a sentence, and nothing of it stays."""
    kitchens, people = Kitchen.objects.count(), User.objects.count()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest = json.loads(archive.read("manifest.json"))
        marks, batches = archive.read("marks.ndjson"), archive.read("batches.ndjson")
    newer, foreign = ({**manifest, "version": 2}, {**manifest, "format": "another"})
    for source, words in (
        (b"no zip at all", "no archive"),
        (data[: len(data) // 2], "damaged"),
        (altered(data, {"marks.ndjson": marks + b"{}\n"}), "marks.ndjson is not what its manifest says"),
        (altered(data, {"marks.ndjson": marks.replace(b"spoon", b"spoom", 1)}), "marks.ndjson is not what"),
        (altered(data, {"batches.ndjson": None}), "lacks a part"),
        (altered(data, {"../../etc/passwd": b""}), "one that is none of it"),
        (altered(data, {"manifest.json": json.dumps(newer).encode()}), "version 2"),
        (altered(data, {"manifest.json": json.dumps(foreign).encode()}), "no archive of a kitchen"),
        (altered(data, {"manifest.json": b"[1"}), "manifest cannot be read"),
        (summed(data, manifest, "batches.ndjson", b""), "do not fit together"),
        (
            summed(data, manifest, "batches.ndjson", batches.replace(b'"number"', b'"numbers"')),
            "none of its table",
        ),
        (summed(data, manifest, "hobs.ndjson", b"[1\n"), "no JSON"),
    ):
        with pytest.raises(ArchiveError, match=words):
            read(io.BytesIO(source), "pastry")
    rows = rows_of(data)
    for name, change in (
        ("people", {"role": "king"}),
        ("batches", {"cooling": [1]}),
        ("batches", {"started_at": 7}),
    ):
        lines = [json.dumps({**row, **change}) for row in rows[name]]
        text = "".join(f"{line}\n" for line in lines).encode()
        with pytest.raises(ArchiveError):
            read(io.BytesIO(summed(data, manifest, f"{name}.ndjson", text)), "pastry")
    dice = random.Random(3)
    for _ in range(40):
        bent = bytearray(data)
        for _ in range(3):
            bent[dice.randrange(len(bent))] ^= 1 << dice.randrange(8)
        with pytest.raises(ArchiveError):
            read(io.BytesIO(bytes(bent)), "pastry")
    with pytest.raises(ArchiveError, match="nobody called"):
        read(io.BytesIO(data), "no-such-person")
    assert (Kitchen.objects.count(), User.objects.count()) == (kitchens, people)


def altered(data: bytes, changes: dict[str, bytes | None]) -> bytes:
    """An archive with some of its parts changed, added, or left out where they are None."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        parts = {name: old.read(name) for name in old.namelist()} | changes
        for name, text in parts.items():
            if text is not None:
                new.writestr(name, text)
    return out.getvalue()


def summed(data: bytes, manifest: dict[str, Any], name: str, text: bytes) -> bytes:
    """An archive that was altered by somebody who knows how it is made."""
    part = {"rows": text.count(b"\n"), "sha256": hashlib.sha256(text).hexdigest()}
    told = {**manifest, "members": {**manifest["members"], name.removesuffix(".ndjson"): part}}
    return altered(data, {name: text, "manifest.json": json.dumps(told).encode()})


@pytest.mark.django_db(transaction=True)
def test_a_kitchen_without_anything_and_one_that_is_not_there():
    make_kitchen("here", "The kitchen here")
    kitchen = read(io.BytesIO(exported("here")), "here-chef", "elsewhere")
    assert kitchen.slug == "elsewhere"
    with pytest.raises(ArchiveError, match="no kitchen"):
        exported("nowhere")
    with pytest.raises(CommandError, match="no kitchen"):
        call_command("export_kitchen", "nowhere")
