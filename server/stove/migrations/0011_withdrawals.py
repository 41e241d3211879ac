"""That a mark was taken back is a row of its own beside it; whom a batch is for, and its allergens."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

MOVE = """
INSERT INTO stove_withdrawal (mark_id, at, by_id)
SELECT id, withdrawn_at, NULL FROM stove_mark WHERE withdrawn_at IS NOT NULL
"""
ALLERGENS = "UPDATE stove_batch SET allergens = COALESCE(plan -> 'allergens', '[]')"


class Migration(migrations.Migration):
    """What was taken back so far goes along."""

    dependencies = [
        ("stove", "0010_cooling"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.CreateModel(
            name="Withdrawal",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("at", models.DateTimeField()),
            ],
        ),
        migrations.AddField(
            model_name="batch",
            name="vulnerable",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="batch",
            name="allergens",
            field=models.JSONField(default=list),
        ),
        migrations.RunSQL(ALLERGENS, migrations.RunSQL.noop),
        migrations.AlterField(
            model_name="mark",
            name="by",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AlterField(
            model_name="mark",
            name="kind",
            field=models.CharField(
                choices=[
                    ("done", "Done"),
                    ("tick", "Tick"),
                    ("check", "Check"),
                    ("spoon", "Spoon"),
                    ("sieve", "Sieve"),
                    ("off-heat", "Off Heat"),
                    ("into-ice", "Into Ice"),
                    ("moment", "Moment"),
                    ("pour", "Pour"),
                    ("sign", "Sign"),
                    ("bubbles", "Bubbles"),
                    ("hands-off", "Hands Off"),
                    ("stirring", "Stirring"),
                    ("sugar-on", "Sugar On"),
                    ("wrong", "Wrong"),
                    ("alarm", "Alarm"),
                    ("silence", "Silence"),
                    ("nudge", "Nudge"),
                    ("infusing", "Infusing"),
                    ("top-up", "Top Up"),
                    ("spot", "Spot"),
                    ("moved", "Moved"),
                    ("decided", "Decided"),
                    ("film", "Film"),
                    ("pasteurised", "Pasteurised"),
                    ("closed", "Closed"),
                    ("reopened", "Reopened"),
                ],
                max_length=12,
            ),
        ),
        migrations.AddField(
            model_name="withdrawal",
            name="by",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddField(
            model_name="withdrawal",
            name="mark",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.PROTECT, related_name="withdrawal", to="stove.mark"
            ),
        ),
        migrations.RunSQL(MOVE, migrations.RunSQL.noop),
    ]
