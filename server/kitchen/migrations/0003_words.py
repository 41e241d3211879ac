"""Which words a column may hold is known where they are written, not to the table."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('kitchen', '0002_chained_state'),
    ]

    operations = [
        migrations.AlterField(
            model_name='cooler',
            name='by',
            field=models.CharField(max_length=20),
        ),
        migrations.AlterField(
            model_name='invitation',
            name='role',
            field=models.CharField(max_length=10),
        ),
        migrations.AlterField(
            model_name='kitchen',
            name='cooling_rule',
            field=models.CharField(default='codex', max_length=10),
        ),
        migrations.AlterField(
            model_name='kitchen',
            name='eggs',
            field=models.CharField(default='EU-M', max_length=20),
        ),
        migrations.AlterField(
            model_name='kitchen',
            name='measures',
            field=models.CharField(default='metric', max_length=20),
        ),
        migrations.AlterField(
            model_name='membership',
            name='role',
            field=models.CharField(max_length=10),
        ),
        migrations.AlterField(
            model_name='pan',
            name='kind',
            field=models.CharField(max_length=20),
        ),
        migrations.AlterField(
            model_name='vessel',
            name='kind',
            field=models.CharField(max_length=10),
        ),
    ]
