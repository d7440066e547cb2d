"""What a row is known by in archives: one id each, also for those that were there before."""

import uuid

from django.db import migrations, models


def one_each(apps, schema_editor):
    rows = apps.get_model("outings", "Outing").objects
    for pk in rows.values_list("pk", flat=True):
        rows.filter(pk=pk).update(uid=uuid.uuid4())


class Migration(migrations.Migration):
    dependencies = [("outings", "0005_removed_at")]

    operations = [
        migrations.AddField("outing", "uid", models.UUIDField(default=uuid.uuid4, editable=False)),
        migrations.RunPython(one_each, migrations.RunPython.noop),
        migrations.AddConstraint("outing", models.UniqueConstraint(fields=["owner", "uid"], name="outing_once_per_owner")),
    ]
