"""What records are printed from is chained in each of its states; what is there gets its first entry."""

import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations


CONTENTS = """
CREATE FUNCTION record_of_person_1(one people_user) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'username', one.username, 'title', one.title)::text
$$;
"""
WHAT_IS_THERE = """
SELECT records_add('people', 'person', 1, id::text, record_of_person_1(people_user)) FROM people_user ORDER BY id;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0001_squashed'),
        ('people', '0001_squashed'),
    ]

    operations = [
        migrations.RunSQL(CONTENTS, migrations.RunSQL.noop),
        pgtrigger.migrations.AddTrigger(
            model_name='user',
            trigger=pgtrigger.compiler.Trigger(name='frozen', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD."id" IS DISTINCT FROM (NEW."id"))', func="RAISE EXCEPTION 'pgtrigger: Cannot update rows from % table', TG_TABLE_NAME;", hash='7aa04f9b82fb2e11e9f031ec5f5d7a50b687acb1', operation='UPDATE', pgid='pgtrigger_frozen_86b47', table='people_user', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='user',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="IF TG_OP = 'INSERT' OR record_of_person_1(OLD) IS DISTINCT FROM record_of_person_1(NEW) THEN PERFORM records_add('people', 'person', 1, NEW.id::text, record_of_person_1(NEW)); END IF; RETURN NULL;", hash='7c888083958dc00fcf502d8d46883c74a7f60a32', operation='INSERT OR UPDATE', pgid='pgtrigger_chained_be1f3', table='people_user', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.RunSQL(WHAT_IS_THERE, migrations.RunSQL.noop),
    ]
