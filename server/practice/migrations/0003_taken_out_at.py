"""When an exercise was taken out, not only that: so that it can be put back for whom it was set then."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = (("practice", "0002_named"),)

    operations = (
        migrations.AddField("madeexercise", "taken_out_at", models.DateTimeField(null=True)),
        migrations.RunSQL(
            "UPDATE practice_madeexercise SET taken_out_at = now() WHERE taken_out", migrations.RunSQL.noop
        ),
        migrations.RemoveField("madeexercise", "taken_out"),
    )
