"""Marks are added and never changed, each in its kitchen's chain; what is there is chained as it stands."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations

MARK = """
CREATE FUNCTION record_of_mark_1(one stove_mark) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'batch', one.batch_id, 'stage', one.stage, 'kind', one.kind, 'at', one.at,
        'temperature_c', one.temperature_c, 'line', one.line, 'what', one.what, 'grams', one.grams,
        'coat', one.coat, 'finger_line', one.finger_line, 'sieve', one.sieve, 'note', one.note,
        'by', one.by_id)::text
$$;
CREATE FUNCTION record_of_withdrawal_1(one stove_withdrawal) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' AS $$
    SELECT jsonb_build_object('id', one.id, 'mark', one.mark_id, 'at', one.at, 'by', one.by_id)::text
$$;
"""
THIN = """
CREATE OR REPLACE FUNCTION stove_thin_readings(today timestamptz) RETURNS bigint
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp SET extra_float_digits = 1 AS $$
DECLARE
    one record;
    went bigint := 0;
BEGIN
    PERFORM set_config('oldspoon.thinning', 'on', true);
    FOR one IN
        WITH gone AS (
            DELETE FROM devices_reading reading
            USING stove_probeuse lay
            JOIN stove_batch batch ON batch.id = lay.batch_id
            JOIN kitchen_kitchen kitchen ON kitchen.id = batch.kitchen_id
            WHERE batch.closed_at < today - kitchen.readings_days * interval '1 day'
            AND reading.device_id = lay.device_id
            AND reading.at >= lay.since AND reading.at < coalesce(lay.until, batch.closed_at)
            AND EXISTS (
                SELECT FROM devices_reading earlier WHERE earlier.device_id = reading.device_id
                AND earlier.at >= date_trunc('minute', reading.at) AND earlier.at < reading.at)
            RETURNING reading.device_id, reading.id)
        SELECT device_id, count(*) AS many, array_agg(id ORDER BY id) AS ids FROM gone GROUP BY device_id
    LOOP
        went := went + one.many;
        PERFORM records_add('device ' || one.device_id, 'thinned', 1,
                            array_to_string(one.ids, ','), array_to_string(one.ids, ','));
        -- What is left of statements that lost a part is recorded anew: their own sum can no more be made.
        PERFORM records_add('device ' || one.device_id, 'reading', 1, keys, content) FROM (
            SELECT string_agg(id::text, ',' ORDER BY id) AS keys,
                   string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content
            FROM devices_reading WHERE id IN (
                SELECT key::bigint FROM records_entry entry
                CROSS JOIN LATERAL unnest(string_to_array(entry.keys, ',')) key
                WHERE entry.chain = 'device ' || one.device_id AND entry.kind = 'reading'
                AND string_to_array(entry.keys, ',')::bigint[] && one.ids)) kept
        WHERE keys IS NOT NULL;
    END LOOP;
    PERFORM set_config('oldspoon.thinning', 'off', true);
    RETURN went;
END
$$;
"""
CHAIN = """
SELECT count(records_add('kitchen ' || kitchen_id, kind, 1, key, content)) FROM (
    SELECT batch.kitchen_id, 'mark' AS kind, mark.id::text AS key, record_of_mark_1(mark) AS content, mark.at AS at
    FROM stove_mark mark JOIN stove_batch batch ON batch.id = mark.batch_id
    UNION ALL
    SELECT batch.kitchen_id, 'withdrawal', back.id::text, record_of_withdrawal_1(back), back.at
    FROM stove_withdrawal back JOIN stove_mark mark ON mark.id = back.mark_id
    JOIN stove_batch batch ON batch.id = mark.batch_id
    ORDER BY at, key) was
"""


class Migration(migrations.Migration):
    """After it nothing of a mark can be changed."""

    dependencies = [
        ("stove", "0011_withdrawals"),
        ("devices", "0005_readings_are_kept"),
        ("records", "0001_initial"),
    ]
    operations = [
        migrations.RemoveField(
            model_name="mark",
            name="withdrawn_at",
        ),
        migrations.RunSQL(
            MARK, "DROP FUNCTION record_of_mark_1(stove_mark), record_of_withdrawal_1(stove_withdrawal)"
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="mark",
            trigger=pgtrigger.compiler.Trigger(
                name="append_only",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;",
                    hash="048feee621b84850f5cd727da3d1df9f159180ba",
                    operation="UPDATE OR DELETE",
                    pgid="pgtrigger_append_only_142d2",
                    table="stove_mark",
                    when="BEFORE",
                ),
            ),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="mark",
            trigger=pgtrigger.compiler.Trigger(
                name="chained",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    constraint="CONSTRAINT",
                    func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id), 'mark', 1, NEW.id::text, record_of_mark_1(NEW)); RETURN NULL;",
                    hash="afe7d3108296011e018a8c4e7fe788e7bddc1ed6",
                    operation="INSERT",
                    pgid="pgtrigger_chained_c4c70",
                    table="stove_mark",
                    timing="DEFERRABLE INITIALLY DEFERRED",
                    when="AFTER",
                ),
            ),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="withdrawal",
            trigger=pgtrigger.compiler.Trigger(
                name="append_only",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;",
                    hash="960cba02b380a18f3537eb4c3abac1bd39f4264d",
                    operation="UPDATE OR DELETE",
                    pgid="pgtrigger_append_only_b321f",
                    table="stove_withdrawal",
                    when="BEFORE",
                ),
            ),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="withdrawal",
            trigger=pgtrigger.compiler.Trigger(
                name="chained",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    constraint="CONSTRAINT",
                    func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id WHERE m.id = NEW.mark_id), 'withdrawal', 1, NEW.id::text, record_of_withdrawal_1(NEW)); RETURN NULL;",
                    hash="78c9d5a433475e02cc1bc571079ed572ff907ef3",
                    operation="INSERT",
                    pgid="pgtrigger_chained_e9e63",
                    table="stove_withdrawal",
                    timing="DEFERRABLE INITIALLY DEFERRED",
                    when="AFTER",
                ),
            ),
        ),
        migrations.RunSQL(THIN, migrations.RunSQL.noop),
        migrations.RunSQL(CHAIN, migrations.RunSQL.noop),
    ]
