from django.db import migrations, models
from django.db.models.fields.json import KeyTextTransform


def fill(apps, schema_editor):
    """By which rules each was weighed stands in its assessment."""
    inspections = apps.get_model("inspections", "Inspection").objects
    inspections.update(rules=KeyTextTransform("rules_version", "assessment"))


class Migration(migrations.Migration):
    dependencies = [("inspections", "0007_kept_and_removed")]

    operations = [
        migrations.AddField(
            model_name="inspection",
            name="grade_left",
            field=models.CharField(blank=True, default="", max_length=1),
        ),
        migrations.AddField(
            model_name="inspection",
            name="rules",
            field=models.CharField(blank=True, default="", max_length=40),
        ),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
