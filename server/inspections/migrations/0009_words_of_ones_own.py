"""Inspections are found by their notes, parts, codes and findings as well."""

from typing import Any

from django.db import migrations

from core.document.texts import texts
from server.inspections.finding import MOST_WORDS


def fill(apps: Any, schema_editor: Any) -> None:
    rows = apps.get_model("inspections", "Inspection").objects.only("document", "words")
    for row in rows.iterator(chunk_size=200):
        row.words = " ".join([row.words, *texts(row.document)]).lower()[:MOST_WORDS]
        row.save(update_fields=["words"])


class Migration(migrations.Migration):
    dependencies = [("inspections", "0008_rules_and_as_left")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
