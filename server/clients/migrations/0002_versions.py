from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("clients", "0001_clients")]

    operations = [
        migrations.AddField(
            model_name="client",
            name="version",
            field=models.PositiveIntegerField(default=1),
        ),
    ]
