"""Frozen columns are no longer empty; where open batches stand is kept; indexes for what is asked."""

import common.clock
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("stove", "0006_freeze_what_is_there"), ("kitchen", "0004_hob_pan")]

    operations = [
        migrations.AlterField(
            "batch",
            "parameters",
            models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="+", to="stove.parameterset"
            ),
        ),
        *[
            migrations.AlterField("batch", name, models.CharField(max_length=length))
            for name, length in (("name", 200), ("family", 40), ("way", 10), ("planned_coat", 20))
        ],
        *[
            migrations.AlterField("batch", name, models.CharField(blank=True, max_length=length))
            for name, length in (("coat", 20), ("finger_line", 10), ("sieve", 20))
        ],
        migrations.AlterField("batch", "mass_g", models.FloatField()),
        migrations.AlterField("batch", "planned_stop_c", models.FloatField()),
        migrations.RemoveField("batch", "promised_w"),
        migrations.CreateModel(
            name="LiveState",
            fields=[
                (
                    "batch",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="live_state",
                        serialize=False,
                        to="stove.batch",
                    ),
                ),
                ("computed_at", models.DateTimeField(blank=True, null=True)),
                ("claimed_until", models.DateTimeField(blank=True, null=True)),
                ("due_at", models.DateTimeField(default=common.clock.now)),
                ("slot_at", models.DateTimeField(blank=True, null=True)),
                ("turn_at", models.DateTimeField(blank=True, null=True)),
                ("at", models.DateTimeField(blank=True, null=True)),
                ("document", models.JSONField(blank=True, null=True)),
                ("say", models.CharField(blank=True, max_length=200)),
                ("seconds", models.FloatField(blank=True, null=True)),
                ("urgency", models.PositiveSmallIntegerField(default=0)),
                (
                    "kitchen",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="+", to="kitchen.kitchen"
                    ),
                ),
            ],
        ),
        migrations.RemoveIndex(
            model_name='batch',
            name='stove_batch_kitchen_c10a3f_idx',
        ),
        migrations.AddIndex(
            model_name='batch',
            index=models.Index(condition=models.Q(('closed_at', None)), fields=['kitchen', '-started_at'], name='open_batches'),
        ),
        migrations.AddIndex(
            model_name='livestate',
            index=models.Index(fields=['kitchen', '-urgency', 'seconds'], name='most_urgent'),
        ),
        migrations.AddIndex(
            model_name='livestate',
            index=models.Index(fields=['due_at'], name='live_due'),
        ),
    ]
