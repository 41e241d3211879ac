from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("practice", "0001_initial")]

    operations = [
        migrations.RenameModel("Made", "MadeExercise"),
        migrations.RenameModel("Set", "SetExercise"),
        migrations.AlterModelOptions("setexercise", options={"ordering": ("-set_at", "-id")}),
    ]
