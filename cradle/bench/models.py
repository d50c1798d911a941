"""Runs and what happened in them. A run freezes its document, its shop's facts and its plan; events only ever add."""

import uuid
from functools import cached_property

from django.conf import settings
from django.db import models

from cradle.jobs.models import Job
from layup.job import JobSpec
from layup.job_file import read_document
from layup.outcome import Plan
from layup.shop_facts import ShopFacts


class RunQuerySet(models.QuerySet):
    def of(self, person):
        """The runs a person may reach: those of his shops' jobs."""
        return self.filter(job__shop__memberships__person=person)

    def with_events(self):
        """Runs with all that is read of them, in a fixed number of queries."""
        events = models.Prefetch("events", PotEvent.objects.select_related("recorded_by"))
        return self.select_related("started_by").prefetch_related(events)


class Run(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="runs")
    # Made where the start was pressed, so that it never counts twice; unknown of runs from before it was sent.
    tap_id = models.UUIDField(null=True, unique=True)
    revision_number = models.PositiveIntegerField()
    document = models.JSONField()
    shop_facts = models.JSONField()
    plan = models.JSONField()
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    started_at = models.DateTimeField(auto_now_add=True)

    objects = RunQuerySet.as_manager()

    def __str__(self):
        return f"run of {self.job_id}, {self.started_at:%Y-%m-%d}"

    @cached_property
    def spec(self) -> JobSpec:
        """The document it was begun with."""
        return read_document(self.document)

    @cached_property
    def facts(self) -> ShopFacts:
        """Its shop's facts as they were."""
        return ShopFacts.model_validate(self.shop_facts)

    @cached_property
    def issued(self) -> Plan:
        """The plan it was begun with."""
        return Plan.model_validate(self.plan)

    def standing(self) -> list["PotEvent"]:
        """Its events in the order they happened, without those that were taken back."""
        events = list(self.events.all())
        gone = {event.takes_back_id for event in events if event.takes_back_id}
        return [event for event in events if event.pk not in gone and not event.takes_back_id]

    def next_pot(self) -> int | None:
        """The number of the pot to be mixed next: after the last that was poured. None once all are."""
        poured = max((event.pot for event in self.standing() if event.kind == PotEvent.Kind.POURED), default=0)
        return poured + 1 if poured < self.plan["pot_count"] else None


class PotEvent(models.Model):
    """One thing that happened to one pot, once. `tap_id` is made where it was tapped, so that it never counts twice.

    A wrong one is taken back by another event, which names it and says why. `nth` counts what was taken back of the same
    kind before it, so that the table itself holds each kind to one that stands.
    """

    class Kind(models.TextChoices):
        GOGGLES_ON = "goggles on"
        POURED = "poured"
        USED_BY = "used by"
        GELLED_AT = "gelled at"
        THICKENED = "thickened"
        DUMPED = "dumped"
        TAKEN_BACK = "taken back"

    run = models.ForeignKey(Run, on_delete=models.PROTECT, related_name="events")
    tap_id = models.UUIDField(unique=True)
    pot = models.PositiveIntegerField()
    kind = models.CharField(max_length=20, choices=Kind)
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField(auto_now_add=True)
    recorded_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    part_a_g = models.FloatField(null=True)
    part_b_g = models.FloatField(null=True)
    # The filler really stirred in, loose.
    filler_loose_ml = models.FloatField(null=True)
    note = models.CharField(max_length=300, blank=True)
    nth = models.PositiveSmallIntegerField(default=0)
    takes_back = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="taken_back_by")

    class Meta:
        ordering = ["happened_at", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["run", "pot", "kind", "nth"],
                condition=~models.Q(kind__in=["goggles on", "taken back"]),
                name="each_kind_once_a_pot",
            )
        ]

    def __str__(self):
        return f"pot {self.pot} {self.kind}"

    def save(self, *args, **kwargs):
        if self.pk is not None:
            raise TypeError("an event of the bench is never changed: add another")
        super().save(*args, **kwargs)

    def delete(self, *args, **kwargs):
        raise TypeError("an event of the bench is never deleted: add another")
