"""What the Book shows of a mix is kept by what it was computed from."""

import hashlib
import json

import common.clock
from django.db import migrations, models


def fill_sums(apps, _editor):
    """The sum of every version there is."""
    versions = apps.get_model("book", "FormulaVersion")
    for version in versions.objects.iterator(chunk_size=500):
        content = {name: part for name, part in version.content.items() if name != "name"}
        version.content_sum = hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()
        version.save(update_fields=["content_sum"])


class Migration(migrations.Migration):
    dependencies = [("book", "0005_one_clock")]

    operations = [
        migrations.AddField("formulaversion", "content_sum", models.CharField(default="", max_length=64)),
        migrations.RunPython(fill_sums, migrations.RunPython.noop),
        migrations.AlterField("formulaversion", "content_sum", models.CharField(db_index=True, max_length=64)),
        migrations.CreateModel(
            name="KeptLine",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("content_sum", models.CharField(max_length=64)),
                ("under", models.CharField(max_length=64)),
                ("word", models.CharField(max_length=20)),
                ("document", models.JSONField()),
                ("computed_at", models.DateTimeField(default=common.clock.now)),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("content_sum", "under"), name="one_kept_line")
                ],
            },
        ),
    ]
