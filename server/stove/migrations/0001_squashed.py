"""The tables of stove, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.conf import settings
from django.db import migrations, models


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

    replaces = [('stove', '0001_initial'), ('stove', '0002_mark_grams_alter_mark_kind'), ('stove', '0003_batch_after_batch_hob_batch_pace_batch_pan_and_more'), ('stove', '0004_nudged_cups'), ('stove', '0005_frozen_and_facts'), ('stove', '0006_freeze_what_is_there'), ('stove', '0007_live_state'), ('stove', '0008_thin_readings'), ('stove', '0009_finish'), ('stove', '0010_cooling'), ('stove', '0011_withdrawals'), ('stove', '0012_chained'), ('stove', '0013_remedies')]

    initial = True

    dependencies = [
        ('book', '0001_squashed'),
        ('devices', '0001_squashed'),
        ('kitchen', '0001_squashed'),
        ('people', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Batch',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('content', models.JSONField()),
                ('schools', models.JSONField(default=dict)),
                ('conditions', models.JSONField(default=dict)),
                ('equipment', models.JSONField(default=dict)),
                ('plan', models.JSONField()),
                ('name', models.CharField(max_length=200)),
                ('family', models.CharField(max_length=40)),
                ('way', models.CharField(max_length=10)),
                ('mass_g', models.FloatField()),
                ('cooling', models.JSONField(blank=True, null=True)),
                ('planned_landing_c', models.FloatField(blank=True, null=True)),
                ('planned_stop_c', models.FloatField()),
                ('planned_coat', models.CharField(max_length=20)),
                ('started_at', models.DateTimeField()),
                ('pace', models.FloatField(default=1)),
                ('closed_at', models.DateTimeField(blank=True, null=True)),
                ('verdict', models.CharField(blank=True, choices=[('good', 'Good'), ('usable', 'Usable'), ('discarded', 'Discarded')], max_length=12)),
                ('verdict_note', models.CharField(blank=True, max_length=500)),
                ('stage', models.CharField(default='weigh', max_length=10)),
                ('landed_c', models.FloatField(blank=True, null=True)),
                ('lifted_c', models.FloatField(blank=True, null=True)),
                ('peak_c', models.FloatField(blank=True, null=True)),
                ('coat', models.CharField(blank=True, max_length=20)),
                ('finger_line', models.CharField(blank=True, max_length=10)),
                ('sieve', models.CharField(blank=True, max_length=20)),
                ('yield_g', models.FloatField(blank=True, null=True)),
                ('fitted_w', models.FloatField(blank=True, null=True)),
                ('fitted_pan_share', models.FloatField(blank=True, null=True)),
                ('shift_k', models.FloatField(blank=True, null=True)),
                ('weighed_at', models.DateTimeField(blank=True, null=True)),
                ('warmed_at', models.DateTimeField(blank=True, null=True)),
                ('tempered_at', models.DateTimeField(blank=True, null=True)),
                ('cooked_at', models.DateTimeField(blank=True, null=True)),
                ('tested_at', models.DateTimeField(blank=True, null=True)),
                ('finished_at', models.DateTimeField(blank=True, null=True)),
                ('chilled_at', models.DateTimeField(blank=True, null=True)),
                ('kept_at', models.DateTimeField(blank=True, null=True)),
                ('taught_at', models.DateTimeField(blank=True, null=True)),
                ('after', models.JSONField(blank=True, default=list)),
                ('vulnerable', models.BooleanField(default=False)),
                ('allergens', models.JSONField(default=list)),
                ('hob', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='kitchen.hob')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='batches', to='kitchen.kitchen')),
                ('pan', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='kitchen.pan')),
                ('started_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('version', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='batches', to='book.formulaversion')),
            ],
            options={
                'ordering': ('-started_at', '-id'),
            },
        ),
        migrations.CreateModel(
            name='ParameterSet',
            fields=[
                ('version', models.CharField(max_length=16, primary_key=True, serialize=False)),
                ('values', models.JSONField()),
            ],
        ),
        migrations.CreateModel(
            name='Mark',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('stage', models.CharField(choices=[('weigh', 'weigh'), ('warm', 'warm'), ('temper', 'temper'), ('cook', 'cook'), ('test', 'test'), ('finish', 'finish'), ('chill', 'chill'), ('keep', 'keep')], max_length=10)),
                ('kind', models.CharField(choices=[('done', 'Done'), ('tick', 'Tick'), ('check', 'Check'), ('spoon', 'Spoon'), ('sieve', 'Sieve'), ('off-heat', 'Off Heat'), ('into-ice', 'Into Ice'), ('moment', 'Moment'), ('pour', 'Pour'), ('sign', 'Sign'), ('bubbles', 'Bubbles'), ('hands-off', 'Hands Off'), ('stirring', 'Stirring'), ('sugar-on', 'Sugar On'), ('wrong', 'Wrong'), ('alarm', 'Alarm'), ('silence', 'Silence'), ('nudge', 'Nudge'), ('infusing', 'Infusing'), ('top-up', 'Top Up'), ('spot', 'Spot'), ('moved', 'Moved'), ('decided', 'Decided'), ('film', 'Film'), ('pasteurised', 'Pasteurised'), ('remedy', 'Remedy'), ('remedy-step', 'Remedy Step'), ('closed', 'Closed'), ('reopened', 'Reopened')], max_length=12)),
                ('at', models.DateTimeField()),
                ('temperature_c', models.FloatField(blank=True, null=True)),
                ('line', models.PositiveSmallIntegerField(blank=True, null=True)),
                ('what', models.CharField(blank=True, max_length=30)),
                ('grams', models.FloatField(blank=True, null=True)),
                ('coat', models.CharField(blank=True, max_length=20)),
                ('finger_line', models.CharField(blank=True, max_length=10)),
                ('sieve', models.CharField(blank=True, max_length=20)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('batch', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='marks', to='stove.batch')),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ('at', 'id'),
            },
        ),
        migrations.AddField(
            model_name='batch',
            name='parameters',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='stove.parameterset'),
        ),
        migrations.CreateModel(
            name='ProbeUse',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('since', models.DateTimeField()),
                ('until', models.DateTimeField(blank=True, null=True)),
                ('batch', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='probes', to='stove.batch')),
                ('device', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='devices.device')),
            ],
            options={
                'ordering': ('since', 'id'),
            },
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
        migrations.CreateModel(
            name='Withdrawal',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('mark', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='withdrawal', to='stove.mark')),
            ],
        ),
        migrations.CreateModel(
            name='LiveState',
            fields=[
                ('batch', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='live_state', serialize=False, to='stove.batch')),
                ('computed_at', models.DateTimeField(blank=True, null=True)),
                ('claimed_until', models.DateTimeField(blank=True, null=True)),
                ('due_at', models.DateTimeField(default=common.clock.now)),
                ('slot_at', models.DateTimeField(blank=True, null=True)),
                ('turn_at', models.DateTimeField(blank=True, null=True)),
                ('at', models.DateTimeField(blank=True, null=True)),
                ('document', models.JSONField(blank=True, null=True)),
                ('say', models.CharField(blank=True, max_length=200)),
                ('seconds', models.FloatField(blank=True, null=True)),
                ('urgency', models.PositiveSmallIntegerField(default=0)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='kitchen.kitchen')),
            ],
        ),
        migrations.AddIndex(
            model_name='mark',
            index=models.Index(fields=['batch', 'at'], name='stove_mark_batch_i_b2fc1d_idx'),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='mark',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='048feee621b84850f5cd727da3d1df9f159180ba', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_142d2', table='stove_mark', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='mark',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id), 'mark', 1, NEW.id::text, record_of_mark_1(NEW)); RETURN NULL;", hash='afe7d3108296011e018a8c4e7fe788e7bddc1ed6', operation='INSERT', pgid='pgtrigger_chained_c4c70', table='stove_mark', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.AddIndex(
            model_name='batch',
            index=models.Index(condition=models.Q(('closed_at', None)), fields=['kitchen', '-started_at'], name='open_batches'),
        ),
        migrations.AddConstraint(
            model_name='batch',
            constraint=models.UniqueConstraint(fields=('kitchen', 'number'), name='batch_number'),
        ),
        migrations.AddConstraint(
            model_name='probeuse',
            constraint=models.UniqueConstraint(condition=models.Q(('until', None)), fields=('device',), name='probe_in_one_batch'),
        ),
        migrations.AddConstraint(
            model_name='probeuse',
            constraint=models.UniqueConstraint(condition=models.Q(('until', None)), fields=('batch',), name='batch_has_one_probe'),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='remedy',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='4325f4438377baa7bd7aa4f8f60723ab5554d974', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_765af', table='stove_remedy', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='remedy',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id WHERE m.id = NEW.mark_id), 'remedy', 1, NEW.id::text, record_of_remedy_1(NEW)); RETURN NULL;", hash='f449acbc7265dcc3676e7815b20d4f3c14f0b466', operation='INSERT', pgid='pgtrigger_chained_1cbbc', table='stove_remedy', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='withdrawal',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='960cba02b380a18f3537eb4c3abac1bd39f4264d', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_b321f', table='stove_withdrawal', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='withdrawal',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id WHERE m.id = NEW.mark_id), 'withdrawal', 1, NEW.id::text, record_of_withdrawal_1(NEW)); RETURN NULL;", hash='78c9d5a433475e02cc1bc571079ed572ff907ef3', operation='INSERT', pgid='pgtrigger_chained_e9e63', table='stove_withdrawal', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.AddIndex(
            model_name='livestate',
            index=models.Index(fields=['kitchen', '-urgency', 'seconds'], name='most_urgent'),
        ),
        migrations.AddIndex(
            model_name='livestate',
            index=models.Index(fields=['due_at'], name='live_due'),
        ),
        migrations.RunSQL(MARK),
        migrations.RunSQL(THIN),
        migrations.RunSQL(REMEDY),
    ]
