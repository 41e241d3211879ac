"""Readings lie in a table for each month, and old months can be taken out into files."""

from __future__ import annotations

import csv
import gzip
from datetime import UTC, datetime, timedelta
from io import StringIO

import pytest
from common import clock
from devices import actions as devices
from devices.models import Reading
from devices.reads import months
from devices.schemas import NewReading
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from oldspoon.tasks import tidy_up
from oldspoon.verifying import verify
from stove import actions as stove
from stove import setting_up
from stove.schemas import EquipmentWanted

from tests.conftest import ANGLAISE, close, formula_of, past_the_triggers, settle

LONG_AGO = datetime(2026, 3, 30, 22, 0, tzinfo=UTC)


@pytest.fixture
def probe(here):
    return devices.register(here["chef"], "silver probe", devices.new_token(), "probe")


def tables() -> dict[str, int]:
    """The tables of the months, with how many readings each holds."""
    with connection.cursor() as cursor:
        found = {}
        for name in months():
            cursor.execute(f"SELECT count(*) FROM {name}")  # noqa: S608
            found[name.removeprefix("devices_reading_")] = cursor.fetchone()[0]
    return found


def make_months(since, until):
    with connection.cursor() as cursor:
        cursor.execute("SELECT devices_make_months(%s, %s)", [since, until])
        return cursor.fetchone()[0]


@pytest.fixture
def old(here, probe, version):
    """A batch over the end of a month, half of its readings sent in one go across midnight."""
    make_months(LONG_AGO, LONG_AGO)
    make_months(LONG_AGO + timedelta(days=20), LONG_AGO + timedelta(days=20))
    with clock.at(LONG_AGO):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
        setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    midnight = datetime(2026, 4, 1, tzinfo=UTC)
    with clock.at(midnight + timedelta(hours=1)):
        for minutes in range(-60, -50):
            one = NewReading(at=midnight + timedelta(minutes=minutes), celsius=60 + minutes / 10)
            devices.take_readings(probe, [one])
        both = [NewReading(at=midnight + timedelta(seconds=s), celsius=70 + s / 10) for s in range(-20, 20)]
        devices.take_readings(probe, both)
        close(here["cook"], batch)
    settle()
    return batch


def test_the_months_to_come_are_made_and_made_once(here):
    month, name = clock.now(), f"{clock.now():%Y_%m}"
    assert name in tables()
    assert make_months(month, month) == 0
    later = month + timedelta(days=200)
    assert make_months(later, later) == 1
    assert tables()[f"{later:%Y_%m}"] == 0
    tidy_up()


def test_a_reading_lies_in_its_month_and_one_of_a_month_without_a_table_among_the_others(old, probe):
    found = tables()
    assert (found["2026_03"], found["2026_04"], found["other"]) == (30, 20, 0)
    devices.take_readings(probe, [NewReading(at=datetime(2025, 1, 1, tzinfo=UTC), celsius=4)])
    assert tables()["other"] == 1
    assert make_months(datetime(2025, 1, 1, tzinfo=UTC), datetime(2025, 1, 31, tzinfo=UTC)) == 0
    # Sent again it counts once, wherever it lies.
    assert devices.take_readings(probe, [NewReading(at=datetime(2025, 1, 1, tzinfo=UTC), celsius=4)]) == 0


def test_a_month_is_taken_out_into_a_file_and_the_record_stays_whole(old, tmp_path):
    expected = {
        (str(one.pk), one.celsius) for one in Reading.objects.filter(at__lt=datetime(2026, 4, 1, tzinfo=UTC))
    }
    out = StringIO()
    call_command("archive_readings", before="2026-04", to=tmp_path, stdout=out)
    assert "2026-03: 30 readings" in out.getvalue()
    assert "2026_03" not in tables()
    assert Reading.objects.count() == 20
    assert "Nothing older is left." in out.getvalue()
    with gzip.open(tmp_path / "readings-2026-03.csv.gz", "rt") as file:
        rows = list(csv.DictReader(file))
    assert {(row["id"], float(row["celsius"])) for row in rows} == expected
    settle()
    assert verify().wrong == ()
    past_the_triggers(
        "UPDATE devices_reading SET celsius = 7 WHERE id = (SELECT min(id) FROM devices_reading)"
    )
    assert verify().wrong, "what is left of a statement that lost a part is still proven"


@pytest.mark.parametrize(
    ("before", "said"),
    [("2999-01", "months that are over"), ("spring", "is no month"), ("2026-13", "is no month")],
)
def test_what_cannot_be_archived_is_said(old, tmp_path, before, said):
    with pytest.raises(CommandError, match=said):
        call_command("archive_readings", before=before, to=tmp_path)
    assert Reading.objects.count() == 50


def test_a_month_of_an_open_batch_stays(here, old, tmp_path):
    stove.reopen(here["cook"], old.pk)
    with pytest.raises(CommandError, match="still open"), transaction.atomic():
        call_command("archive_readings", before="2026-04", to=tmp_path)
    assert tables()["2026_03"] == 30


def test_a_file_that_cannot_be_written_leaves_the_month(old, tmp_path):
    (tmp_path / "readings-2026-03.csv.part").mkdir()
    with pytest.raises(CommandError, match="cannot be written"), transaction.atomic():
        call_command("archive_readings", before="2026-04", to=tmp_path)
    assert tables()["2026_03"] == 30


def test_what_lies_in_no_month_of_its_own_stays_and_that_is_said(old, probe, tmp_path):
    devices.take_readings(probe, [NewReading(at=datetime(2025, 1, 1, tzinfo=UTC), celsius=4)])
    settle()
    out = StringIO()
    call_command("archive_readings", before="2026-04", to=tmp_path, stdout=out)
    assert "1 reading of before stays" in out.getvalue()
    assert tables()["other"] == 1
