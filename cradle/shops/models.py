"""A shop, its people, and what a plan takes from it."""

import uuid
from datetime import datetime
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import models
from django.utils import timezone

from cradle.shops.facts import facts_of
from layup.scales import UnitSet
from layup.shop_facts import LoggedGel, LoggedShot, RoomDay, ShopFacts, StirredFiller
from layup.week.people import ShopWeek


def _default_facts() -> dict:
    return ShopFacts().model_dump(mode="json")


class ShopQuerySet(models.QuerySet):
    def of(self, person):
        """The shops a person belongs to."""
        return self.filter(memberships__person=person)


class Shop(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=50, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    # Whether nobody works at its tablets by his initials alone.
    short_numbers = models.BooleanField(default=False)
    facts = models.JSONField(default=_default_facts)
    conditions_read_at = models.DateTimeField(auto_now_add=True)
    # The coldest and warmest expected, and the date they are for: they end with that day.
    expected = models.JSONField(null=True)
    # The room hour by hour, as read from a file, and where it came from.
    forecast = models.JSONField(default=list)
    forecast_from = models.CharField(max_length=80, blank=True)
    # Who works when, the days it is shut, its pumps.
    week = models.JSONField(default=dict)
    # Stands in the address of the calendar that others subscribe to.
    calendar_token = models.CharField(max_length=64, blank=True)

    objects = ShopQuerySet.as_manager()

    def __str__(self):
        return self.name

    def now(self) -> datetime:
        """The moment by the shop's own clock."""
        return timezone.localtime(timezone.now(), ZoneInfo(self.time_zone))

    def shop_facts(self, units: UnitSet = "metric") -> ShopFacts:
        """What plans take from the shop today, with the units that words are wanted in."""
        return facts_of(self, units)

    def shop_week(self) -> ShopWeek:
        """Who works when, as it was written down last."""
        return ShopWeek.model_validate(self.week)

    def room_day(self) -> RoomDay | None:
        """What is expected of the room today, where somebody said."""
        if not self.expected or self.expected["date"] != self.now().date().isoformat():
            return None
        return RoomDay(coldest_c=self.expected["coldest_c"], warmest_c=self.expected["warmest_c"])


class Reading(models.Model):
    """One reading of a shop's room, as it was kept."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="readings")
    read_at = models.DateTimeField(default=timezone.now)
    read_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    room_c = models.FloatField()
    surface_c = models.FloatField(null=True)
    humidity_pct = models.FloatField(null=True)

    class Meta:
        ordering = ["read_at"]

    def __str__(self):
        return f"{self.room_c} °C, {self.read_at:%Y-%m-%d %H:%M}"


class Learned(models.Model):
    """A record of the log that the shop learns from. One that is left out, with a reason, stays and teaches nothing."""

    left_out = models.CharField(max_length=300, blank=True)
    left_out_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        abstract = True


class Gel(Learned):
    """A pot of this shop that gelled, as the gel law reads it. It stands beside the event of the bench that told it."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="gels")
    tap_id = models.UUIDField(unique=True)
    gelled_at = models.DateTimeField()
    resin_id = models.CharField(max_length=60)
    hardener_id = models.CharField(max_length=60, blank=True)
    minutes = models.FloatField()
    temperature_c = models.FloatField()
    mass_g = models.FloatField()
    # The inner width of the cup it stood in; unknown of gels from before it was asked.
    cup_mm = models.FloatField(null=True)
    catalyst_pct = models.FloatField(null=True)
    # The deviation of ln of its minutes, where it was heard by its surface and not seen.
    spread = models.FloatField(default=0.0)

    class Meta:
        ordering = ["gelled_at", "id"]

    def __str__(self):
        return f"{self.resin_id} {self.hardener_id} gelled in {self.minutes:.0f} min"

    def fact(self) -> LoggedGel:
        """What the core learns from it."""
        fields = LoggedGel.model_fields
        return LoggedGel.model_validate({name: getattr(self, name) for name in fields})


class Stirred(Learned):
    """A pot of this shop that was thickened: what its filler really took. It stands beside the event that told it."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="stirred")
    tap_id = models.UUIDField(unique=True)
    stirred_at = models.DateTimeField()
    filler_id = models.CharField(max_length=60)
    consistency = models.CharField(max_length=10)
    parts = models.FloatField()

    class Meta:
        ordering = ["stirred_at", "id"]

    def __str__(self):
        return f"{self.filler_id} {self.consistency} at {self.parts:.2f} parts"

    def fact(self) -> StirredFiller:
        """What the core learns from it."""
        return StirredFiller(filler_id=self.filler_id, consistency=self.consistency, parts=self.parts)


class Shot(Learned):
    """An infusion of this shop whose front was seen at a mark: how open its bed was by the last of them. It is made anew with
    each event of its flow.
    """

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="shots")
    seen_at = models.DateTimeField()
    run_id = models.UUIDField()
    flow_id = models.CharField(max_length=80)
    bed = models.CharField(max_length=400)
    pull_mbar = models.FloatField()
    times = models.FloatField()

    class Meta:
        ordering = ["seen_at", "id"]
        constraints = (models.UniqueConstraint(fields=("run_id", "flow_id"), name="one_of_each_shot"),)

    def __str__(self):
        return f"{self.bed} was {self.times:.2f} times as open"

    def fact(self) -> LoggedShot:
        """What the core learns from it."""
        return LoggedShot(bed=self.bed, pull_mbar=self.pull_mbar, times=self.times)


class Deed(models.Model):
    """What somebody did in a shop, for its owners to read. What the same person does to the same thing again within the hour is
    counted, not written anew.
    """

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="deeds")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    what = models.CharField(max_length=40)
    thing_id = models.CharField(max_length=80, blank=True)
    # What the thing was called then.
    thing = models.CharField(max_length=200, blank=True)
    begun_at = models.DateTimeField(default=timezone.now)
    last_at = models.DateTimeField(default=timezone.now)
    times = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-last_at", "-id"]
        indexes = [models.Index(fields=["shop", "-last_at"])]

    def __str__(self):
        return f"{self.by} {self.what} {self.thing}"


class Preferences(models.Model):
    """How one person wants the screens: their units, look, single-key shortcuts, and the hints already closed."""

    class Units(models.TextChoices):
        METRIC = "metric"
        US = "US"
        AS_TYPED = "as typed"

    class Look(models.TextChoices):
        DEVICE = "as the device"
        LIGHT = "light"
        NIGHT = "night"

    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="preferences")
    units = models.CharField(max_length=10, choices=Units, default=Units.AS_TYPED)
    look = models.CharField(max_length=15, choices=Look, default=Look.DEVICE)
    single_keys = models.BooleanField(default=True)
    hints_closed = models.JSONField(default=list)

    def __str__(self):
        return f"preferences of {self.person}"


class Role(models.TextChoices):
    OWNER = "owner"
    LAMINATOR = "laminator"
    VIEWER = "viewer"


class Membership(models.Model):
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="memberships")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role, default=Role.OWNER)
    # Whose pots are small, until what he has practised and poured lets them grow.
    learns = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "person"], name="one_membership_a_person")]

    def __str__(self):
        return f"{self.person} at {self.shop}"


class Invitation(models.Model):
    """A link that lets one person into a shop, once, until it expires."""

    token = models.CharField(max_length=64, unique=True)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=10, choices=Role)
    # Whose password it renews; of an account that is new, or joins, nobody's.
    renews = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    # Taken back by an owner, or void with the role of who made it.
    withdrawn_at = models.DateTimeField(null=True)

    def __str__(self):
        return f"{self.role} at {self.shop}"


class Try(models.Model):
    """One password tried for an account from an address. Account and address are digests: neither is to be read here."""

    account = models.CharField(max_length=64)
    address = models.CharField(max_length=64)
    at = models.DateTimeField()
    right = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["account", "at"]), models.Index(fields=["address", "at"])]

    def __str__(self):
        return f"{'right' if self.right else 'wrong'} at {self.at:%Y-%m-%d %H:%M}"
