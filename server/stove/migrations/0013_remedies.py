"""Remedies that were taken, kept as they were told, in their kitchen's chain."""

import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations, models


REMEDY = """
CREATE FUNCTION record_of_remedy_1(one stove_remedy) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'mark', one.mark_id, 'fault', one.fault, 'cause', one.cause, 'say', one.say,
        'steps', one.steps, 'cautions', one.cautions, 'add', one.add, 'lines', one.lines,
        'allergens', one.allergens, 'takes_g', one.takes_g, 'heat_to_c', one.heat_to_c,
        'warmed_again', one.warmed_again, 'becomes', one.becomes, 'before', one.before, 'after', one.after,
        'tub', one.tub, 'life_before', one.life_before)::text
$$;
"""


class Migration(migrations.Migration):
    """The table, and what its rows are in a chain."""

    dependencies = [
        ('stove', '0012_chained'),
    ]

    operations = [
        migrations.AlterField(
            model_name='mark',
            name='kind',
            field=models.CharField(choices=[('done', 'Done'), ('tick', 'Tick'), ('check', 'Check'), ('spoon', 'Spoon'), ('sieve', 'Sieve'), ('off-heat', 'Off Heat'), ('into-ice', 'Into Ice'), ('moment', 'Moment'), ('pour', 'Pour'), ('sign', 'Sign'), ('bubbles', 'Bubbles'), ('hands-off', 'Hands Off'), ('stirring', 'Stirring'), ('sugar-on', 'Sugar On'), ('wrong', 'Wrong'), ('alarm', 'Alarm'), ('silence', 'Silence'), ('nudge', 'Nudge'), ('infusing', 'Infusing'), ('top-up', 'Top Up'), ('spot', 'Spot'), ('moved', 'Moved'), ('decided', 'Decided'), ('film', 'Film'), ('pasteurised', 'Pasteurised'), ('remedy', 'Remedy'), ('remedy-step', 'Remedy Step'), ('closed', 'Closed'), ('reopened', 'Reopened')], max_length=12),
        ),
        migrations.CreateModel(
            name='Remedy',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('fault', models.CharField(max_length=30)),
                ('cause', models.CharField(max_length=500)),
                ('say', models.CharField(max_length=500)),
                ('steps', models.JSONField()),
                ('cautions', models.JSONField(default=list)),
                ('add', models.JSONField(default=list)),
                ('lines', models.JSONField(default=list)),
                ('allergens', models.JSONField(default=list)),
                ('takes_g', models.FloatField(default=0)),
                ('heat_to_c', models.FloatField(blank=True, null=True)),
                ('warmed_again', models.CharField(blank=True, max_length=500)),
                ('becomes', models.CharField(max_length=60)),
                ('before', models.JSONField()),
                ('after', models.JSONField()),
                ('tub', models.PositiveSmallIntegerField(blank=True, null=True)),
                ('life_before', models.JSONField(blank=True, null=True)),
                ('mark', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='remedy', to='stove.mark')),
            ],
            options={
                'verbose_name_plural': 'remedies',
            },
        ),
        migrations.RunSQL(REMEDY, "DROP FUNCTION record_of_remedy_1(stove_remedy)"),
        pgtrigger.migrations.AddTrigger(
            model_name='remedy',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='4325f4438377baa7bd7aa4f8f60723ab5554d974', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_765af', table='stove_remedy', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='remedy',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id WHERE m.id = NEW.mark_id), 'remedy', 1, NEW.id::text, record_of_remedy_1(NEW)); RETURN NULL;", hash='f449acbc7265dcc3676e7815b20d4f3c14f0b466', operation='INSERT', pgid='pgtrigger_chained_1cbbc', table='stove_remedy', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
    ]
