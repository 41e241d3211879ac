"""Which families there are is known to the larder, not to the table."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('book', '0002_proposed'),
    ]

    operations = [
        migrations.AlterField(
            model_name='formula',
            name='family',
            field=models.CharField(max_length=40),
        ),
    ]
