"""The tables of devices, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.db import migrations, models


READING = """
CREATE FUNCTION record_of_reading_1(device bigint, at timestamptz, celsius float8) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET datestyle = 'ISO' SET extra_float_digits = 1 AS $$
    SELECT device || ' ' || at::text || ' ' || celsius::text
$$;
"""


class Migration(migrations.Migration):

    replaces = [('devices', '0001_initial'), ('devices', '0002_device_kind_reading'), ('devices', '0003_one_clock'), ('devices', '0004_device_clock_ahead_s_device_rotated_at_and_more'), ('devices', '0005_readings_are_kept')]

    initial = True

    dependencies = [
        ('kitchen', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Device',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('kind', models.CharField(choices=[('scale', 'Scale'), ('probe', 'Probe')], default='scale', max_length=10)),
                ('token_hash', models.CharField(max_length=64, unique=True)),
                ('created_at', models.DateTimeField(default=common.clock.now)),
                ('revoked_at', models.DateTimeField(blank=True, null=True)),
                ('rotated_at', models.DateTimeField(blank=True, null=True)),
                ('used_at', models.DateTimeField(blank=True, null=True)),
                ('clock_ahead_s', models.FloatField(default=0)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='devices', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Weight',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('at', models.DateTimeField()),
                ('grams', models.FloatField()),
                ('steady', models.BooleanField(default=True)),
                ('device', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='weights', to='devices.device')),
            ],
            options={
                'ordering': ('-at',),
            },
        ),
        migrations.CreateModel(
            name='Reading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('celsius', models.FloatField()),
                ('device', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='devices.device')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('device', 'at'), name='reading_once')],
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='reading',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="IF TG_OP = 'UPDATE' OR current_setting('oldspoon.thinning', true) IS DISTINCT FROM 'on' OR NOT pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN RAISE EXCEPTION 'rows of % are kept as they are', TG_TABLE_NAME; END IF; RETURN OLD;", hash='f73168035f00f2774a937719159e7a61867a9af9', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_e568f', table='devices_reading', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='reading',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(declare='DECLARE one record;', func="FOR one IN SELECT device_id, string_agg(id::text, ',' ORDER BY id) AS keys, string_agg(record_of_reading_1(device_id, at, celsius), E'\\n' ORDER BY id) AS content FROM fresh GROUP BY device_id ORDER BY device_id LOOP PERFORM records_add('device ' || one.device_id, 'reading', 1, one.keys, one.content); END LOOP; RETURN NULL;", hash='7aea3855378f43de03afeaff84de3c29fd4a3d54', level='STATEMENT', operation='INSERT', pgid='pgtrigger_chained_3f2f8', referencing='REFERENCING NEW TABLE AS fresh ', table='devices_reading', when='AFTER')),
        ),
        migrations.AddIndex(
            model_name='weight',
            index=models.Index(fields=['device', '-at'], name='devices_wei_device__103b80_idx'),
        ),
        migrations.RunSQL(READING),
    ]
