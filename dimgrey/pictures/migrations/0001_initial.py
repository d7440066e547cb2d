import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.CreateModel(
            name="Picture",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("folder", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("original_name", models.CharField(max_length=255)),
                ("kind", models.CharField(blank=True, max_length=16)),
                ("width", models.PositiveIntegerField(default=0)),
                ("height", models.PositiveIntegerField(default=0)),
                ("view_width", models.PositiveIntegerField(default=0)),
                ("view_height", models.PositiveIntegerField(default=0)),
                ("profile", models.CharField(blank=True, max_length=120)),
                ("shot", models.JSONField(default=dict)),
                ("middle_grey_ev100", models.FloatField(null=True)),
                ("scene_linear", models.BooleanField(default=False)),
                ("absolute", models.BooleanField(default=False)),
                ("clip", models.FloatField(null=True)),
                ("simulated_light", models.BooleanField(default=False)),
                ("warnings", models.JSONField(default=list)),
                (
                    "owner",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={"abstract": False},
        ),
    ]
