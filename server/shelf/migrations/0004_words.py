"""Which words a column may hold is known where they are written, not to the table."""

import custard.vocabulary
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('shelf', '0003_chained_state'),
    ]

    operations = [
        migrations.AlterField(
            model_name='movement',
            name='kind',
            field=models.CharField(max_length=10),
        ),
        migrations.AlterField(
            model_name='tub',
            name='place',
            field=models.CharField(default=custard.vocabulary.Place['FRIDGE'], max_length=10),
        ),
        migrations.AlterField(
            model_name='tub',
            name='what',
            field=models.CharField(default='sauce', max_length=10),
        ),
    ]
