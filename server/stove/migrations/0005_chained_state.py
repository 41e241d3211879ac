"""What records are printed from is chained in each of its states; what is there gets its first entry."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations


CONTENTS = """
CREATE FUNCTION record_of_batch_1(one stove_batch) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT (jsonb_build_object(
        'id', one.id, 'kitchen', one.kitchen_id, 'number', one.number, 'version', one.version_id,
        'content', one.content, 'schools', one.schools, 'conditions', one.conditions,
        'parameters', one.parameters_id, 'equipment', one.equipment, 'plan', one.plan, 'name', one.name,
        'family', one.family, 'way', one.way, 'mass_g', one.mass_g, 'cooling', one.cooling,
        'planned_landing_c', one.planned_landing_c, 'planned_stop_c', one.planned_stop_c,
        'planned_coat', one.planned_coat, 'started_by', one.started_by_id, 'started_at', one.started_at,
        'pace', one.pace, 'closed_at', one.closed_at, 'verdict', one.verdict,
        'verdict_note', one.verdict_note, 'stage', one.stage, 'landed_c', one.landed_c,
        'lifted_c', one.lifted_c, 'peak_c', one.peak_c, 'coat', one.coat, 'finger_line', one.finger_line,
        'sieve', one.sieve, 'yield_g', one.yield_g, 'shift_k', one.shift_k, 'weighed_at', one.weighed_at,
        'warmed_at', one.warmed_at, 'tempered_at', one.tempered_at, 'cooked_at', one.cooked_at,
        'tested_at', one.tested_at, 'finished_at', one.finished_at, 'chilled_at', one.chilled_at) || jsonb_build_object(
        'kept_at', one.kept_at, 'after', one.after, 'vulnerable', one.vulnerable,
        'allergens', one.allergens, 'unheated', one.unheated, 'changed', one.changed, 'lift', one.lift))::text
$$;
CREATE FUNCTION record_of_probeuse_1(one stove_probeuse) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'batch', one.batch_id, 'device', one.device_id, 'since', one.since,
        'until', one.until)::text
$$;
"""
THINNING_BY_ITS_OWN_CLOCK = """
DROP FUNCTION stove_thin_readings(timestamptz);
CREATE FUNCTION stove_thin_readings() RETURNS bigint
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
            WHERE batch.closed_at < clock_timestamp() - kitchen.readings_days * interval '1 day'
            AND reading.device_id = lay.device_id
            AND reading.at >= lay.since AND reading.at < coalesce(lay.until, batch.closed_at)
            AND EXISTS (
                SELECT FROM devices_reading earlier WHERE earlier.device_id = reading.device_id
                AND earlier.at >= date_trunc('minute', reading.at) AND earlier.at < reading.at)
            RETURNING reading.device_id, reading.id)
        SELECT device_id, count(*) AS many, array_agg(id ORDER BY id) AS ids FROM gone GROUP BY device_id
    LOOP
        went := went + one.many;
        PERFORM devices_account(one.device_id, one.ids);
    END LOOP;
    PERFORM set_config('oldspoon.thinning', 'off', true);
    RETURN went;
END
$$;
"""
WHAT_IS_THERE = """
SELECT records_add('kitchen ' || kitchen_id, 'batch', 1, id::text, record_of_batch_1(stove_batch)) FROM stove_batch ORDER BY id;
SELECT records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = batch_id), 'probeuse', 1, id::text, record_of_probeuse_1(stove_probeuse)) FROM stove_probeuse ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('devices', '0003_readings_by_month'),
        ('records', '0001_squashed'),
        ('stove', '0004_batches_by_time'),
    ]

    operations = [
        migrations.RunSQL(CONTENTS, migrations.RunSQL.noop),
        pgtrigger.migrations.AddTrigger(
            model_name='batch',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."kitchen_id" IS DISTINCT FROM (NEW."kitchen_id") OR OLD."number" IS DISTINCT FROM (NEW."number") OR OLD."version_id" IS DISTINCT FROM (NEW."version_id") OR OLD."content" IS DISTINCT FROM (NEW."content") OR OLD."schools" IS DISTINCT FROM (NEW."schools") OR OLD."conditions" IS DISTINCT FROM (NEW."conditions") OR OLD."parameters_id" IS DISTINCT FROM (NEW."parameters_id") OR OLD."plan" IS DISTINCT FROM (NEW."plan") OR OLD."name" IS DISTINCT FROM (NEW."name") OR OLD."family" IS DISTINCT FROM (NEW."family") OR OLD."way" IS DISTINCT FROM (NEW."way") OR OLD."mass_g" IS DISTINCT FROM (NEW."mass_g") OR OLD."planned_stop_c" IS DISTINCT FROM (NEW."planned_stop_c") OR OLD."planned_coat" IS DISTINCT FROM (NEW."planned_coat") OR OLD."started_by_id" IS DISTINCT FROM (NEW."started_by_id") OR OLD."started_at" IS DISTINCT FROM (NEW."started_at") OR OLD."pace" IS DISTINCT FROM (NEW."pace") OR OLD."changed" IS DISTINCT FROM (NEW."changed"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='99014e970825d5d21780e6d8af7bfdfda9f64765', operation='UPDATE', pgid='pgtrigger_frozen_5e87c', table='stove_batch', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='batch',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_batch_1(OLD) IS DISTINCT FROM record_of_batch_1(NEW) THEN PERFORM records_add('kitchen ' || NEW.kitchen_id, 'batch', 1, NEW.id::text, record_of_batch_1(NEW)); END IF; RETURN NULL;", hash='779747d1affe6b64424d6bc81a27fe15970ee4cc', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_0b6da', table='stove_batch', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='probeuse',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."batch_id" IS DISTINCT FROM (NEW."batch_id") OR OLD."device_id" IS DISTINCT FROM (NEW."device_id") OR OLD."since" IS DISTINCT FROM (NEW."since"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='6aa8ca74520e65de84cfe0ecacfc2bc0cef67d2f', operation='UPDATE', pgid='pgtrigger_frozen_fbfb1', table='stove_probeuse', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='probeuse',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_probeuse_1(OLD) IS DISTINCT FROM record_of_probeuse_1(NEW) THEN PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id), 'probeuse', 1, NEW.id::text, record_of_probeuse_1(NEW)); END IF; RETURN NULL;", hash='56e78001c56554efd69be3ceab0bfea35935893a', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_0b42c', table='stove_probeuse', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.RunSQL(THINNING_BY_ITS_OWN_CLOCK, migrations.RunSQL.noop),
        migrations.RunSQL(WHAT_IS_THERE, migrations.RunSQL.noop),
    ]
