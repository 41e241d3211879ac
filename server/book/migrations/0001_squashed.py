"""The tables of book, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('book', '0001_initial'), ('book', '0002_initial'), ('book', '0003_initial'), ('book', '0004_formula_schools'), ('book', '0005_one_clock'), ('book', '0006_kept_lines'), ('book', '0007_reminder')]

    initial = True

    dependencies = [
        ('kitchen', '0001_squashed'),
        ('people', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Formula',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=200)),
                ('family', models.CharField(choices=[('anglaise', 'anglaise'), ('sabayon', 'sabayon'), ('pouring-custard', 'pouring-custard'), ('pastry-cream', 'pastry-cream'), ('cold-start-pudding', 'cold-start-pudding'), ('cremeux', 'cremeux'), ('ice-base', 'ice-base'), ('milk-filling', 'milk-filling'), ('baked-custard', 'baked-custard'), ('burnt-cream', 'burnt-cream')], max_length=40)),
                ('latest', models.PositiveIntegerField(default=0)),
                ('archived_at', models.DateTimeField(blank=True, null=True)),
                ('schools', models.JSONField(blank=True, default=dict)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='formulas', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='FormulaVersion',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('content', models.JSONField()),
                ('content_sum', models.CharField(db_index=True, max_length=64)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('created_at', models.DateTimeField(default=common.clock.now)),
                ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('formula', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='versions', to='book.formula')),
            ],
            options={
                'ordering': ('-number',),
            },
        ),
        migrations.CreateModel(
            name='KeptLine',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('content_sum', models.CharField(max_length=64)),
                ('under', models.CharField(max_length=64)),
                ('word', models.CharField(max_length=20)),
                ('document', models.JSONField()),
                ('computed_at', models.DateTimeField(default=common.clock.now)),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('content_sum', 'under'), name='one_kept_line')],
            },
        ),
        migrations.CreateModel(
            name='Reminder',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('say', models.CharField(max_length=500)),
                ('batch', models.PositiveIntegerField(blank=True, null=True)),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('done_at', models.DateTimeField(blank=True, null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('formula', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='reminders', to='book.formula')),
            ],
            options={
                'ordering': ('-at', '-id'),
            },
        ),
        migrations.AddIndex(
            model_name='formula',
            index=models.Index(fields=['kitchen', 'name'], name='book_formul_kitchen_635327_idx'),
        ),
        migrations.AddConstraint(
            model_name='formulaversion',
            constraint=models.UniqueConstraint(fields=('formula', 'number'), name='one_of_each_version'),
        ),
        migrations.AddConstraint(
            model_name='reminder',
            constraint=models.UniqueConstraint(condition=models.Q(('done_at', None)), fields=('formula', 'say'), name='reminded_once'),
        ),
    ]
