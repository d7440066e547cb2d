"""A forecast is shown where it was chosen: the stand-in makes its weather up. The demo outing keeps its own."""

from django.db import migrations, models


def keep_demo(apps, schema_editor):
    apps.get_model("outings", "Outing").objects.filter(title="Tannet Yard").update(forecast=True)


class Migration(migrations.Migration):
    dependencies = [("outings", "0002_light")]
    operations = [
        migrations.AddField("outing", "forecast", models.BooleanField(default=False)),
        migrations.RunPython(keep_demo, migrations.RunPython.noop),
    ]
