"""Batches keep what they were made under; what they came to stands in columns."""

import django.db.models.deletion
from django.db import migrations, models

TIMES = ("weighed_at", "warmed_at", "tempered_at", "cooked_at", "tested_at", "chilled_at", "kept_at")


def text(length, **more):
    """A short text that may be empty."""
    return models.CharField(max_length=length, blank=True, default="", **more)


def number():
    """A figure that may be unknown."""
    return models.FloatField(blank=True, null=True)


class Migration(migrations.Migration):
    dependencies = [
        ("stove", "0004_nudged_cups"),
        ("kitchen", "0001_initial"),
    ]

    operations = [
        migrations.CreateModel(
            name="ParameterSet",
            fields=[
                ("version", models.CharField(max_length=16, primary_key=True, serialize=False)),
                ("values", models.JSONField()),
            ],
        ),
        *[
            migrations.AddField("batch", name, models.JSONField(default=dict))
            for name in ("schools", "conditions", "equipment")
        ],
        migrations.AddField(
            "batch",
            "parameters",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="+",
                to="stove.parameterset",
            ),
        ),
        *[
            migrations.AddField("batch", name, text(length))
            for name, length in (
                ("name", 200),
                ("family", 40),
                ("way", 10),
                ("planned_coat", 20),
                ("coat", 20),
                ("finger_line", 10),
                ("sieve", 20),
            )
        ],
        migrations.AddField("batch", "stage", models.CharField(default="weigh", max_length=10)),
        migrations.AddField("batch", "mass_g", models.FloatField(default=0)),
        migrations.AddField("batch", "planned_stop_c", models.FloatField(default=0)),
        *[
            migrations.AddField("batch", name, number())
            for name in (
                "planned_landing_c",
                "landed_c",
                "lifted_c",
                "peak_c",
                "yield_g",
                "fitted_w",
                "fitted_pan_share",
                "shift_k",
            )
        ],
        *[
            migrations.AddField("batch", name, models.DateTimeField(blank=True, null=True))
            for name in (*TIMES, "taught_at")
        ],
        migrations.AlterField("mark", "what", models.CharField(blank=True, max_length=30)),
    ]
