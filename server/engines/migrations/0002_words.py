import django.contrib.postgres.indexes
from django.contrib.postgres.operations import TrigramExtension
from django.db import migrations, models
from django.db.models import Value
from django.db.models.functions import Concat, Lower


def derive(apps, schema_editor):
    """What engines that were there before are found by."""
    said = Lower(Concat("title", Value(" "), "identifier"))
    apps.get_model("engines", "Engine").objects.update(words=said)


class Migration(migrations.Migration):
    dependencies = [("engines", "0001_initial")]

    operations = [
        TrigramExtension(),
        migrations.AddField("engine", "words", models.TextField(default="")),
        migrations.RunPython(derive, migrations.RunPython.noop),
        migrations.AddIndex(
            "engine",
            django.contrib.postgres.indexes.GinIndex(
                fields=["words"], name="engine_words", opclasses=["gin_trgm_ops"]
            ),
        ),
    ]
