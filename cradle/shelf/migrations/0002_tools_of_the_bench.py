"""What measured at a bench was typed under Shop; now it is a tool of the shelf, chosen there."""

import uuid

from django.db import migrations

_TYPED = "data sheet"
# What the generic tools read to, and their ids.
_GENERIC = {
    ("scale", 1.0): "scale-1",
    ("scale", 0.1): "scale-tenth",
    ("syringe", 0.2): "syringe-10",
    ("dropper", 20.0): "dropper",
    ("pump", 20.0): "pump-20",
    ("pump", 10.0): "pump-10",
}


def choose_from_the_shelf(apps, schema_editor):
    Shop, Product = apps.get_model("shops", "Shop"), apps.get_model("shelf", "Product")
    Revision, Membership = apps.get_model("shelf", "ProductRevision"), apps.get_model("shops", "Membership")

    def put(shop, kind, document):
        product = Product(id=uuid.uuid4(), shop=shop, kind=kind)
        product.document = document | {"id": product.id.hex}
        product.save()
        owner = Membership.objects.filter(shop=shop).order_by("pk").first()
        if owner:
            Revision.objects.create(product=product, number=1, document=product.document, saved_by=owner.person)
        return product.id.hex

    def tool(shop, kind, value, name, **document):
        known = _GENERIC.get((kind, value))
        return known or put(shop, "tool", {"name": name, "kind": kind, "note": "", **document})

    for shop in Shop.objects.all():
        facts = shop.facts
        tools = {
            f"{kind}_id": tool(
                shop, kind, step, name, reads_to=step, unit=unit, sources={"reads_to": _TYPED}
            )
            for kind, step, name, unit in (
                ("scale", facts.get("scale_step_g", 1.0), "Bench scale", "g"),
                ("syringe", facts.get("syringe_step_ml", 0.2), "Syringe", "ml"),
            )
        }
        for at, usual in (("a", 20.0), ("b", 10.0)):
            stroke = facts.get(f"pump_{at}_ml", usual)
            named = f"Pump for part {at.upper()}"
            read = {"reads_to": stroke, "unit": "ml", "sources": {"reads_to": _TYPED}}
            tools[f"pump_{at}_id"] = tool(shop, "pump", stroke, named, **read)
        drops = facts.get("drops_per_ml")
        if drops:
            counted = {"reads_to": 1 / drops, "unit": "ml", "drops_per_ml": drops}
            counted["sources"] = {"reads_to": _TYPED, "drops_per_ml": "shop log"}
            tools["dropper_id"] = tool(shop, "dropper", drops, "Dropper", **counted)
        volume_tool = facts.get("volume_tool", "marked cup")
        tools["by_volume"] = "pumps" if volume_tool == "pumps" else "cup"
        numbered = volume_tool == "numbered cup" and facts.get("cup_ratio")
        mark_ml = facts.get("cup_number_ml", 30.0) if numbered else facts.get("cup_step_ml", 2.0)
        if numbered or mark_ml != 2.0:
            cup = {"name": "Measuring cup", "holds_ml": max(100.0, 10 * mark_ml), "marked_every_ml": mark_ml}
            cup |= {"columns_for": facts.get("cup_ratio", "") if numbered else "", "used_once": False, "note": ""}
            cup["sources"] = {"holds_ml": "memory", "marked_every_ml": _TYPED}
            tools["cup_id"] = put(shop, "vessel", cup)
        shop.facts = facts | {"tools": tools}
        shop.save(update_fields=["facts"])


class Migration(migrations.Migration):
    dependencies = [("shelf", "0001_initial"), ("shops", "0008_withdrawn_links_and_tries")]

    operations = [migrations.RunPython(choose_from_the_shelf, migrations.RunPython.noop)]
