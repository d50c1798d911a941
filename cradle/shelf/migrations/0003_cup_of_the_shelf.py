"""The usual mixing cup was typed under Shop; now it is a cup of the shelf, chosen there."""

import uuid

from django.db import migrations

_AS_SHIPPED = (20, 1500, None, "polypropylene")


def choose_from_the_shelf(apps, schema_editor):
    Shop, Product = apps.get_model("shops", "Shop"), apps.get_model("shelf", "Product")
    Revision, Membership = apps.get_model("shelf", "ProductRevision"), apps.get_model("shops", "Membership")
    for shop in Shop.objects.all():
        named = zip(("cup_g", "cup_ml", "cup_mm", "cup_made_of"), _AS_SHIPPED, strict=True)
        weighs_g, holds_ml, width_mm, made_of = cup = tuple(shop.facts.get(name, usual) for name, usual in named)
        if cup == _AS_SHIPPED:
            continue
        numbers = {"holds_ml": holds_ml, "weighs_g": weighs_g, "width_mm": width_mm}
        document = {
            "name": "Usual mixing cup",
            "made_of": made_of,
            "used_once": False,
            "note": "",
            **numbers,
            "sources": {name: "shop log" for name, value in numbers.items() if value is not None},
        }
        product = Product(id=uuid.uuid4(), shop=shop, kind="vessel")
        product.document = document | {"id": product.id.hex}
        product.save()
        owner = Membership.objects.filter(shop=shop).order_by("pk").first()
        if owner:
            Revision.objects.create(product=product, number=1, document=product.document, saved_by=owner.person)
        shop.facts = shop.facts | {"tools": shop.facts.get("tools", {}) | {"mixing_id": product.id.hex}}
        shop.save(update_fields=["facts"])


class Migration(migrations.Migration):
    dependencies = [("shelf", "0002_tools_of_the_bench"), ("shops", "0009_country")]

    operations = [migrations.RunPython(choose_from_the_shelf, migrations.RunPython.noop)]
