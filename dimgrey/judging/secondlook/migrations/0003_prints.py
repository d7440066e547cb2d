"""What is decided is called by what happens next: printed, waiting, left."""

from django.db import migrations, models

WORDS = {"keep": "print", "doubt": "wait", "let go": "leave"}


def renamed(words):
    def rename(apps, schema_editor):
        rows = apps.get_model("secondlook", "OldPicture").objects
        for before, after in words.items():
            rows.filter(decision=before).update(decision=after)

    return rename


class Migration(migrations.Migration):
    dependencies = [("secondlook", "0002_pictures_apart")]
    operations = [
        migrations.AlterField(
            "oldpicture",
            "decision",
            models.CharField(
                blank=True,
                choices=[("", "not decided"), ("print", "print"), ("wait", "wait"), ("leave", "leave")],
                default="",
                max_length=8,
            ),
        ),
        migrations.RunPython(renamed(WORDS), renamed({after: before for before, after in WORDS.items()})),
    ]
