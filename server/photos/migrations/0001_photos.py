import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import server.photos.models


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("shops", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Photo",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("sha256", models.CharField(max_length=64)),
                (
                    "file",
                    models.FileField(max_length=200, upload_to=server.photos.models.place),
                ),
                ("width", models.PositiveIntegerField()),
                ("height", models.PositiveIntegerField()),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="photos",
                        to="shops.shop",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=["shop", "sha256"], name="one_photo_a_shop")
                ]
            },
        ),
    ]
