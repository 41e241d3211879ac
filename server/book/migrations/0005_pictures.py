"""Photographs of recipes and labels."""

import uuid

import common.clock
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    """One table."""

    dependencies = [
        ("book", "0004_recipe"),
        ("kitchen", "0003_words"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="RecipePicture",
            fields=[
                (
                    "id",
                    models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False),
                ),
                ("made_at", models.DateTimeField(default=common.clock.now)),
                ("image", models.BinaryField()),
                ("width", models.PositiveIntegerField()),
                ("height", models.PositiveIntegerField()),
                (
                    "step",
                    models.CharField(
                        choices=[
                            ("waiting", "Waiting"),
                            ("turning", "Turning"),
                            ("reading", "Reading"),
                            ("read", "Read"),
                            ("refused", "Refused"),
                        ],
                        default="waiting",
                        max_length=20,
                    ),
                ),
                ("read_at", models.DateTimeField(blank=True, null=True)),
                ("refused", models.CharField(blank=True, max_length=500)),
                ("text", models.TextField(blank=True)),
                ("doubtful", models.JSONField(blank=True, default=list)),
                (
                    "formula",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="pictures",
                        to="book.formula",
                    ),
                ),
                (
                    "kitchen",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="recipe_pictures",
                        to="kitchen.kitchen",
                    ),
                ),
                (
                    "user",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={"ordering": ("made_at", "id")},
        ),
    ]
