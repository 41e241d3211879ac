"""The triggers of a recorded table. Its content functions, one a shape, stand in its app's migrations."""

from __future__ import annotations

import pgtrigger
from django.db import connection

THINNING = (
    "current_setting('oldspoon.thinning', true) IS DISTINCT FROM 'on' "
    "OR NOT pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER')"
)
"""Whether this is not the owner's own thinning of old readings, which leaves an entry of what it took."""


_IGNORES = """
CREATE OR REPLACE FUNCTION public._pgtrigger_should_ignore(trigger_name name) RETURNS boolean
LANGUAGE sql STABLE AS $$
    SELECT CASE WHEN coalesce(current_setting('pgtrigger.ignore', true), '') = '' THEN false
    ELSE trigger_name = ANY (current_setting('pgtrigger.ignore')::text[])
        AND pg_has_role(
            current_user, (SELECT relowner FROM pg_class WHERE oid = 'records_chain'::regclass), 'MEMBER')
    END
$$
"""
_IS_OURS = """
SELECT EXISTS (SELECT FROM pg_proc JOIN pg_language ON pg_language.oid = prolang
               WHERE proname = '_pgtrigger_should_ignore' AND lanname = 'sql')
"""


def ask_quickly() -> None:
    """Have every trigger ask quickly whether it is to be ignored; for the owner, after migrations.

    The library's function opens a transaction of its own within the transaction to find that out, which takes
    longer than most triggers, and heeds whoever asks. Ours heeds the tables' owner.
    """
    with connection.cursor() as cursor:
        cursor.execute(_IS_OURS)
        (ours,) = cursor.fetchone() or (False,)
        if not ours:
            cursor.execute(_IGNORES)


def append_only() -> pgtrigger.Trigger:
    """Rows are added; whoever asks, none is changed or deleted."""
    return pgtrigger.Protect(name="append_only", operation=pgtrigger.Update | pgtrigger.Delete)


def append_only_but_thinned() -> pgtrigger.Trigger:
    """The same, where a function of the owner's may take rows away that it gives account of."""
    return pgtrigger.Trigger(
        name="append_only",
        operation=pgtrigger.Update | pgtrigger.Delete,
        when=pgtrigger.Before,
        func=f"IF TG_OP = 'UPDATE' OR {THINNING} THEN "
        "RAISE EXCEPTION 'rows of % are kept as they are', TG_TABLE_NAME; END IF; RETURN OLD;",
    )


def chained(kind: str, kitchen: str, shape: int = 1) -> pgtrigger.Trigger:
    """Every new row becomes an entry of its kitchen's chain, in the order of writing.

    The entry is made as the transaction ends, so that a chain is held by nobody who still waits for
    something else. `kitchen` is what gives the kitchen's id, in SQL, of the row NEW.
    """
    return pgtrigger.Trigger(
        name="chained",
        operation=pgtrigger.Insert,
        when=pgtrigger.After,
        timing=pgtrigger.Deferred,
        func=f"PERFORM records_add('kitchen ' || ({kitchen}), '{kind}', {shape}, NEW.id::text, "
        f"record_of_{kind}_{shape}(NEW)); RETURN NULL;",
    )


def chained_state(kind: str, chain: str, shape: int = 1) -> pgtrigger.Trigger:
    """Every new row, and every change to what its content function reads, becomes an entry of a chain.

    For rows that change with time, as the verdict of a batch does: each state has an entry, the newest is the
    one that the row must still show. `chain` is what gives the name of the chain, in SQL, of the row NEW.
    """
    content = f"record_of_{kind}_{shape}"
    return pgtrigger.Trigger(
        name="chained",
        operation=pgtrigger.Insert | pgtrigger.Update,
        when=pgtrigger.After,
        timing=pgtrigger.Deferred,
        func=f"IF TG_OP = 'INSERT' OR {content}(OLD) IS DISTINCT FROM {content}(NEW) THEN "
        f"PERFORM records_add({chain}, '{kind}', {shape}, NEW.id::text, {content}(NEW)); END IF; "
        "RETURN NULL;",
    )


class Frozen(pgtrigger.ReadOnly):
    """These fields, and the row's id, are written once, with the row; whoever asks, they are not changed.

    The role that serves has not got the right to change them either (`oldspoon.roles`).
    """

    def __init__(self, *written_once: str) -> None:
        self.written_once = ("id", *written_once)
        super().__init__(name="frozen", fields=list(self.written_once))


def chained_by_device(kind: str, shape: int = 1) -> pgtrigger.Trigger:
    """The new rows of one statement become one entry of their device's chain.

    This is also where the device is looked for, and held until the transaction ends: once a statement. A
    foreign key would look for it once a row, which costs as much as writing the row.
    """
    return pgtrigger.Trigger(
        name="chained",
        level=pgtrigger.Statement,
        operation=pgtrigger.Insert,
        when=pgtrigger.After,
        referencing=pgtrigger.Referencing(new="fresh"),  # type: ignore[no-untyped-call]
        declare=[("one", "record")],
        func="FOR one IN SELECT device_id, string_agg(id::text, ',' ORDER BY id) AS keys, "  # noqa: S608
        f"string_agg(record_of_{kind}_{shape}(device_id, at, celsius), E'\\n' ORDER BY id) AS content "
        "FROM fresh GROUP BY device_id ORDER BY device_id LOOP "
        "PERFORM FROM devices_device WHERE id = one.device_id FOR KEY SHARE; "
        "IF NOT FOUND THEN RAISE foreign_key_violation "
        "USING MESSAGE = format('there is no device %s', one.device_id); END IF; "
        f"PERFORM records_add('device ' || one.device_id, '{kind}', {shape}, one.keys, one.content); "
        "END LOOP; RETURN NULL;",
    )


def kept_for(table: str, column: str) -> pgtrigger.Trigger:
    """A row that rows of `table` belong to, by their `column`, is not deleted.

    It is the other half of a foreign key whose first half `chained_by_device` is.
    """
    return pgtrigger.Trigger(
        name="kept",
        operation=pgtrigger.Delete,
        when=pgtrigger.After,
        func=f"IF EXISTS (SELECT FROM {table} WHERE {column} = OLD.id) THEN RAISE foreign_key_violation "
        f"USING MESSAGE = format('%s has rows in {table}', OLD.id); END IF; RETURN NULL;",
    )
