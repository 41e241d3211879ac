"""Which words a column may hold is known where they are written, not to the table."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('devices', '0003_readings_by_month'),
    ]

    operations = [
        migrations.AlterField(
            model_name='device',
            name='kind',
            field=models.CharField(default='scale', max_length=10),
        ),
    ]
