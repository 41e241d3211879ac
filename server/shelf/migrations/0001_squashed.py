"""The tables of shelf, made from nothing; a database that went through all that this replaces is taken as it is."""

import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
from django.conf import settings
from django.db import migrations, models


MOVES = """
CREATE FUNCTION record_of_movement_1(one shelf_movement) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'kitchen', one.kitchen_id, 'tub', one.tub_id, 'kind', one.kind, 'at', one.at,
        'by', one.by_id, 'change_g', one.change_g, 'to', one."to", 'into', one.into_id, 'other', one.other_id,
        'celsius', one.celsius, 'note', one.note, 'corrects', one.corrects_id)::text
$$;
CREATE FUNCTION record_of_dayclosing_1(one shelf_dayclosing) RETURNS text
LANGUAGE sql STABLE SET timezone = 'UTC' SET extra_float_digits = 1 AS $$
    SELECT jsonb_build_object(
        'id', one.id, 'kitchen', one.kitchen_id, 'day', one.day, 'at', one.at, 'by', one.by_id,
        'content', one.content, 'note', one.note)::text
$$;
CREATE FUNCTION shelf_moved() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE shelf_tub SET left_g = left_g + NEW.change_g WHERE id = NEW.tub_id AND NEW.change_g <> 0;
    RETURN NULL;
END
$$;
CREATE TRIGGER moved AFTER INSERT ON shelf_movement FOR EACH ROW EXECUTE FUNCTION shelf_moved();
"""


class Migration(migrations.Migration):

    replaces = [('shelf', '0001_initial'), ('shelf', '0002_mended')]

    initial = True

    dependencies = [
        ('kitchen', '0001_squashed'),
        ('people', '0001_squashed'),
        ('stove', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Movement',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('kind', models.CharField(choices=[('made', 'Made'), ('used', 'Used'), ('split', 'Split'), ('churned', 'Churned'), ('frozen', 'Frozen'), ('out', 'Out'), ('thawed', 'Thawed'), ('warm', 'Warm'), ('opened', 'Opened'), ('thrown', 'Thrown'), ('counted', 'Counted'), ('film', 'Film'), ('labelled', 'Labelled'), ('undone', 'Undone'), ('mended', 'Mended')], max_length=10)),
                ('at', models.DateTimeField()),
                ('change_g', models.DecimalField(decimal_places=1, default=0, max_digits=10)),
                ('to', models.CharField(blank=True, max_length=80)),
                ('celsius', models.FloatField(blank=True, null=True)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('corrects', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='corrected_by', to='shelf.movement')),
                ('into', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='drawn', to='stove.batch')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('at', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Tub',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('part', models.PositiveSmallIntegerField()),
                ('what', models.CharField(choices=[('sauce', 'Sauce'), ('churned', 'Churned'), ('whites', 'Whites')], default='sauce', max_length=10)),
                ('name', models.CharField(max_length=200)),
                ('family', models.CharField(max_length=40)),
                ('allergens', models.JSONField(default=list)),
                ('vessel', models.CharField(blank=True, max_length=80)),
                ('life', models.JSONField()),
                ('begins', models.JSONField(default=dict)),
                ('made_at', models.DateTimeField()),
                ('ready_at', models.DateTimeField(blank=True, null=True)),
                ('made_g', models.DecimalField(decimal_places=1, max_digits=10)),
                ('left_g', models.DecimalField(decimal_places=1, default=0, max_digits=10)),
                ('promised_g', models.DecimalField(decimal_places=1, default=0, max_digits=10)),
                ('place', models.CharField(choices=[('fridge', 'fridge'), ('frozen', 'frozen'), ('thawing', 'thawing'), ('warm', 'warm')], default='fridge', max_length=10)),
                ('opened_at', models.DateTimeField(blank=True, null=True)),
                ('frozen_at', models.DateTimeField(blank=True, null=True)),
                ('out_at', models.DateTimeField(blank=True, null=True)),
                ('warm_at', models.DateTimeField(blank=True, null=True)),
                ('warm_c', models.FloatField(blank=True, null=True)),
                ('filmed', models.BooleanField(default=False)),
                ('labelled', models.BooleanField(default=False)),
                ('use_by', models.DateTimeField()),
                ('use_by_why', models.CharField(max_length=200)),
                ('batch', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='tubs', to='stove.batch')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tubs', to='kitchen.kitchen')),
                ('parent', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='parts', to='shelf.tub')),
            ],
            options={
                'ordering': ('use_by', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Promise',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('grams', models.DecimalField(decimal_places=1, max_digits=10)),
                ('dish', models.CharField(max_length=80)),
                ('due_at', models.DateTimeField(blank=True, null=True)),
                ('at', models.DateTimeField()),
                ('withdrawn_at', models.DateTimeField(blank=True, null=True)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('kept_by', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='promise', to='shelf.movement')),
                ('tub', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='promises', to='shelf.tub')),
            ],
            options={
                'ordering': ('due_at', 'id'),
            },
        ),
        migrations.AddField(
            model_name='movement',
            name='other',
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='came_by', to='shelf.tub'),
        ),
        migrations.AddField(
            model_name='movement',
            name='tub',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='movements', to='shelf.tub'),
        ),
        migrations.CreateModel(
            name='DayClosing',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('day', models.DateField()),
                ('at', models.DateTimeField()),
                ('content', models.JSONField()),
                ('note', models.CharField(blank=True, max_length=500)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='closings', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('-at', '-id'),
                'indexes': [models.Index(fields=['kitchen', '-day'], name='closings_of_a_day')],
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='dayclosing',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='d96b5f199b54c0158ef93599ee5b98fab2109377', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_8fb64', table='shelf_dayclosing', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='dayclosing',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (NEW.kitchen_id), 'dayclosing', 1, NEW.id::text, record_of_dayclosing_1(NEW)); RETURN NULL;", hash='cf0097991d73173b04a0716bb8f108cae5141018', operation='INSERT', pgid='pgtrigger_chained_32495', table='shelf_dayclosing', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.AddIndex(
            model_name='tub',
            index=models.Index(condition=models.Q(('left_g__gt', 0)), fields=['kitchen', 'use_by', 'id'], name='on_the_shelf'),
        ),
        migrations.AddConstraint(
            model_name='tub',
            constraint=models.UniqueConstraint(fields=('batch', 'what', 'part'), name='tub_of_a_batch'),
        ),
        migrations.AddConstraint(
            model_name='tub',
            constraint=models.CheckConstraint(condition=models.Q(('left_g__gte', 0)), name='never_less_than_nothing'),
        ),
        migrations.AddConstraint(
            model_name='tub',
            constraint=models.CheckConstraint(condition=models.Q(('promised_g__gte', 0), ('promised_g__lte', models.F('left_g'))), name='no_more_promised_than_left'),
        ),
        migrations.AddIndex(
            model_name='movement',
            index=models.Index(fields=['tub', 'at'], name='movements_of_a_tub'),
        ),
        migrations.AddIndex(
            model_name='movement',
            index=models.Index(fields=['kitchen', 'at'], name='movements_of_a_day'),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='movement',
            trigger=pgtrigger.compiler.Trigger(name='append_only', sql=pgtrigger.compiler.UpsertTriggerSql(func="RAISE EXCEPTION 'pgtrigger: Cannot update or delete rows from % table', TG_TABLE_NAME;", hash='3907a346a663cfa3556570bd7bb14424eea4582c', operation='UPDATE OR DELETE', pgid='pgtrigger_append_only_ad318', table='shelf_movement', when='BEFORE')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='movement',
            trigger=pgtrigger.compiler.Trigger(name='chained', sql=pgtrigger.compiler.UpsertTriggerSql(constraint='CONSTRAINT', func="PERFORM records_add('kitchen ' || (NEW.kitchen_id), 'movement', 1, NEW.id::text, record_of_movement_1(NEW)); RETURN NULL;", hash='9543be1ab461ffe8d7d16c10f5aab8daba13a4b8', operation='INSERT', pgid='pgtrigger_chained_c9ec7', table='shelf_movement', timing='DEFERRABLE INITIALLY DEFERRED', when='AFTER')),
        ),
        migrations.RunSQL(MOVES),
    ]
