"""Readings are added and never changed, each statement of them in its probe's chain."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations


READING = """
CREATE FUNCTION record_of_reading_1(device bigint, at timestamptz, celsius float8) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET datestyle = 'ISO' SET extra_float_digits = 1 AS $$
    SELECT device || ' ' || at::text || ' ' || celsius::text
$$;
"""
CHAIN = """
SELECT count(records_add('device ' || device_id, 'reading', 1, keys, content)) FROM (
    SELECT device_id, string_agg(id::text, ',' ORDER BY id) AS keys,
           string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content
    FROM devices_reading GROUP BY device_id, date_trunc('minute', at) ORDER BY device_id, min(id)) was
"""


class Migration(migrations.Migration):
    dependencies = [
        ("devices", "0004_device_clock_ahead_s_device_rotated_at_and_more"),
        ("records", "0001_initial"),
    ]

    operations = [
        migrations.RunSQL(READING, "DROP FUNCTION record_of_reading_1"),
        pgtrigger.migrations.AddTrigger(
            model_name="reading",
            trigger=pgtrigger.compiler.Trigger(
                name="append_only",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    func="IF TG_OP = 'UPDATE' OR current_setting('oldspoon.thinning', true) IS DISTINCT FROM 'on' OR NOT pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN RAISE EXCEPTION 'rows of % are kept as they are', TG_TABLE_NAME; END IF; RETURN OLD;",
                    hash="f73168035f00f2774a937719159e7a61867a9af9",
                    operation="UPDATE OR DELETE",
                    pgid="pgtrigger_append_only_e568f",
                    table="devices_reading",
                    when="BEFORE",
                ),
            ),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="reading",
            trigger=pgtrigger.compiler.Trigger(
                name="chained",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    declare="DECLARE one record;",
                    func="FOR one IN SELECT device_id, string_agg(id::text, ',' ORDER BY id) AS keys, string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content FROM fresh GROUP BY device_id ORDER BY device_id LOOP PERFORM records_add('device ' || one.device_id, 'reading', 1, one.keys, one.content); END LOOP; RETURN NULL;",
                    hash="7aea3855378f43de03afeaff84de3c29fd4a3d54",
                    level="STATEMENT",
                    operation="INSERT",
                    pgid="pgtrigger_chained_3f2f8",
                    referencing="REFERENCING NEW TABLE AS fresh ",
                    table="devices_reading",
                    when="AFTER",
                ),
            ),
        ),
        migrations.RunSQL(CHAIN, migrations.RunSQL.noop),
    ]
