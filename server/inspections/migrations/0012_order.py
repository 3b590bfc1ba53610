from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("inspections", "0011_sent_by")]

    operations = [
        migrations.AddField(
            model_name="observation",
            name="order",
            field=models.BigIntegerField(null=True),
        ),
    ]
