import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("inspections", "0002_devices_and_conflicts"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Signing",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("at", models.DateTimeField()),
                ("sequence", models.PositiveIntegerField()),
                ("digest", models.CharField(max_length=64)),
                ("content", models.JSONField()),
                ("reopened_at", models.DateTimeField(null=True)),
                ("reason", models.TextField(blank=True)),
                (
                    "by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "inspection",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="signings",
                        to="inspections.inspection",
                    ),
                ),
                (
                    "reopened_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={"ordering": ["at", "id"]},
        ),
        migrations.CreateModel(
            name="ReportLink",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("secret_sha256", models.CharField(max_length=64, unique=True)),
                ("units", models.CharField(default="as-read", max_length=10)),
                ("photos", models.BooleanField(default=False)),
                ("made", models.DateTimeField(auto_now_add=True)),
                ("expires", models.DateTimeField()),
                ("revoked_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "inspection",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="links",
                        to="inspections.inspection",
                    ),
                ),
            ],
            options={"ordering": ["-made"]},
        ),
    ]
