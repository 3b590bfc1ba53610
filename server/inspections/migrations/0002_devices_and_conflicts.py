import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("inspections", "0001_initial")]

    operations = [
        migrations.AddField("observation", "device", models.UUIDField(null=True)),
        migrations.AddField(
            "observation",
            "overrode",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="+",
                to="inspections.observation",
            ),
        ),
    ]
