import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("engines", "0003_clients")]

    operations = [
        migrations.AddField(
            model_name="engine",
            name="version",
            field=models.PositiveIntegerField(default=1),
        ),
        migrations.AddField(
            model_name="engine",
            name="merged_into",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="merged",
                to="engines.engine",
            ),
        ),
    ]
