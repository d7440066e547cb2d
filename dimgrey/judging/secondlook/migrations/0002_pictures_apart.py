"""Small views of old pictures become pictures like all others."""

import django.db.models.deletion
from django.db import migrations, models


def move(apps, schema_editor):
    """Each picture that could be read keeps its folder."""
    pictures = apps.get_model("pictures", "Picture")
    for old in apps.get_model("secondlook", "OldPicture").objects.filter(problem=""):
        old.picture = pictures.objects.create(owner_id=old.owner_id, folder=old.folder, original_name=old.name)
        old.save(update_fields=["picture"])


class Migration(migrations.Migration):
    dependencies = [("secondlook", "0001_initial"), ("pictures", "0001_initial")]

    operations = [
        migrations.AddField(
            "oldpicture",
            "picture",
            models.OneToOneField(
                "pictures.picture", django.db.models.deletion.SET_NULL, null=True, related_name="+"
            ),
        ),
        migrations.RunPython(move, migrations.RunPython.noop),
        migrations.RemoveField("oldpicture", "folder"),
    ]
