"""The benches of a shop, the instruments at them, and what of their readings is kept."""

import uuid

from django.conf import settings
from django.db import models

from cradle.bench.models import Run
from cradle.shops.models import Shop
from layup.instruments.lines import LineShape


class Place(models.Model):
    """A bench of the shop: where instruments stand, and the run that is worked there now."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="places")
    name = models.CharField(max_length=40)
    run = models.ForeignKey(Run, null=True, on_delete=models.SET_NULL, related_name="+")
    # Who put the run there: what the instruments write down is by him.
    put_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    # The pot that the thermometer is pointed at, where one was chosen.
    pot = models.PositiveIntegerField(null=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["shop", "name"], name="one_bench_of_a_name")]

    def __str__(self):
        return self.name


class Kind(models.TextChoices):
    SCALE = "scale"
    THERMOMETER = "thermometer"
    ROOM = "room"


class Instrument(models.Model):
    """One instrument at a bench: on a serial port, or one that posts its readings with a token of its own."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    place = models.ForeignKey(Place, on_delete=models.CASCADE, related_name="instruments")
    kind = models.CharField(max_length=12, choices=Kind)
    name = models.CharField(max_length=60)
    # What the port is called where it is plugged in again; none of one that posts.
    port = models.CharField(max_length=200, blank=True)
    baud = models.PositiveIntegerField(default=9600)
    # How its lines are read, where none of the shapes that ship does; the unit where its lines name none.
    pattern = models.CharField(max_length=2000, blank=True)
    unit = models.CharField(max_length=4, blank=True)
    # Of a token only this is kept.
    token_hash = models.CharField(max_length=64, blank=True, db_index=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["place__name", "kind", "name"]
        constraints = [
            models.UniqueConstraint(
                fields=["place", "kind"],
                condition=models.Q(withdrawn_at=None),
                name="one_instrument_of_a_kind_at_a_bench",
            )
        ]

    def __str__(self):
        return f"{self.name}, {self.place}"

    @property
    def shape(self) -> LineShape | None:
        """Its own way to be read, if it has one."""
        return LineShape(name=self.name, pattern=self.pattern) if self.pattern else None


class Warmth(models.Model):
    """The surface of a pot as a thermometer read it, one in five seconds."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="warmths")
    pot = models.PositiveIntegerField()
    at = models.DateTimeField()
    temperature_c = models.FloatField()

    class Meta:
        ordering = ["at", "id"]
        indexes = [models.Index(fields=["run", "pot", "at"])]

    def __str__(self):
        return f"pot {self.pot}, {self.temperature_c} °C"


class ScaleCheck(models.Model):
    """What a scale showed of a known weight."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="checks")
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    known_g = models.FloatField()
    shown_g = models.FloatField()

    class Meta:
        ordering = ["-at"]

    def __str__(self):
        return f"{self.shown_g} of {self.known_g} g"

    @property
    def off_g(self) -> float:
        return self.shown_g - self.known_g
