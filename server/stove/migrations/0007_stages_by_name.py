"""What was planned and what happened at a stage stands by its name: a stage more is no column more."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations, models

BY_NAME = """
UPDATE stove_batch SET
    planned_c = jsonb_strip_nulls(jsonb_build_object('temper', planned_landing_c, 'cook', planned_stop_c)),
    left_c = jsonb_strip_nulls(jsonb_build_object('temper', landed_c, 'cook', lifted_c)),
    done_at = jsonb_strip_nulls(jsonb_build_object(
        'weigh', weighed_at, 'warm', warmed_at, 'temper', tempered_at, 'cook', cooked_at, 'test', tested_at,
        'finish', finished_at, 'chill', chilled_at, 'keep', kept_at));
"""
SECOND_SHAPE = """
DROP FUNCTION record_of_batch_1(stove_batch);
CREATE FUNCTION record_of_batch_2(one stove_batch) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'kitchen', one.kitchen_id, 'number', one.number, 'version', one.version_id,
        'content', one.content, 'schools', one.schools, 'conditions', one.conditions,
        'parameters', one.parameters_id, 'equipment', one.equipment, 'plan', one.plan, 'name', one.name,
        'family', one.family, 'way', one.way, 'mass_g', one.mass_g, 'cooling', one.cooling,
        'planned_c', one.planned_c, 'planned_coat', one.planned_coat, 'started_by', one.started_by_id,
        'started_at', one.started_at, 'pace', one.pace, 'closed_at', one.closed_at, 'verdict', one.verdict,
        'verdict_note', one.verdict_note, 'stage', one.stage, 'left_c', one.left_c, 'done_at', one.done_at,
        'peak_c', one.peak_c, 'coat', one.coat, 'finger_line', one.finger_line, 'sieve', one.sieve,
        'yield_g', one.yield_g, 'shift_k', one.shift_k, 'after', one.after, 'vulnerable', one.vulnerable,
        'allergens', one.allergens, 'unheated', one.unheated, 'changed', one.changed, 'lift', one.lift)::text
$$;
"""
WHAT_IS_THERE = """
SELECT records_add('kitchen ' || kitchen_id, 'batch', 2, id::text, record_of_batch_2(stove_batch)) FROM stove_batch ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('stove', '0006_took'),
    ]

    operations = [
        pgtrigger.migrations.RemoveTrigger(
            model_name='batch',
            name='frozen',
        ),
        pgtrigger.migrations.RemoveTrigger(
            model_name='batch',
            name='chained',
        ),
        migrations.AddField(
            model_name='batch',
            name='done_at',
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name='batch',
            name='left_c',
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name='batch',
            name='planned_c',
            field=models.JSONField(default=dict),
        ),
        migrations.RunSQL(BY_NAME, migrations.RunSQL.noop),
        migrations.RemoveField(
            model_name='batch',
            name='chilled_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='cooked_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='finished_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='kept_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='landed_c',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='lifted_c',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='planned_landing_c',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='planned_stop_c',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='tempered_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='tested_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='warmed_at',
        ),
        migrations.RemoveField(
            model_name='batch',
            name='weighed_at',
        ),
        migrations.AlterField(
            model_name='batch',
            name='verdict',
            field=models.CharField(blank=True, max_length=12),
        ),
        migrations.AlterField(
            model_name='mark',
            name='kind',
            field=models.CharField(max_length=12),
        ),
        migrations.AlterField(
            model_name='mark',
            name='stage',
            field=models.CharField(max_length=10),
        ),
        migrations.RunSQL(SECOND_SHAPE, migrations.RunSQL.noop),
        migrations.RunSQL(WHAT_IS_THERE, migrations.RunSQL.noop),
        pgtrigger.migrations.AddTrigger(
            model_name='batch',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."kitchen_id" IS DISTINCT FROM (NEW."kitchen_id") OR OLD."number" IS DISTINCT FROM (NEW."number") OR OLD."version_id" IS DISTINCT FROM (NEW."version_id") OR OLD."content" IS DISTINCT FROM (NEW."content") OR OLD."schools" IS DISTINCT FROM (NEW."schools") OR OLD."conditions" IS DISTINCT FROM (NEW."conditions") OR OLD."parameters_id" IS DISTINCT FROM (NEW."parameters_id") OR OLD."plan" IS DISTINCT FROM (NEW."plan") OR OLD."name" IS DISTINCT FROM (NEW."name") OR OLD."family" IS DISTINCT FROM (NEW."family") OR OLD."way" IS DISTINCT FROM (NEW."way") OR OLD."mass_g" IS DISTINCT FROM (NEW."mass_g") OR OLD."planned_c" IS DISTINCT FROM (NEW."planned_c") OR OLD."planned_coat" IS DISTINCT FROM (NEW."planned_coat") OR OLD."started_by_id" IS DISTINCT FROM (NEW."started_by_id") OR OLD."started_at" IS DISTINCT FROM (NEW."started_at") OR OLD."pace" IS DISTINCT FROM (NEW."pace") OR OLD."changed" IS DISTINCT FROM (NEW."changed"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='bc730310d31b86140a7d1a17888db6b186f6a065', operation='UPDATE', pgid='pgtrigger_frozen_5e87c', table='stove_batch', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='batch',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_batch_2(OLD) IS DISTINCT FROM record_of_batch_2(NEW) THEN PERFORM records_add('kitchen ' || NEW.kitchen_id, 'batch', 2, NEW.id::text, record_of_batch_2(NEW)); END IF; RETURN NULL;", hash='df5732fe2ad330b2b546d714a2b711ed29481965', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_0b6da', table='stove_batch', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
    ]
