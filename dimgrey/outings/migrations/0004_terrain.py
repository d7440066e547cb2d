from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("outings", "0003_forecast")]
    operations = [migrations.AddField("outing", "terrain", models.JSONField(default=list))]
