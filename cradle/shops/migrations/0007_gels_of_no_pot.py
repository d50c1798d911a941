"""Drops gels that no pot can have, such as both buttons pressed at once: the core refuses to read them."""

from django.db import migrations

SHORTEST_GEL_MIN, LONGEST_GEL_MIN, LEAST_POT_G = 0.05, 20_000, 1


def drop(apps, schema_editor):
    gels = apps.get_model("shops", "Gel").objects
    gels.exclude(
        minutes__gte=SHORTEST_GEL_MIN, minutes__lte=LONGEST_GEL_MIN, mass_g__gte=LEAST_POT_G
    ).delete()


class Migration(migrations.Migration):
    dependencies = [("shops", "0006_cup_of_a_gel")]
    operations = [migrations.RunPython(drop, migrations.RunPython.noop)]
