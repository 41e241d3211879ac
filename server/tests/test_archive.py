"""A kitchen carried away and brought in again is the same; what is no archive of one is refused whole."""

from __future__ import annotations

import asyncio
import base64
import hashlib
import io
import json
import random
import zipfile
from collections import Counter
from collections.abc import AsyncIterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import jsonschema_rs
import pytest
from archive import runs
from archive.models import ArchiveRun
from archive.reading import read
from archive.tables import TABLES, ArchiveError, Table
from archive.writing import write
from common import clock
from common.refusals import Refusal
from day.models import Day, Plan
from demo.seed import seed
from devices.models import Device
from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import OperationalError, connection
from kitchen import beginning
from kitchen.access import as_member
from kitchen.models import AuditEntry, Kitchen, Membership
from people.models import User
from photos import actions as photos
from photos.models import Photo
from photos.schemas import NewPhoto
from stove.models import Batch, Mark, ParameterSet

from tests.conftest import Api, make_kitchen
from tests.pictures import photo

DOCS = Path(__file__).parents[2] / "docs"
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
            if table.name in ("plans", "pins", "steps-done"):
                # Every id in a plan as the row that it means.
                table.inside(row, lambda model, old: means.get((model, str(old)), "gone"))
            line = {name: put(name, value) for name, value in row.items() if name != key or name in refers}
            lines.append(json.dumps(line, sort_keys=True))
        found[table.name] = Counter(lines)
    return found


@pytest.mark.django_db(transaction=True)
def test_what_is_brought_in_is_what_was_carried_away():
    seed()
    actor = as_member(User.objects.get(username="pastry"), Kitchen.objects.get())
    photos.add(actor, Batch.objects.earliest("pk").pk, NewPhoto(**photo()))
    data = exported("tidemill-house")
    _as_its_schemas_say(data)
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
    assert [p.path.read_bytes() for p in Photo.objects.filter(kitchen=kitchen)] == [
        p.path.read_bytes() for p in Photo.objects.filter(kitchen=before)
    ]
    when = Day.objects.filter(kitchen=kitchen, plan__isnull=False).latest("date").date
    days = [api("GET", f"/api/k/{slug}/days/{when}").json() for slug in ("tidemill-house", kitchen.slug)]
    steps = [[(one["say"], one["start"]) for one in day["steps"]] for day in days]
    assert steps[0] == steps[1]
    assert len(steps[0]) > 20
    call_command("verify", stdout=io.StringIO())
    _refused(data)
    _of_the_first_version(data)
    _with_other_parameters(data)


def _as_its_schemas_say(data: bytes) -> None:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        known = json.loads(archive.read("schemas.json"))
    assert known == json.loads((DOCS / "formats" / "kitchen-2.schema.json").read_text())
    for name, rows in rows_of(data).items():
        checked = jsonschema_rs.validator_for(known[name])
        for row in rows:
            assert checked.is_valid(row), (name, row)
        assert not checked.is_valid({"id": 1}), name


def _of_the_first_version(data: bytes) -> None:
    """It is read for good."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest, [row] = json.loads(archive.read("manifest.json")), rows_of(data)["kitchen"]
    later = {table.name for table in TABLES if table.since > 1}
    del row["photos_mb"]
    text = json.dumps(row).encode() + b"\n"
    manifest["version"] = 1
    manifest["members"] = {name: one for name, one in manifest["members"].items() if name not in later}
    old = altered(summed(data, manifest, "kitchen.ndjson", text), {f"{one}.ndjson": None for one in later})
    names = [name for name in zipfile.ZipFile(io.BytesIO(data)).namelist() if name.startswith("photos/")]
    gone = {**dict.fromkeys(names), "schemas.json": None}
    kitchen = read(io.BytesIO(altered(old, gone)), "pastry")
    assert (kitchen.photos_mb, Batch.objects.filter(kitchen=kitchen).count()) == (500, 18)
    assert Day.objects.filter(kitchen=kitchen).exists()
    assert not Plan.objects.filter(day__kitchen=kitchen).exists(), "it is planned when somebody opens it"


def _refused(data: bytes) -> None:
    """What is damaged, newer or foreign is refused with a sentence, and nothing of it stays."""
    kitchens, people = Kitchen.objects.count(), User.objects.count()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest = json.loads(archive.read("manifest.json"))
        marks, batches = archive.read("marks.ndjson"), archive.read("batches.ndjson")
        [picture] = [name for name in archive.namelist() if name.startswith("photos/")]
    newer, foreign = ({**manifest, "version": 3}, {**manifest, "format": "another"})
    for source, words in (
        (b"no zip at all", "no archive"),
        (data[: len(data) // 2], "damaged"),
        (altered(data, {"marks.ndjson": marks + b"{}\n"}), "marks.ndjson is not what its manifest says"),
        (altered(data, {"marks.ndjson": marks.replace(b"spoon", b"spoom", 1)}), "marks.ndjson is not what"),
        (altered(data, {"batches.ndjson": None}), "lacks a part"),
        (altered(data, {"../../etc/passwd": b""}), "one that is none of it"),
        (altered(data, {"manifest.json": json.dumps(newer).encode()}), "version 3"),
        (altered(data, {"manifest.json": json.dumps(foreign).encode()}), "no archive of a kitchen"),
        (altered(data, {"manifest.json": b"[1"}), "manifest cannot be read"),
        (summed(data, manifest, "batches.ndjson", b""), "do not fit together"),
        (
            summed(data, manifest, "batches.ndjson", batches.replace(b'"number"', b'"numbers"')),
            "none of its table",
        ),
        (summed(data, manifest, "hobs.ndjson", b"[1\n"), "no JSON"),
        (altered(data, {picture: b"another"}), "not the photograph that was kept"),
        (altered(data, {picture: None}), "lacks a part"),
        (altered(data, {"photos/another.jpg": b""}), "one that is none of it"),
    ):
        with pytest.raises(ArchiveError, match=words):
            read(io.BytesIO(source), "pastry")
    rows = rows_of(data)
    for name, change in (
        ("people", {"role": "king"}),
        ("batches", {"cooling": [1]}),
        ("batches", {"started_at": 7}),
        ("batches", {"plan": {"version": 99}}),
        ("batches", {"equipment": {}}),
        ("batches", {"family": "x" * 500}),
        ("versions", {"content": {"name": "nothing"}}),
        ("marks", {"kind": "danced"}),
        ("tubs", {"what": "elephant"}),
        ("kitchen", {"zone": "Nowhere/Land"}),
        ("kitchen", {"cooling_rule": "never"}),
        ("kitchen", {"readings_days": 1}),
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


async def whole(parts: AsyncIterator[bytes]) -> bytes:
    return b"".join([part async for part in parts])


@pytest.mark.django_db(transaction=True)
def test_a_worker_makes_an_archive_and_brings_it_in_and_says_how_far_it_is():
    seed()
    chef = Api()
    chef.log_in("pastry", "nappe-at-82")
    made = chef("POST", "/api/k/tidemill-house/archives").json()
    assert made["done_at"] is None
    assert made["of_rows"] > 1000
    assert chef("POST", "/api/k/tidemill-house/archives").json()["id"] == made["id"], "it is the same one"
    path = f"/api/k/tidemill-house/archives/{made['id']}/file"
    assert chef("GET", path).status_code == 404, "it is not made yet"
    runs.carry(made["id"])
    [now] = chef("GET", "/api/k/tidemill-house/archives").json()
    assert (now["refused"], now["done_at"] is not None, now["rows"] > 0) == ("", True, True)
    data = asyncio.run(whole(chef("GET", path).streaming_content))
    assert len(data) == now["size"]
    sent = chef("POST", "/api/archives", {"size": len(data)}).json()
    parts = f"/api/archives/{sent['id']}/parts"
    for at in range(0, len(data), 600_000):
        part = {"at": at, "content": base64.b64encode(data[at : at + 600_000]).decode()}
        assert chef("PUT", parts, part).status_code == 200
        assert chef("PUT", parts, part).status_code == 200, "sent twice it counts once"
    assert chef("PUT", parts, {"at": len(data) + 1, "content": "AAAA"}).status_code == 409
    runs.carry(sent["id"])
    runs.carry(sent["id"])
    [now] = chef("GET", "/api/archives").json()
    assert (now["refused"], now["became"]) == ("", "tidemill-house-2")
    assert Kitchen.objects.count() == 2, "done twice it is done once"
    assert not ArchiveRun.objects.get(pk=sent["id"]).path.exists()
    assert chef("GET", "/api/k/tidemill-house-2/log").json()["lines"]
    assert runs.forget(clock.now()) == 0
    assert runs.forget(clock.now() + timedelta(days=3)) == 2
    assert list(Path(settings.ARCHIVES).iterdir()) == []


@pytest.mark.django_db(transaction=True)
def test_what_is_no_archive_is_refused_by_the_worker_with_a_sentence():
    make_kitchen("here", "The kitchen here")
    chef, other = Api(), Api()
    chef.log_in("here-chef")
    other.log_in("here-cook")
    sent = chef("POST", "/api/archives", {"size": 3}).json()
    parts = f"/api/archives/{sent['id']}/parts"
    assert other("PUT", parts, {"at": 0, "content": "AAAA"}).status_code == 404
    assert chef("PUT", parts, {"at": 0, "content": "not base64"}).status_code == 422
    chef("PUT", parts, {"at": 0, "content": "AAAA"})
    runs.carry(sent["id"])
    [now] = chef("GET", "/api/archives").json()
    assert (now["became"], now["refused"]) == (None, "This is no archive of a kitchen, or it is damaged.")
    for _ in range(3):
        assert chef("POST", "/api/archives", {"size": 3}).status_code == 201
    assert chef("POST", "/api/archives", {"size": 3}).status_code == 429


def _with_other_parameters(data: bytes) -> None:
    """A set of parameters belongs to every kitchen of a machine: no archive puts its own in its place."""
    manifest = json.loads(zipfile.ZipFile(io.BytesIO(data)).read("manifest.json"))
    rows = [{**row, "values": {**row["values"], "odd": 1}} for row in rows_of(data)["parameters"]]
    text = "".join(json.dumps(row) + "\n" for row in rows).encode()
    kitchen = read(io.BytesIO(summed(data, manifest, "parameters.ndjson", text)), "pastry")
    [theirs] = set(Batch.objects.filter(kitchen=kitchen).values_list("parameters", flat=True))
    [ours] = set(Batch.objects.filter(kitchen__demo=True).values_list("parameters", flat=True))
    assert theirs.startswith(f"{ours[:9]}~")
    assert "odd" not in ParameterSet.objects.get(pk=ours).values


@pytest.mark.django_db
def test_the_record_of_a_reading_has_the_text_that_it_always_had():
    """Entries of old databases are held against it: a byte more, and all of them would be called altered."""
    dice = random.Random(5)
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL timezone = 'Asia/Kolkata'")
        for _ in range(200):
            at = datetime.fromtimestamp(dice.randrange(2_000_000_000), UTC)
            at = at.replace(microsecond=dice.choice([0, 500_000, dice.randrange(1_000_000)]))
            celsius = dice.choice([0.0, 62.0, -1.5, round(dice.uniform(-30, 130), dice.randrange(12))])
            cursor.execute("SELECT record_of_reading_1(7, %s, %s)", [at, celsius])
            [new] = cursor.fetchone()
            old = "SELECT '7 ' || (%s::timestamptz AT TIME ZONE 'UTC')::text || '+00 ' || (%s::float8)::text"
            cursor.execute(old, [at, celsius])
            assert [new] == list(cursor.fetchone())


@pytest.mark.django_db(transaction=True)
def test_a_database_that_goes_away_says_nothing_against_the_archive(monkeypatch):
    """It is brought in when the database is back: calling it damaged would end it for good."""
    make_kitchen("here", "The kitchen here")
    data = exported("here")

    def gone(*_: object) -> None:
        raise OperationalError("server closed the connection unexpectedly")

    with monkeypatch.context() as away:
        away.setattr("archive.reading._must_be_readable", gone)
        away.setattr("archive.reading._Incoming._people", gone)
        with pytest.raises(OperationalError):
            read(io.BytesIO(data), "here-chef")
    assert Kitchen.objects.count() == 1
    assert read(io.BytesIO(data), "here-chef").slug == "here-2"


@pytest.mark.django_db(transaction=True)
def test_a_damaged_photograph_is_left_out_and_a_full_disk_is_said(monkeypatch):
    """One file that rotted must not make the whole archive one that nobody takes in."""
    seed()
    actor = as_member(User.objects.get(username="pastry"), Kitchen.objects.get())
    batch = Batch.objects.earliest("pk").pk
    rotten, whole = (photos.add(actor, batch, NewPhoto(**photo())) for _ in range(2))
    rotten.path.write_bytes(b"rotten")
    data = exported("tidemill-house")
    assert [row["id"] for row in rows_of(data)["photos"]] == [str(whole.pk)]

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as disk:
        disk.setattr("photos.files.write", full)
        with pytest.raises(ArchiveError, match="photographs cannot be written here: No space left"):
            read(io.BytesIO(data), "pastry")
    assert read(io.BytesIO(data), "pastry").slug == "tidemill-house-2"


@pytest.mark.django_db
def test_somebody_brings_in_so_many_kitchens_and_what_stopped_gives_way(here):
    user = here["cook"].user
    stopped = runs.expect(user, 10)
    ArchiveRun.objects.filter(pk=stopped.pk).update(moved_at=clock.now() - timedelta(hours=2))
    runs.take(here["cook"].user, stopped.pk, 0, "AAAA")
    assert ArchiveRun.objects.filter(pk=stopped.pk).exists(), "it moves again"
    ArchiveRun.objects.filter(pk=stopped.pk).update(moved_at=clock.now() - timedelta(hours=2))
    runs.expect(user, 10)
    assert not ArchiveRun.objects.filter(pk=stopped.pk).exists()
    assert not stopped.path.exists()
    for _ in range(beginning.MOST_KITCHENS):
        AuditEntry.objects.create(
            kitchen=here["cook"].kitchen, user=user, action=beginning.BROUGHT_IN, subject=""
        )
    with pytest.raises(Refusal, match="no more than 5 kitchens"):
        runs.expect(user, 10)


@pytest.mark.django_db
def test_one_that_nobody_works_on_any_more_is_not_waited_for(chef, here):
    made = runs.make(here["chef"])
    long_ago = clock.now() - timedelta(hours=3)
    ArchiveRun.objects.filter(pk=made.pk).update(begun_at=long_ago, made_at=long_ago)
    [now] = chef("GET", "/api/k/here/archives").json()
    assert now["done_at"] is not None
    assert "whoever worked on it is gone" in now["refused"]
    assert chef("POST", "/api/k/here/archives").json()["id"] != str(made.pk)
