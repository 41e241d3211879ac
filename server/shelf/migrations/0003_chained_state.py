"""What records are printed from is chained in each of its states; what is there gets its first entry."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations


CONTENTS = """
CREATE FUNCTION record_of_tub_1(one shelf_tub) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'kitchen', one.kitchen_id, 'batch', one.batch_id, 'parent', one.parent_id,
        'part', one.part, 'what', one.what, 'name', one.name, 'family', one.family,
        'allergens', one.allergens, 'unheated', one.unheated, 'vessel', one.vessel, 'life', one.life,
        'begins', one.begins, 'made_at', one.made_at, 'ready_at', one.ready_at, 'made_g', one.made_g,
        'place', one.place, 'opened_at', one.opened_at, 'frozen_at', one.frozen_at, 'out_at', one.out_at,
        'warm_at', one.warm_at, 'warm_c', one.warm_c, 'filmed', one.filmed, 'labelled', one.labelled,
        'use_by', one.use_by, 'use_by_why', one.use_by_why)::text
$$;
"""
MOVED_BY_THE_OWNER = """
ALTER FUNCTION shelf_moved() SECURITY DEFINER SET search_path = public, pg_temp;
"""
WHAT_IS_THERE = """
SELECT records_add('kitchen ' || kitchen_id, 'tub', 1, id::text, record_of_tub_1(shelf_tub)) FROM shelf_tub ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0001_squashed'),
        ('shelf', '0002_unheated'),
    ]

    operations = [
        migrations.RunSQL(CONTENTS, migrations.RunSQL.noop),
        pgtrigger.migrations.AddTrigger(
            model_name='tub',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id") OR OLD."kitchen_id" IS DISTINCT FROM (NEW."kitchen_id") OR OLD."batch_id" IS DISTINCT FROM (NEW."batch_id") OR OLD."parent_id" IS DISTINCT FROM (NEW."parent_id") OR OLD."part" IS DISTINCT FROM (NEW."part") OR OLD."what" IS DISTINCT FROM (NEW."what") OR OLD."family" IS DISTINCT FROM (NEW."family") OR OLD."begins" IS DISTINCT FROM (NEW."begins") OR OLD."made_at" IS DISTINCT FROM (NEW."made_at") OR OLD."made_g" IS DISTINCT FROM (NEW."made_g"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='90330eddcd45a1a02a161dadb4d81492b4b2f11e', operation='UPDATE', pgid='pgtrigger_frozen_938cc', table='shelf_tub', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='tub',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_tub_1(OLD) IS DISTINCT FROM record_of_tub_1(NEW) THEN PERFORM records_add('kitchen ' || NEW.kitchen_id, 'tub', 1, NEW.id::text, record_of_tub_1(NEW)); END IF; RETURN NULL;", hash='ccd3167e3b60735110fe262e1b4727fe42b9a118', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_f7066', table='shelf_tub', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.RunSQL(MOVED_BY_THE_OWNER, migrations.RunSQL.noop),
        migrations.RunSQL(WHAT_IS_THERE, migrations.RunSQL.noop),
    ]
