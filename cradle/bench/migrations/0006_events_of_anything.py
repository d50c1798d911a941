import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

_KINDS = {
    "goggles on": "goggles on",
    "poured": "touched",
    "used by": "used up",
    "gelled at": "gelled",
    "thickened": "filler in",
    "dumped": "dumped",
    "taken back": "taken back",
}
_ONCE = [
    "opened",
    "closed",
    "touched",
    "stirred",
    "poured over",
    "filler in",
    "half used",
    "used up",
    "left over",
    "gelled",
    "dumped",
    "laid",
    "wetted through",
    "peel ply on",
    "peel ply off",
    "taken out",
]


def rename_kinds(apps, _):
    """What was said of pots, in the words of today. A note beside the filler becomes a note of its own."""
    events = apps.get_model("bench", "Event")
    for old in events.objects.order_by("id"):
        about, subject = ("run", "") if old.kind == "goggles on" else ("pot", str(old.pot))
        data = {"words": old.note} if old.note else {}
        if old.kind == "poured":
            weighed = {"a_g": old.part_a_g, "b_g": old.part_b_g}
            data |= {key: grams for key, grams in weighed.items() if grams is not None}
        if old.kind == "thickened":
            data = {"loose_ml": old.filler_loose_ml or 0.0}
            if old.note:
                _note(events, old, subject)
        events.objects.filter(pk=old.pk).update(about=about, subject=subject, kind=_KINDS[old.kind], data=data)


def _note(events, old, subject):
    import uuid

    events.objects.create(
        run_id=old.run_id,
        tap_id=uuid.uuid5(old.tap_id, "note"),
        pot=old.pot,
        about="pot",
        subject=subject,
        kind="note",
        data={"words": old.note},
        happened_at=old.happened_at,
        by_id=old.by_id,
    )


class Migration(migrations.Migration):
    dependencies = [
        ("bench", "0005_tap_of_a_run"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RemoveConstraint(model_name="potevent", name="each_kind_once_a_pot"),
        migrations.RenameModel(old_name="PotEvent", new_name="Event"),
        migrations.RenameField(model_name="event", old_name="recorded_at", new_name="came_at"),
        migrations.RenameField(model_name="event", old_name="recorded_by", new_name="by"),
        migrations.AddField(model_name="run", name="card", field=models.JSONField(null=True)),
        migrations.AddField(
            model_name="event", name="about", field=models.CharField(default="run", max_length=10)
        ),
        migrations.AddField(
            model_name="event", name="subject", field=models.CharField(blank=True, default="", max_length=200)
        ),
        migrations.AddField(model_name="event", name="data", field=models.JSONField(default=dict)),
        migrations.AddField(
            model_name="event", name="device", field=models.CharField(blank=True, default="", max_length=40)
        ),
        migrations.AlterField(model_name="event", name="kind", field=models.CharField(max_length=20)),
        migrations.RunPython(rename_kinds, migrations.RunPython.noop),
        *(
            migrations.RemoveField(model_name="event", name=name)
            for name in ("pot", "part_a_g", "part_b_g", "filler_loose_ml", "note")
        ),
        migrations.AlterField(
            model_name="event", name="subject", field=models.CharField(blank=True, max_length=200)
        ),
        migrations.AlterField(
            model_name="event", name="device", field=models.CharField(blank=True, max_length=40)
        ),
        migrations.AlterField(
            model_name="event",
            name="takes_back",
            field=models.OneToOneField(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="taken_back_by",
                to="bench.event",
            ),
        ),
        migrations.AddConstraint(
            model_name="event",
            constraint=models.UniqueConstraint(
                condition=models.Q(("kind__in", _ONCE)),
                fields=("run", "about", "subject", "kind", "nth"),
                name="once_of_each_thing",
            ),
        ),
    ]
