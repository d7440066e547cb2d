import django.db.models.deletion
from django.db import migrations, models


def one_becomes_several(apps, schema_editor):
    for row in apps.get_model("practice", "Assignment").objects.exclude(result=None):
        row.results.add(row.result_id)


def begun_with_its_week(apps, schema_editor):
    apps.get_model("practice", "Assignment").objects.update(begun=models.F("week"))


class Migration(migrations.Migration):
    dependencies = [("practice", "0001_initial")]

    operations = [
        migrations.AddField("assignment", "results", models.ManyToManyField(related_name="+", to="results.result")),
        migrations.RunPython(one_becomes_several, migrations.RunPython.noop),
        migrations.RemoveField("assignment", "result"),
        migrations.AddField(
            "assignment",
            "span",
            models.CharField(choices=[("week", "a week"), ("month", "a month")], default="week", max_length=8),
        ),
        migrations.AddField("assignment", "begun", models.DateField(null=True)),
        migrations.RunPython(begun_with_its_week, migrations.RunPython.noop),
        migrations.AlterField("assignment", "begun", models.DateField()),
        migrations.AddField(
            "assignment",
            "old_scene",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="scenes.scene"
            ),
        ),
        migrations.RemoveConstraint("assignment", "task_once_a_week"),
        migrations.AddConstraint(
            "assignment",
            models.UniqueConstraint(fields=("owner", "span", "week", "key"), name="task_once_a_week"),
        ),
        migrations.AlterModelOptions("assignment", {"ordering": ["week", "pk"]}),
    ]
