"""The tables of practice, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('practice', '0001_initial'), ('practice', '0002_named'), ('practice', '0003_taken_out_at')]

    initial = True

    dependencies = [
        ('book', '0001_squashed'),
        ('kitchen', '0001_squashed'),
        ('people', '0001_squashed'),
        ('stove', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='MadeExercise',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('tell', models.CharField(blank=True, max_length=500)),
                ('spec', models.JSONField()),
                ('made_at', models.DateTimeField(default=common.clock.now)),
                ('taken_out_at', models.DateTimeField(null=True)),
                ('formula', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='exercises', to='book.formula')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='exercises', to='kitchen.kitchen')),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ('name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Attempt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4)),
                ('key', models.CharField(blank=True, max_length=40)),
                ('name', models.CharField(max_length=200)),
                ('spec', models.JSONField()),
                ('conditions', models.JSONField()),
                ('seed', models.BigIntegerField()),
                ('begun_at', models.DateTimeField(default=common.clock.now)),
                ('again_s', models.FloatField(null=True)),
                ('acts', models.PositiveIntegerField(default=0)),
                ('until_s', models.FloatField(default=0)),
                ('ended', models.BooleanField(default=False)),
                ('points', models.PositiveSmallIntegerField(null=True)),
                ('passed', models.BooleanField(null=True)),
                ('signs', models.JSONField(default=list)),
                ('debrief', models.JSONField(null=True)),
                ('again_of', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='again', to='practice.attempt')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='kitchen.kitchen')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to=settings.AUTH_USER_MODEL)),
                ('made', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='attempts', to='practice.madeexercise')),
            ],
            options={
                'ordering': ('-begun_at', '-id'),
            },
        ),
        migrations.CreateModel(
            name='SetExercise',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(blank=True, max_length=40)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('set_at', models.DateTimeField(default=common.clock.now)),
                ('taken_back_at', models.DateTimeField(null=True)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='exercises_set', to='kitchen.kitchen')),
                ('made', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='set', to='practice.madeexercise')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='exercises_set', to=settings.AUTH_USER_MODEL)),
                ('set_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ('-set_at', '-id'),
            },
        ),
        migrations.CreateModel(
            name='Sheet',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('over', models.CharField(max_length=200)),
                ('marks', models.JSONField(default=dict)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('revision', models.PositiveIntegerField(default=1)),
                ('assessor', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('attempt', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='sheets', to='practice.attempt')),
                ('batch', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='stove.batch')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sheets', to='kitchen.kitchen')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sheets', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ('-at', '-id'),
            },
        ),
        migrations.CreateModel(
            name='Acts',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('until_s', models.FloatField()),
                ('rows', models.JSONField()),
                ('attempt', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='messages', to='practice.attempt')),
            ],
            options={
                'verbose_name_plural': 'acts',
                'ordering': ('number',),
                'constraints': [models.UniqueConstraint(fields=('attempt', 'number'), name='acts_in_order_once')],
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='acts',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='1a8ad0581651393afca86958a66eda469e358bae', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_72fb3', table='practice_acts', when='BEFORE')),
        ),
        migrations.AddIndex(
            model_name='attempt',
            index=models.Index(fields=['kitchen', 'person', '-begun_at'], name='practice_at_kitchen_1eae0d_idx'),
        ),
        migrations.AddConstraint(
            model_name='attempt',
            constraint=models.UniqueConstraint(fields=('person', 'client_id'), name='attempt_once'),
        ),
    ]
