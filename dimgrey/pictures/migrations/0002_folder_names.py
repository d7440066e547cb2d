"""The first version named folders with hyphens; under that name the sweep would take them for nobody's."""

import uuid
from pathlib import Path

from django.conf import settings
from django.db import migrations


def without_hyphens(apps, schema_editor):
    root = Path(settings.DIMGREY_DATA) / "pictures"
    for folder in root.iterdir() if root.is_dir() else ():
        try:
            plain = uuid.UUID(folder.name).hex
        except ValueError:
            continue
        if folder.name != plain and not (root / plain).exists():
            folder.rename(root / plain)


class Migration(migrations.Migration):
    dependencies = [("pictures", "0001_initial")]

    operations = [migrations.RunPython(without_hyphens, migrations.RunPython.noop)]
