"""A tub can be mended."""

from django.db import migrations, models


class Migration(migrations.Migration):
    """A tub can be mended."""

    dependencies = [
        ('shelf', '0001_initial'),
    ]

    operations = [
        migrations.AlterField(
            model_name='movement',
            name='kind',
            field=models.CharField(choices=[('made', 'Made'), ('used', 'Used'), ('split', 'Split'), ('churned', 'Churned'), ('frozen', 'Frozen'), ('out', 'Out'), ('thawed', 'Thawed'), ('warm', 'Warm'), ('opened', 'Opened'), ('thrown', 'Thrown'), ('counted', 'Counted'), ('film', 'Film'), ('labelled', 'Labelled'), ('undone', 'Undone'), ('mended', 'Mended')], max_length=10),
        ),
    ]
