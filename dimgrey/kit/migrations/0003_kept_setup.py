"""A kept setup is no longer named like the core's Setup."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("kit", "0002_setups")]

    operations = [
        migrations.RenameModel("Setup", "KeptSetup"),
        migrations.AlterField(
            "setuprevision",
            "setup",
            models.ForeignKey("kit.keptsetup", django.db.models.deletion.CASCADE, related_name="revisions"),
        ),
    ]
