"""The tables of kitchen, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.core.validators
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


class Migration(migrations.Migration):

    replaces = [('kitchen', '0001_initial'), ('kitchen', '0002_initial'), ('kitchen', '0003_kitchen_cooling_rule_kitchen_currency_kitchen_prices_and_more'), ('kitchen', '0004_hob_pan'), ('kitchen', '0005_one_clock'), ('kitchen', '0006_kitchen_readings_days'), ('kitchen', '0007_cooling'), ('kitchen', '0008_chained'), ('kitchen', '0009_invitation'), ('kitchen', '0010_taken_off')]

    initial = True

    dependencies = [
        ('people', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Kitchen',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('slug', models.SlugField(max_length=60, unique=True)),
                ('name', models.CharField(max_length=200)),
                ('altitude_m', models.FloatField(default=0, validators=[django.core.validators.MinValueValidator(-500), django.core.validators.MaxValueValidator(6000)])),
                ('eggs', models.CharField(choices=[('EU-S', 'EU-S'), ('EU-M', 'EU-M'), ('EU-L', 'EU-L'), ('EU-XL', 'EU-XL'), ('US-medium', 'US-medium'), ('US-large', 'US-large'), ('US-xl', 'US-xl'), ('US-jumbo', 'US-jumbo')], default='EU-M', max_length=20)),
                ('measures', models.CharField(choices=[('us', 'us'), ('imperial', 'imperial'), ('metric', 'metric'), ('au', 'au')], default='metric', max_length=20)),
                ('cooling_rule', models.CharField(choices=[('us', 'us'), ('uk', 'uk'), ('codex', 'codex'), ('au', 'au'), ('fr', 'fr'), ('own', 'own')], default='codex', max_length=10)),
                ('own_rule', models.JSONField(blank=True, null=True)),
                ('currency', models.CharField(default='€', max_length=4)),
                ('zone', models.CharField(default='UTC', max_length=60)),
                ('prices', models.JSONField(blank=True, default=dict)),
                ('readings_days', models.PositiveSmallIntegerField(default=90, validators=[django.core.validators.MinValueValidator(7), django.core.validators.MaxValueValidator(3650)])),
                ('next_batch', models.PositiveIntegerField(default=1)),
                ('created_at', models.DateTimeField(default=common.clock.now)),
                ('demo', models.BooleanField(default=False)),
                ('thrown_away_at', models.DateTimeField(blank=True, null=True)),
            ],
        ),
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('digest', models.CharField(max_length=64, unique=True)),
                ('role', models.CharField(choices=[('viewer', 'Viewer'), ('cook', 'Cook'), ('chef', 'Chef')], max_length=10)),
                ('title', models.CharField(max_length=80)),
                ('made_at', models.DateTimeField(default=common.clock.now)),
                ('until', models.DateTimeField()),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('used_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='invitations', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('-made_at', '-id'),
            },
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('viewer', 'Viewer'), ('cook', 'Cook'), ('chef', 'Chef')], max_length=10)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to='kitchen.kitchen')),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='OwnIngredient',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('composition', models.JSONField()),
                ('allergens', models.JSONField(blank=True, default=list)),
                ('density_g_per_ml', models.FloatField(blank=True, null=True)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='own_ingredients', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name',),
            },
        ),
        migrations.CreateModel(
            name='Pan',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('kind', models.CharField(choices=[('thin', 'thin'), ('clad', 'clad'), ('cast-iron', 'cast-iron')], max_length=20)),
                ('heat_share', models.FloatField(default=1)),
                ('heat_spread', models.FloatField(default=0.15)),
                ('batches', models.PositiveIntegerField(default=0)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pans', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='TakenOff',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=20)),
                ('values', models.JSONField()),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='taken_off', to='kitchen.kitchen')),
            ],
        ),
        migrations.CreateModel(
            name='Vessel',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('kind', models.CharField(choices=[('bowl', 'bowl'), ('tray', 'tray'), ('tub', 'tub'), ('cups', 'cups'), ('bags', 'bags')], max_length=10)),
                ('length_cm', models.FloatField()),
                ('width_cm', models.FloatField(default=0)),
                ('height_cm', models.FloatField()),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='vessels', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Hob',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('over_steam', models.BooleanField(default=False)),
                ('power_w', models.FloatField(default=350)),
                ('power_spread', models.FloatField(default=0.35)),
                ('batches', models.PositiveIntegerField(default=0)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='hobs', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
                'constraints': [models.UniqueConstraint(fields=('kitchen', 'name'), name='hob_once')],
            },
        ),
        migrations.CreateModel(
            name='Cooler',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('by', models.CharField(choices=[('ice-bath', 'ice-bath'), ('ice-only', 'ice-only'), ('counter', 'counter'), ('fridge', 'fridge'), ('blast', 'blast'), ('fridge-covered', 'fridge-covered'), ('fan-fridge', 'fan-fridge')], max_length=20)),
                ('medium_c', models.FloatField(blank=True, null=True)),
                ('share', models.FloatField(default=1)),
                ('spread', models.FloatField(default=0.35)),
                ('batches', models.PositiveIntegerField(default=0)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='coolers', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
                'constraints': [models.UniqueConstraint(fields=('kitchen', 'name'), name='cooler_once')],
            },
        ),
        migrations.CreateModel(
            name='AuditEntry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('action', models.CharField(max_length=40)),
                ('subject', models.CharField(max_length=250)),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='audit', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('-at', '-id'),
                'indexes': [models.Index(fields=['kitchen', '-at'], name='kitchen_aud_kitchen_f5cb9e_idx')],
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='auditentry',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='9676a9dd6487ac07409e1d3071330fec86457d8f', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_e44dc', table='kitchen_auditentry', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='auditentry',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (NEW.kitchen_id), 'auditentry', 1, NEW.id::text, record_of_auditentry_1(NEW)); RETURN NULL;", hash='121b49195923f8b5cf224809315e7cb3e1f12550', operation='INSERT', pgid='pgtrigger_chained_5d709', table='kitchen_auditentry', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.AddConstraint(
            model_name='membership',
            constraint=models.UniqueConstraint(fields=('user', 'kitchen'), name='one_role_a_kitchen'),
        ),
        migrations.AddConstraint(
            model_name='owningredient',
            constraint=models.UniqueConstraint(fields=('kitchen', 'name'), name='own_ingredient_once'),
        ),
        migrations.AddConstraint(
            model_name='pan',
            constraint=models.UniqueConstraint(fields=('kitchen', 'name'), name='pan_once'),
        ),
        migrations.AddConstraint(
            model_name='vessel',
            constraint=models.UniqueConstraint(fields=('kitchen', 'name'), name='vessel_once'),
        ),
        migrations.RunSQL(AUDIT),
    ]
