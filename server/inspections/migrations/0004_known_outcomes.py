from django.db import migrations, models
from django.db.models import Q


def derive(apps, schema_editor):
    """Inspections whose outcome was told before."""
    rows = apps.get_model("inspections", "Inspection").objects
    rows.filter(document__has_key="outcome").update(has_outcome=True)


class Migration(migrations.Migration):
    dependencies = [("inspections", "0003_finding_things")]

    operations = [
        migrations.AddField("inspection", "has_outcome", models.BooleanField(default=False)),
        migrations.RunPython(derive, migrations.RunPython.noop),
        migrations.AddIndex(
            "inspection",
            models.Index(
                fields=["shop", "-date"],
                name="inspection_with_outcome",
                condition=Q(has_outcome=True),
            ),
        ),
    ]
