import django.contrib.postgres.fields
import django.contrib.postgres.indexes
from django.contrib.postgres.operations import TrigramExtension
from django.db import migrations, models


def derive(apps, schema_editor):
    """What is found by, for inspections that were there before."""
    from server.inspections.finding import suspected, words

    for one in apps.get_model("inspections", "Inspection").objects.select_related(
        "engine", "opened_by"
    ):
        one.words = words(one)
        one.suspected = suspected(one.assessment)
        one.save(update_fields=["words", "suspected"])


class Migration(migrations.Migration):
    dependencies = [("inspections", "0002_devices_and_conflicts")]

    operations = [
        TrigramExtension(),
        migrations.AddField("inspection", "words", models.TextField(default="")),
        migrations.AddField(
            "inspection",
            "suspected",
            django.contrib.postgres.fields.ArrayField(
                models.CharField(max_length=40), default=list
            ),
        ),
        migrations.RunPython(derive, migrations.RunPython.noop),
        migrations.AddIndex(
            "inspection",
            django.contrib.postgres.indexes.GinIndex(
                fields=["words"], name="inspection_words", opclasses=["gin_trgm_ops"]
            ),
        ),
        migrations.AddIndex(
            "inspection",
            django.contrib.postgres.indexes.GinIndex(
                fields=["suspected"], name="inspection_suspected"
            ),
        ),
        migrations.AddIndex(
            "inspection",
            models.Index(
                fields=["shop", "grade", "-date", "-opened", "id"], name="inspection_by_grade"
            ),
        ),
        migrations.AddIndex(
            "inspection",
            models.Index(fields=["engine", "-date", "-opened", "id"], name="inspection_by_engine"),
        ),
    ]
