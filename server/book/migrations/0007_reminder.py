"""What to do otherwise next time."""

import common.clock
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    """What to do otherwise next time."""

    dependencies = [
        ('book', '0006_kept_lines'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Reminder',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('say', models.CharField(max_length=500)),
                ('batch', models.PositiveIntegerField(blank=True, null=True)),
                ('at', models.DateTimeField(default=common.clock.now)),
                ('done_at', models.DateTimeField(blank=True, null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('formula', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='reminders', to='book.formula')),
            ],
            options={
                'ordering': ('-at', '-id'),
                'constraints': [models.UniqueConstraint(condition=models.Q(('done_at', None)), fields=('formula', 'say'), name='reminded_once')],
            },
        ),
    ]
