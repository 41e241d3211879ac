"""What was done is added and never changed, in its kitchen's chain; the time its clocks show."""

import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.conf import settings
from django.db import migrations, models


AUDIT = """
CREATE FUNCTION record_of_auditentry_1(one kitchen_auditentry) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' AS $$
    SELECT jsonb_build_object('id', one.id, 'kitchen', one.kitchen_id, 'user', one.user_id, 'at', one.at,
        'action', one.action, 'subject', one.subject)::text
$$;
"""
CHAIN = """
SELECT count(records_add('kitchen ' || kitchen_id, 'auditentry', 1, id::text, content)) FROM (
    SELECT kitchen_id, id, record_of_auditentry_1(one) AS content FROM kitchen_auditentry one ORDER BY id) was
"""


class Migration(migrations.Migration):
    dependencies = [
        ("records", "0001_initial"),
        ("kitchen", "0007_cooling"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="kitchen",
            name="zone",
            field=models.CharField(default="UTC", max_length=60),
        ),
        migrations.AlterField(
            model_name="auditentry",
            name="user",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.RunSQL(AUDIT, "DROP FUNCTION record_of_auditentry_1(kitchen_auditentry)"),
        pgtrigger.migrations.AddTrigger(
            model_name="auditentry",
            trigger=pgtrigger.compiler.Trigger(
                name="append_only",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;",
                    hash="9676a9dd6487ac07409e1d3071330fec86457d8f",
                    operation="UPDATE OR DELETE",
                    pgid="pgtrigger_append_only_e44dc",
                    table="kitchen_auditentry",
                    when="BEFORE",
                ),
            ),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name="auditentry",
            trigger=pgtrigger.compiler.Trigger(
                name="chained",
                sql=pgtrigger.compiler.UpsertTriggerSql(
                    constraint="CONSTRAINT",
                    func="PERFORM records_add('kitchen ' || (NEW.kitchen_id), 'auditentry', 1, NEW.id::text, record_of_auditentry_1(NEW)); RETURN NULL;",
                    hash="121b49195923f8b5cf224809315e7cb3e1f12550",
                    operation="INSERT",
                    pgid="pgtrigger_chained_5d709",
                    table="kitchen_auditentry",
                    timing="DEFERRABLE INITIALLY DEFERRED",
                    when="AFTER",
                ),
            ),
        ),
        migrations.RunSQL(CHAIN, migrations.RunSQL.noop),
    ]
