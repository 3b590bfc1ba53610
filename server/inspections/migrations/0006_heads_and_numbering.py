"""What each row knew, and what stands open because of it; the cylinders' first numbers."""

from django.db import migrations, models
from django.db.models import F


def carry_over(apps, schema_editor):
    """Rows from before knew all there was, but for those that stood undecided."""
    rows = apps.get_model("inspections", "Observation").objects
    rows.update(place=F("path"))
    for row in rows.filter(overrode__isnull=False).select_related("inspection", "overrode"):
        later = rows.filter(inspection=row.inspection, path=row.path, sequence__gt=row.sequence)
        if not later.exists():
            row.inspection.conflicts[row.path] = [row.sequence, row.overrode.sequence]
            row.inspection.save(update_fields=["conflicts"])


class Migration(migrations.Migration):
    dependencies = [("inspections", "0005_follow_up")]

    operations = [
        migrations.AddField("inspection", "numbering", models.JSONField(default=list)),
        migrations.AddField("inspection", "conflicts", models.JSONField(default=dict)),
        migrations.AddField("observation", "place", models.CharField(max_length=300, default="")),
        migrations.AddField("observation", "made", models.DateTimeField(null=True)),
        migrations.AddField("observation", "seen", models.PositiveIntegerField(null=True)),
        migrations.AddField("observation", "held", models.BooleanField(default=False)),
        migrations.AddField("observation", "keeps", models.BooleanField(default=False)),
        migrations.RunPython(carry_over, migrations.RunPython.noop),
        migrations.RemoveField("observation", "overrode"),
        migrations.AlterField("observation", "place", models.CharField(max_length=300)),
    ]
