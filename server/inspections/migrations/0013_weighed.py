from django.db import migrations, models
from django.db.models import F


def fill(apps, schema_editor):
    """Until now nothing was kept before it was weighed."""
    apps.get_model("inspections", "Inspection").objects.update(weighed=F("sequence"))


class Migration(migrations.Migration):
    dependencies = [("inspections", "0012_order")]

    operations = [
        migrations.AddField(
            model_name="inspection",
            name="weighed",
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
