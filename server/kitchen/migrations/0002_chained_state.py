"""What records are printed from is chained in each of its states; what is there gets its first entry."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations


CONTENTS = """
CREATE FUNCTION record_of_kitchen_1(one kitchen_kitchen) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'slug', one.slug, 'name', one.name, 'altitude_m', one.altitude_m, 'eggs', one.eggs,
        'measures', one.measures, 'cooling_rule', one.cooling_rule, 'own_rule', one.own_rule,
        'zone', one.zone, 'readings_days', one.readings_days, 'demo', one.demo,
        'thrown_away_at', one.thrown_away_at)::text
$$;
"""
WHAT_IS_THERE = """
SELECT records_add('kitchen ' || id, 'kitchen', 1, id::text, record_of_kitchen_1(kitchen_kitchen)) FROM kitchen_kitchen ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0001_squashed'),
        ('kitchen', '0001_squashed'),
    ]

    operations = [
        migrations.RunSQL(CONTENTS, migrations.RunSQL.noop),
        pgtrigger.migrations.AddTrigger(
            model_name='kitchen',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."created_at" IS DISTINCT FROM (NEW."created_at") OR OLD."demo" IS DISTINCT FROM (NEW."demo"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='b38892399748f7e037e236e0d70be5f31d22be18', operation='UPDATE', pgid='pgtrigger_frozen_6becd', table='kitchen_kitchen', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='kitchen',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_kitchen_1(OLD) IS DISTINCT FROM record_of_kitchen_1(NEW) THEN PERFORM records_add('kitchen ' || NEW.id, 'kitchen', 1, NEW.id::text, record_of_kitchen_1(NEW)); END IF; RETURN NULL;", hash='499b613dd704773df3f5361e5bd54ff809fedfcb', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_8f95a', table='kitchen_kitchen', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.RunSQL(WHAT_IS_THERE, migrations.RunSQL.noop),
    ]
