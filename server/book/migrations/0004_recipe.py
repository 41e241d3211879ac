"""The recipe that a formula was read from stays with it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    """One column."""

    dependencies = [("book", "0003_words")]

    operations = [
        migrations.AddField("formula", "recipe", models.TextField(blank=True, default="")),
    ]
