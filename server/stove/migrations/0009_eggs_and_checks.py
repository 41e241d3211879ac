"""Whose eggs a batch was made of; how its probe was when it was last checked, in the chain."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations, models


SECOND_SHAPE = """
DROP FUNCTION record_of_probeuse_1(stove_probeuse);
CREATE FUNCTION record_of_probeuse_2(one stove_probeuse) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'batch', one.batch_id, 'device', one.device_id, 'since', one.since,
        'until', one.until, 'reads_high_k', one.reads_high_k, 'error_k', one.error_k,
        'checked_on', one.checked_on)::text
$$;
"""
WHAT_IS_THERE = """
SELECT records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = batch_id), 'probeuse', 2, id::text, record_of_probeuse_2(stove_probeuse)) FROM stove_probeuse ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('stove', '0008_lessons_and_words'),
    ]

    operations = [
        pgtrigger.migrations.RemoveTrigger(
            model_name='batch',
            name='frozen',
        ),
        pgtrigger.migrations.RemoveTrigger(
            model_name='probeuse',
            name='frozen',
        ),
        pgtrigger.migrations.RemoveTrigger(
            model_name='probeuse',
            name='chained',
        ),
        migrations.AddField(
            model_name='batch',
            name='egg_source',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.AddField(
            model_name='probeuse',
            name='checked_on',
            field=models.DateField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name='probeuse',
            name='error_k',
            field=models.FloatField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name='probeuse',
            name='reads_high_k',
            field=models.FloatField(default=0),
        ),
        migrations.RunSQL(SECOND_SHAPE),
        migrations.RunSQL(WHAT_IS_THERE),
        pgtrigger.migrations.AddTrigger(
            model_name='batch',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."kitchen_id" IS DISTINCT FROM (NEW."kitchen_id") OR OLD."number" IS DISTINCT FROM (NEW."number") OR OLD."version_id" IS DISTINCT FROM (NEW."version_id") OR OLD."content" IS DISTINCT FROM (NEW."content") OR OLD."schools" IS DISTINCT FROM (NEW."schools") OR OLD."conditions" IS DISTINCT FROM (NEW."conditions") OR OLD."parameters_id" IS DISTINCT FROM (NEW."parameters_id") OR OLD."plan" IS DISTINCT FROM (NEW."plan") OR OLD."name" IS DISTINCT FROM (NEW."name") OR OLD."family" IS DISTINCT FROM (NEW."family") OR OLD."way" IS DISTINCT FROM (NEW."way") OR OLD."mass_g" IS DISTINCT FROM (NEW."mass_g") OR OLD."planned_c" IS DISTINCT FROM (NEW."planned_c") OR OLD."planned_coat" IS DISTINCT FROM (NEW."planned_coat") OR OLD."started_by_id" IS DISTINCT FROM (NEW."started_by_id") OR OLD."started_at" IS DISTINCT FROM (NEW."started_at") OR OLD."pace" IS DISTINCT FROM (NEW."pace") OR OLD."changed" IS DISTINCT FROM (NEW."changed") OR OLD."egg_source" IS DISTINCT FROM (NEW."egg_source"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='ff8abc9a207d11bdcfd589f1cf929edf9676b2b3', operation='UPDATE', pgid='pgtrigger_frozen_5e87c', table='stove_batch', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='probeuse',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."batch_id" IS DISTINCT FROM (NEW."batch_id") OR OLD."device_id" IS DISTINCT FROM (NEW."device_id") OR OLD."since" IS DISTINCT FROM (NEW."since") OR OLD."reads_high_k" IS DISTINCT FROM (NEW."reads_high_k") OR OLD."error_k" IS DISTINCT FROM (NEW."error_k") OR OLD."checked_on" IS DISTINCT FROM (NEW."checked_on"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='a8893f834ffcab526919a9ffb0662b48767cc744', operation='UPDATE', pgid='pgtrigger_frozen_fbfb1', table='stove_probeuse', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='probeuse',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_probeuse_2(OLD) IS DISTINCT FROM record_of_probeuse_2(NEW) THEN PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id), 'probeuse', 2, NEW.id::text, record_of_probeuse_2(NEW)); END IF; RETURN NULL;", hash='15fd4ed70a691f0f541b6c2cf86a5dc879967b75', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_0b42c', table='stove_probeuse', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
    ]
