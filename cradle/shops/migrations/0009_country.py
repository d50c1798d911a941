"""What a comma is was asked by itself; now it follows from the country whose numbers a shop writes."""

from django.db import migrations


def choose_a_country(apps, schema_editor):
    for shop in apps.get_model("shops", "Shop").objects.all():
        parts_thousands = shop.facts.pop("thousands_comma", None)
        if parts_thousands is not None:
            english = "en-US" if shop.currency == "USD" else "en-GB"
            shop.facts["locale"] = english if parts_thousands else "en-DE"
        shop.save(update_fields=["facts"])


class Migration(migrations.Migration):
    dependencies = [("shops", "0008_withdrawn_links_and_tries")]
    operations = [migrations.RunPython(choose_a_country, migrations.RunPython.noop)]
