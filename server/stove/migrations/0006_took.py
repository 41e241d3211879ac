"""How long the steps of a batch took is written down when it is closed, not computed when a day is opened."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stove', '0005_chained_state'),
    ]

    operations = [
        migrations.AddField(
            model_name='batch',
            name='took',
            field=models.JSONField(blank=True, null=True),
        ),
    ]
