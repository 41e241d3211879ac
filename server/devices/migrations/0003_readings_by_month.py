"""Readings lie in a table for each month, so that old months can be taken out of the database whole.

PostgreSQL divides them itself; nothing that reads or writes `devices_reading` knows of it.
"""

import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations, models


DIVIDED = """
ALTER TABLE devices_reading RENAME TO devices_reading_before;
ALTER TABLE devices_reading_before RENAME CONSTRAINT reading_once TO reading_once_before;
ALTER TABLE devices_reading_before RENAME CONSTRAINT devices_reading_pkey TO devices_reading_before_pkey;
ALTER SEQUENCE devices_reading_id_seq RENAME TO devices_reading_before_id_seq;
CREATE SEQUENCE devices_reading_id_seq AS bigint;
CREATE TABLE devices_reading (
    id bigint NOT NULL DEFAULT nextval('devices_reading_id_seq'),
    at timestamptz NOT NULL,
    celsius double precision NOT NULL,
    device_id bigint NOT NULL,
    PRIMARY KEY (id, at),
    CONSTRAINT reading_once UNIQUE (device_id, at),
    CONSTRAINT devices_reading_device FOREIGN KEY (device_id) REFERENCES devices_device (id)
        DEFERRABLE INITIALLY DEFERRED
) PARTITION BY RANGE (at);
ALTER SEQUENCE devices_reading_id_seq OWNED BY devices_reading.id;
CREATE TABLE devices_reading_other PARTITION OF devices_reading DEFAULT;
"""
MONTHS = """
CREATE FUNCTION devices_make_months(since timestamptz, until timestamptz) RETURNS integer
LANGUAGE plpgsql SET timezone = 'UTC' AS $$
DECLARE
    month timestamptz := date_trunc('month', since);
    name text;
    made integer := 0;
BEGIN
    PERFORM pg_advisory_xact_lock(hashtext('oldspoon months'));
    WHILE month <= until LOOP
        name := 'devices_reading_' || to_char(month, 'YYYY_MM');
        -- A month of which readings lie among the others already stays there: they are not moved about.
        IF to_regclass(name) IS NULL AND NOT EXISTS (
            SELECT FROM devices_reading_other WHERE at >= month AND at < month + interval '1 month')
        THEN
            EXECUTE format('CREATE TABLE %I PARTITION OF devices_reading FOR VALUES FROM (%L) TO (%L)',
                           name, month, month + interval '1 month');
            made := made + 1;
        END IF;
        month := month + interval '1 month';
    END LOOP;
    RETURN made;
END
$$;
CREATE FUNCTION devices_make_months() RETURNS integer
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    SELECT devices_make_months(now(), now() + interval '3 months')
$$;
SELECT devices_make_months(min(at), max(at)) FROM devices_reading_before;
SELECT devices_make_months();
"""
MOVED = """
INSERT INTO devices_reading (id, at, celsius, device_id)
    SELECT id, at, celsius, device_id FROM devices_reading_before ORDER BY id;
SELECT setval('devices_reading_id_seq', coalesce((SELECT max(id) FROM devices_reading_before), 0) + 1, false);
DROP TABLE devices_reading_before;
SET CONSTRAINTS ALL IMMEDIATE;
SET CONSTRAINTS ALL DEFERRED;
"""
ACCOUNT = """
CREATE FUNCTION devices_account(device bigint, gone bigint[]) RETURNS void
LANGUAGE plpgsql SET search_path = public, pg_temp SET extra_float_digits = 1 AS $$
BEGIN
    PERFORM records_add('device ' || device, 'thinned', 1,
                        array_to_string(gone, ','), array_to_string(gone, ','));
    -- What is left of statements that lost a part is recorded anew: their own sum can no more be made.
    PERFORM records_add('device ' || device, 'reading', 1, keys, content) FROM (
        SELECT string_agg(id::text, ',' ORDER BY id) AS keys,
               string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content
        FROM devices_reading WHERE id IN (
            WITH keyed AS (
                SELECT entry.id AS entry, key::bigint AS id FROM records_entry entry
                CROSS JOIN LATERAL unnest(string_to_array(entry.keys, ',')) key
                WHERE entry.chain = 'device ' || device AND entry.kind = 'reading' AND entry.keys LIKE '%,%')
            SELECT id FROM keyed WHERE entry IN (
                SELECT entry FROM keyed WHERE id IN (SELECT unnest(gone))))) kept
    WHERE keys IS NOT NULL;
END
$$;
CREATE FUNCTION devices_take_month_out(month date) RETURNS bigint
LANGUAGE plpgsql SET timezone = 'UTC' AS $$
DECLARE
    name text := 'devices_reading_' || to_char(month, 'YYYY_MM');
    one record;
    went bigint := 0;
BEGIN
    EXECUTE format('ALTER TABLE devices_reading DETACH PARTITION %I', name);
    FOR one IN EXECUTE format(
        'SELECT device_id, count(*) AS many, array_agg(id ORDER BY id) AS ids FROM %I GROUP BY 1 ORDER BY 1', name)
    LOOP
        went := went + one.many;
        PERFORM devices_account(one.device_id, one.ids);
    END LOOP;
    EXECUTE format('DROP TABLE %I', name);
    RETURN went;
END
$$;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('devices', '0002_token_by'),
        ('records', '0001_squashed'),
    ]

    operations = [
        pgtrigger.migrations.RemoveTrigger(model_name='reading', name='append_only'),
        pgtrigger.migrations.RemoveTrigger(model_name='reading', name='chained'),
        migrations.RunSQL(DIVIDED, state_operations=[
            migrations.AlterField(
                model_name='reading',
                name='device',
                field=models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='devices.device'),
            ),
        ]),
        migrations.RunSQL(MONTHS),
        migrations.RunSQL(MOVED),
        pgtrigger.migrations.AddTrigger(
            model_name='reading',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="IF TG_OP = 'UPDATE' OR current_setting('oldspoon.thinning', true) IS DISTINCT FROM 'on' OR NOT pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN RAISE EXCEPTION 'rows of % are kept as they are', TG_TABLE_NAME; END IF; RETURN OLD;", hash='f73168035f00f2774a937719159e7a61867a9af9', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_e568f', table='devices_reading', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='reading',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(declare='DECLARE one record;', func="FOR one IN SELECT device_id, string_agg(id::text, ',' ORDER BY id) AS keys, string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content FROM fresh GROUP BY device_id ORDER BY device_id LOOP PERFORM records_add('device ' || one.device_id, 'reading', 1, one.keys, one.content); END LOOP; RETURN NULL;", hash='7aea3855378f43de03afeaff84de3c29fd4a3d54', level='STATEMENT', operation='INSERT', pgid='pgtrigger_chained_3f2f8', referencing='REFERENCING NEW TABLE AS fresh ', table='devices_reading', when='AFTER')),
        ),
        migrations.RunSQL(ACCOUNT),
    ]
