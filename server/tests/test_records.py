"""Records are added and never changed, whoever asks; and what was altered all the same is found."""

from __future__ import annotations

import re
from datetime import timedelta
from io import StringIO

import psycopg
import pytest
from common import clock
from common.events import address
from devices import actions as devices
from devices.models import Reading
from devices.schemas import NewReading
from django.core.management import CommandError, call_command
from django.db import DatabaseError, IntegrityError, connection, transaction
from kitchen.models import AuditEntry, Kitchen
from oldspoon import roles
from oldspoon.verifying import verify
from people.models import User
from records.models import Entry
from shelf.models import DayClosing, Movement, Tub
from stove import actions as stove
from stove import marking, setting_up
from stove.models import Batch, Mark, ParameterSet, ProbeUse, Remedy, Withdrawal
from stove.schemas import EquipmentWanted, NewMark

from tests.conftest import ANGLAISE, close, formula_of, mark, past_the_triggers, settle


@pytest.fixture
def probe(here):
    return devices.register(here["chef"], "silver probe", devices.new_token(), "probe")


def read(probe, *celsius, ago_s=60):
    begins = clock.now() - timedelta(seconds=ago_s)
    one = [NewReading(at=begins + timedelta(seconds=i), celsius=c) for i, c in enumerate(celsius)]
    return devices.take_readings(probe, one)


@pytest.fixture
def kept(here, cook, batch, probe):
    """A batch with a mark, one taken back, and readings, closed and put away."""
    setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    for kind in ("done", "moment"):
        cook("POST", f"/api/k/here/batches/{batch.pk}/marks", mark(kind))
    first = batch.marks.first()
    cook("POST", f"/api/k/here/batches/{batch.pk}/marks/{first.pk}/withdraw")
    read(probe, 60, 61.5, 63)
    close(here["cook"], batch)
    settle()
    return batch


@pytest.mark.parametrize("model", [Mark, Reading, AuditEntry])
@pytest.mark.parametrize("change", ["update", "delete"])
def test_no_record_is_changed_or_deleted(kept, model, change):
    rows, column = model.objects.all(), "celsius" if model is Reading else "at"
    value = rows.values_list(column).first()[0]
    changed = {"delete": lambda: rows._raw_delete(rows.db), "update": lambda: rows.update(**{column: value})}
    with pytest.raises(DatabaseError, match=r"kept as they are|update or delete"), transaction.atomic():
        changed[change]()


def test_every_record_is_chained_and_all_is_well(kept):
    found = verify()
    assert found.wrong == ()
    kinds = set(Entry.objects.values_list("kind", flat=True))
    assert kinds >= {"mark", "withdrawal", "auditentry", "reading"}
    assert Entry.objects.filter(kind="reading").get().keys.count(",") == 2


@pytest.mark.parametrize(
    ("sql", "said"),
    [
        ("UPDATE stove_mark SET temperature_c = 71", "was altered"),
        ("UPDATE stove_mark SET by_id = NULL", "was altered"),
        ("DELETE FROM stove_withdrawal", "withdrawal .* is gone"),
        (
            "UPDATE devices_reading SET celsius = 75 WHERE celsius = 61.5",
            "Readings of device .* were altered",
        ),
        ("DELETE FROM devices_reading WHERE celsius = 61.5", "Readings of device .* are gone"),
        ("UPDATE kitchen_auditentry SET subject = 'nothing'", "was altered"),
        ("UPDATE stove_batch SET verdict = 'good', closed_at = now()", "batch .* was altered"),
        ("UPDATE stove_batch SET allergens = '[]'", "batch .* was altered"),
        ("UPDATE stove_batch SET number = 700", "batch .* was altered"),
        ("UPDATE stove_batch SET started_by_id = (SELECT min(id) FROM people_user)", "batch .* was altered"),
        ("UPDATE people_user SET title = 'somebody else'", "person .* was altered"),
        ("UPDATE kitchen_kitchen SET zone = 'Asia/Tokyo'", "kitchen .* was altered"),
        ("UPDATE shelf_tub SET use_by = use_by + interval '2 days'", "tub .* was altered"),
        ("UPDATE shelf_tub SET allergens = '[]'", "tub .* was altered"),
        ("UPDATE shelf_tub SET left_g = left_g + 5", "tub .* movements leave"),
        ("UPDATE stove_probeuse SET since = since - interval '1 h'", "probeuse .* was altered"),
        ("DELETE FROM records_entry WHERE kind = 'batch'", "batch .* is in no chain"),
        ("UPDATE records_entry SET digest = sha256('x') WHERE kind = 'mark'", "does not follow"),
        ("DELETE FROM records_entry WHERE kind = 'reading'", "is in no chain"),
        ("DELETE FROM records_entry WHERE kind = 'withdrawal'", "does not follow"),
        (
            "INSERT INTO devices_reading (device_id, at, celsius) "
            "SELECT device_id, at + interval '1 h', 80 FROM devices_reading LIMIT 1",
            "put in past the records",
        ),
    ],
)
def test_a_row_changed_by_hand_is_found(kept, sql, said):
    past_the_triggers(sql)
    out = StringIO()
    with pytest.raises(CommandError):
        call_command("verify", stdout=out)
    lines = [line for line in out.getvalue().splitlines() if line.startswith("✗")]
    assert any(re.search(said, line) for line in lines), lines


def test_a_reading_is_of_a_device_that_is_there_and_stays(kept, probe):
    """There is no foreign key: the triggers stand for it."""
    with pytest.raises(IntegrityError, match="no device"), transaction.atomic():
        Reading.objects.create(device_id=10**9, at=clock.now(), celsius=80)
    with (
        pytest.raises(IntegrityError, match="has rows in devices_reading"),
        transaction.atomic(),
        connection.cursor() as cursor,
    ):
        cursor.execute("DELETE FROM devices_device WHERE id = %s", [probe.pk])
    assert Reading.objects.filter(device=probe).exists()


def test_the_command_says_how_much_it_looked_at(kept):
    out = StringIO()
    call_command("verify", stdout=out)
    assert f"{Entry.objects.count()} records in 3 chains." in out.getvalue()
    assert "as it was written" in out.getvalue()


def test_thinning_old_readings_leaves_an_account(here, version, probe):
    then = clock.now() - timedelta(days=120)
    with clock.at(then):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
        setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    with clock.at(then + timedelta(minutes=10)):
        read(probe, *range(50, 70), ago_s=240)
        read(probe, 75, ago_s=60)
        close(here["cook"], batch)
    settle()
    with connection.cursor() as cursor:
        cursor.execute("SELECT stove_thin_readings()")
        (went,) = cursor.fetchone()
    assert went > 15
    assert Entry.objects.filter(kind="thinned").count() == 1
    settle()
    assert verify().wrong == ()
    past_the_triggers("DELETE FROM devices_reading WHERE celsius = 75")
    assert verify().wrong


def test_a_record_after_an_end_that_was_cut_off_does_not_hide_it(here, batch):
    marking.mark(here["cook"], batch.pk, NewMark.model_validate(mark()))
    settle()
    newest = Entry.objects.filter(kind="mark").latest("number")
    past_the_triggers("DELETE FROM records_entry WHERE id = %s", newest.pk)
    past_the_triggers("DELETE FROM stove_mark WHERE id = %s", newest.keys)
    marking.mark(here["cook"], batch.pk, NewMark.model_validate(mark(note="later")))
    settle()
    assert any("does not follow" in one for one in verify().wrong)


def test_many_records_at_once_are_one_chain_in_the_order_of_writing(here, batch):
    before = Entry.objects.count()
    for number in range(20):
        marking.mark(here["cook"], batch.pk, NewMark.model_validate(mark(note=str(number))))
    settle()
    found = verify()
    assert found.wrong == ()
    assert found.entries >= before + 20
    newest = Entry.objects.filter(chain=f"kitchen {here['cook'].kitchen.pk}").latest("number")
    assert found.heads[newest.chain] == bytes(newest.hash).hex()


@pytest.mark.django_db(transaction=True)
def test_only_the_owner_may_have_a_trigger_ignored(make_serving_role, here_for_good):
    ignored = "SET pgtrigger.ignore = '{" + ",".join(_triggers()) + "}'"
    asked = "SELECT _pgtrigger_should_ignore(%s::name)"
    with psycopg.connect(**{**address(), **make_serving_role}, autocommit=True) as served:
        served.execute(ignored)
        assert served.execute(asked, [_triggers()[0]]).fetchone() == (False,)
    with connection.cursor() as cursor:
        cursor.execute(ignored)
        cursor.execute(asked, [_triggers()[0]])
        assert cursor.fetchone() == (True,)
        cursor.execute("RESET pgtrigger.ignore")


def _triggers():
    with connection.cursor() as cursor:
        cursor.execute("SELECT tgname FROM pg_trigger WHERE tgname LIKE 'pgtrigger%' ORDER BY 1")
        return [name for (name,) in cursor.fetchall()]


@pytest.mark.django_db(transaction=True)
def test_the_role_that_serves_can_add_records_and_change_none(make_serving_role, here_for_good):
    batch = here_for_good
    reach = {**address(), **make_serving_role}
    with psycopg.connect(**reach, autocommit=True) as served:
        for sql in (
            "UPDATE stove_mark SET note = 'x'",
            "DELETE FROM stove_mark",
            "DELETE FROM devices_reading",
            "INSERT INTO devices_reading_other (id, device_id, at, celsius) SELECT -1, min(id), now(), 7 "
            "FROM devices_device",
            "UPDATE shelf_movement SET change_g = 0",
            "TRUNCATE shelf_movement",
            "UPDATE records_entry SET number = 7",
            "INSERT INTO records_chain VALUES ('x', 1, '')",
            "ALTER TABLE stove_mark DISABLE TRIGGER ALL",
            "SET session_replication_role = replica",
        ):
            with pytest.raises((psycopg.errors.InsufficientPrivilege, psycopg.errors.RaiseException)):
                served.execute(sql)
        served.execute("SELECT set_config('oldspoon.thinning', 'on', false)")
        with pytest.raises(psycopg.Error):
            served.execute("DELETE FROM devices_reading")
        # A month that is made later is read by a nightly backup.
        with connection.cursor() as owner:
            owner.execute("SELECT devices_make_months('2099-01-01', '2099-01-02')")
        assert served.execute("SELECT count(*) FROM devices_reading_2099_01").fetchone() == (0,)
        with connection.cursor() as owner:
            owner.execute("DROP TABLE devices_reading_2099_01")
        before = Entry.objects.filter(kind="mark").count()
        served.execute(
            "INSERT INTO stove_mark (id, batch_id, stage, kind, at, what, coat, finger_line, sieve, note) "
            "VALUES (gen_random_uuid(), %s, 'cook', 'moment', now(), '', '', '', '', '')",
            [batch.pk],
        )
    assert Entry.objects.filter(kind="mark").count() == before + 1
    assert verify().wrong == ()


RECORDED = (
    Kitchen, User, Batch, ProbeUse, Tub, Mark, Withdrawal, Remedy, Movement, DayClosing, AuditEntry, Reading,
    ParameterSet,
)  # fmt: skip
OTHER = {
    "text": "coalesce({0}, '') || 'x'", "character varying": "left('x' || coalesce({0}, ''), 4)",
    "boolean": "NOT {0}", "jsonb": "'[\"other\"]'", "uuid": "gen_random_uuid()", "date": "{0} + 1",
    "timestamp with time zone": "coalesce({0}, now()) + interval '1 day'",
    "double precision": "coalesce({0}, 0) + 1", "numeric": "coalesce({0}, 0) + 1",
    "smallint": "coalesce({0}, 0) + 1", "integer": "coalesce({0}, 0) + 1", "bigint": "coalesce({0}, 0) + 1",
}  # fmt: skip
"""Another value for a column of each type."""
NOT_OF_THE_RECORD = {
    *(f"kitchen_kitchen.{name}" for name in ("currency", "prices", "next_batch", "egg_source", "photos_mb")),
    *(
        f"people_user.{name}"
        for name in ("password", "last_login", "is_superuser", "first_name", "last_name")
    ),
    *(f"people_user.{name}" for name in ("email", "is_staff", "is_active", "date_joined", "habits", "pin")),
    "people_user.wrong_pins",
    *(f"stove_batch.{name}" for name in ("fitted_w", "fitted_pan_share", "taught_at", "took")),
    "shelf_tub.promised_g",
}
"""What no record is printed from."""


@pytest.mark.django_db(transaction=True)
def test_the_role_that_serves_alters_no_column_of_the_record_unseen(make_serving_role, here_for_good):
    """It is refused, or the new state has an entry of its own and `verify` stays well."""
    reach, unseen, entries = {**address(), **make_serving_role}, set(), Entry.objects.count()
    with psycopg.connect(**reach, autocommit=True) as served:
        for table, column, kind in _columns():
            other = OTHER[kind].format(f'"{column}"')
            try:
                served.execute(f'UPDATE {table} SET "{column}" = {other}')  # noqa: S608
            except psycopg.Error:
                continue
            if Entry.objects.count() == entries:
                unseen.add(f"{table}.{column}")
            entries = Entry.objects.count()
        for model in RECORDED:
            with pytest.raises(psycopg.Error):
                served.execute(f"DELETE FROM {model._meta.db_table}")  # noqa: S608
    assert unseen == NOT_OF_THE_RECORD
    assert verify().wrong == ()


def _columns():
    tables = [model._meta.db_table for model in RECORDED]
    assert all(model.objects.exists() for model in RECORDED if model not in (Withdrawal, Remedy, DayClosing))
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name, column_name, data_type FROM information_schema.columns "
            "WHERE table_name = ANY(%s) ORDER BY table_name, ordinal_position",
            [tables],
        )
        return cursor.fetchall()


@pytest.fixture
def here_for_good(transactional_db):
    from book import actions as book  # noqa: PLC0415

    from tests.conftest import make_kitchen  # noqa: PLC0415

    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    probe = devices.register(actors["chef"], "silver probe", devices.new_token(), "probe")
    setting_up.set_up(actors["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    marking.mark(actors["cook"], batch.pk, NewMark(**mark()))
    read(probe, 60)
    close(actors["cook"], batch)
    return batch


@pytest.fixture
def make_serving_role(transactional_db):
    """The role that serves, as the start command makes it; others test in the same cluster."""
    role = f"serving_{connection.settings_dict['NAME']}"
    with connection.cursor() as cursor:
        cursor.execute(f"DROP ROLE IF EXISTS {role}")
        cursor.execute(f"CREATE ROLE {role} LOGIN PASSWORD 'of-a-test'")
    roles.grant(role)
    yield {"user": role, "password": "of-a-test"}
    with connection.cursor() as cursor:
        cursor.execute(f"DROP OWNED BY {role}")
        cursor.execute(f"DROP ROLE {role}")
