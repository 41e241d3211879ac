"""The tables of day, made from nothing; a database that went through all that this replaces is taken as it is."""

import common.clock
import django.core.validators
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('day', '0001_initial'), ('day', '0002_nothing_asked'), ('day', '0003_thrown_away')]

    initial = True

    dependencies = [
        ('book', '0001_squashed'),
        ('kitchen', '0001_squashed'),
        ('people', '0001_squashed'),
        ('stove', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Calendar',
            fields=[
                ('kitchen', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='kitchen.kitchen')),
                ('secret_sum', models.CharField(max_length=64, unique=True)),
                ('made_at', models.DateTimeField(default=common.clock.now)),
            ],
        ),
        migrations.CreateModel(
            name='Day',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('date', models.DateField(blank=True, null=True)),
                ('name', models.CharField(blank=True, max_length=80)),
                ('room', models.JSONField(default=dict)),
                ('revision', models.PositiveIntegerField(default=1)),
                ('created_at', models.DateTimeField(default=common.clock.now)),
                ('thrown_away_at', models.DateTimeField(blank=True, null=True)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='days', to='kitchen.kitchen')),
            ],
            options={
                'ordering': ('-date', 'name', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Plan',
            fields=[
                ('day', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='plan', serialize=False, to='day.day')),
                ('revision', models.PositiveIntegerField()),
                ('state', models.CharField(max_length=10)),
                ('made_at', models.DateTimeField()),
                ('document', models.JSONField(default=dict)),
                ('late_min', models.PositiveIntegerField(default=0)),
                ('gap', models.FloatField(default=1)),
                ('proven', models.BooleanField(default=False)),
                ('why', models.CharField(blank=True, max_length=1000)),
                ('helps', models.JSONField(default=list)),
                ('risks', models.JSONField(default=list)),
            ],
        ),
        migrations.CreateModel(
            name='Hands',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('revision', models.PositiveIntegerField(default=1)),
                ('name', models.CharField(max_length=80)),
                ('there', models.JSONField()),
                ('day', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='hands', to='day.day')),
            ],
            options={
                'verbose_name_plural': 'hands',
                'ordering': ('id',),
            },
        ),
        migrations.CreateModel(
            name='InHouse',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('ingredient', models.CharField(max_length=80)),
                ('amount', models.CharField(max_length=40)),
                ('grams', models.FloatField()),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='in_house', to='kitchen.kitchen')),
            ],
            options={
                'verbose_name_plural': 'in the house',
            },
        ),
        migrations.CreateModel(
            name='Other',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('revision', models.PositiveIntegerField(default=1)),
                ('name', models.CharField(max_length=80)),
                ('minutes', models.FloatField(validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(1440)])),
                ('hands', models.BooleanField(default=True)),
                ('needs', models.CharField(blank=True, max_length=10)),
                ('by', models.IntegerField(blank=True, null=True)),
                ('day', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='others', to='day.day')),
            ],
            options={
                'ordering': ('by', 'id'),
            },
        ),
        migrations.CreateModel(
            name='Pin',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('job', models.CharField(max_length=40)),
                ('step', models.CharField(max_length=20)),
                ('start', models.IntegerField()),
                ('day', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pins', to='day.day')),
                ('hands', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='day.hands')),
            ],
        ),
        migrations.CreateModel(
            name='StepDone',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('job', models.CharField(max_length=40)),
                ('step', models.CharField(max_length=20)),
                ('began_at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(blank=True, null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('day', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='done', to='day.day')),
                ('hands', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='day.hands')),
            ],
        ),
        migrations.CreateModel(
            name='Want',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('revision', models.PositiveIntegerField(default=1)),
                ('name', models.CharField(max_length=80)),
                ('at', models.IntegerField()),
                ('covers', models.FloatField(default=1, validators=[django.core.validators.MinValueValidator(0.01), django.core.validators.MaxValueValidator(10000)])),
                ('each', models.CharField(blank=True, max_length=40)),
                ('batch', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='wanted_by', to='stove.batch')),
                ('day', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='wants', to='day.day')),
                ('formula', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='book.formula')),
            ],
            options={
                'ordering': ('at', 'id'),
            },
        ),
        migrations.AddConstraint(
            model_name='day',
            constraint=models.UniqueConstraint(condition=models.Q(('date__isnull', False)), fields=('kitchen', 'date'), name='one_day_a_date'),
        ),
        migrations.AddConstraint(
            model_name='day',
            constraint=models.UniqueConstraint(condition=models.Q(('date', None), ('thrown_away_at', None)), fields=('kitchen', 'name'), name='one_template_a_name'),
        ),
        migrations.AddConstraint(
            model_name='inhouse',
            constraint=models.UniqueConstraint(fields=('kitchen', 'ingredient'), name='in_the_house_once'),
        ),
        migrations.AddConstraint(
            model_name='pin',
            constraint=models.UniqueConstraint(fields=('day', 'job', 'step'), name='one_pin_a_step'),
        ),
        migrations.AddConstraint(
            model_name='stepdone',
            constraint=models.UniqueConstraint(fields=('day', 'job', 'step'), name='one_doing_a_step'),
        ),
    ]
