"""Pictures become rows of a room of their own, which scenes point at; revisions know the act that made them."""

import django.db.models.deletion
from django.db import migrations, models

FACTS = (
    "owner_id", "folder", "original_name", "kind", "width", "height", "view_width", "view_height", "profile",
    "middle_grey_ev100", "scene_linear", "absolute", "clip", "simulated_light", "warnings",
)  # fmt: skip


def move(apps, schema_editor):
    """Each picture keeps its folder and its facts; its scene points at it."""
    before, after = apps.get_model("scenes", "Picture"), apps.get_model("pictures", "Picture")
    scenes = apps.get_model("scenes", "Scene")
    for old in before.objects.all():
        new = after.objects.create(shot=old.exposure, **{name: getattr(old, name) for name in FACTS})
        scenes.objects.filter(pk=old.scene_id).update(picture_id=new.pk)


class Migration(migrations.Migration):
    dependencies = [("scenes", "0001_initial"), ("pictures", "0001_initial")]

    operations = [
        migrations.AlterField(
            "picture", "scene", models.OneToOneField("scenes.scene", django.db.models.deletion.CASCADE, related_name="+")
        ),
        migrations.AddField(
            "scene",
            "picture",
            models.OneToOneField(
                "pictures.picture", django.db.models.deletion.SET_NULL, null=True, related_name="+"
            ),
        ),
        migrations.RunPython(move, migrations.RunPython.noop),
        migrations.DeleteModel("Picture"),
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.RenameField("scene", "document", "kept"),
                migrations.AlterField("scene", "kept", models.JSONField(db_column="document")),
                migrations.RenameField("revision", "document", "kept"),
                migrations.AlterField("revision", "kept", models.JSONField(db_column="document")),
            ]
        ),
        migrations.AddField("revision", "act", models.UUIDField(null=True, unique=True)),
        migrations.AddField("revision", "done_at", models.DateTimeField(null=True)),
    ]
