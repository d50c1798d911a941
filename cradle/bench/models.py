"""Runs and what happened in them. A run freezes its document, its shop's facts, its plan and its card; events only ever add."""

import uuid
from datetime import datetime, timedelta
from functools import cached_property

from django.conf import settings
from django.db import models

from cradle.jobs.models import Job
from layup.bench import events as bench
from layup.bench.card import BenchCard
from layup.job import JobSpec
from layup.job_file import read_document
from layup.outcome import Plan
from layup.shop_facts import ShopFacts

_ONCE = [kind for kind, of in bench.KINDS.items() if of.once]


class RunQuerySet(models.QuerySet):
    def of(self, person):
        """The runs a person may reach: those of his shops' jobs."""
        return self.filter(job__shop__memberships__person=person, job__deleted_at=None)

    def with_events(self):
        """Runs with all that is read of them, in a fixed number of queries."""
        events = models.Prefetch("events", Event.objects.select_related("by", "takes_back"))
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
    # What a tablet goes by; none of runs from before there was a bench.
    card = models.JSONField(null=True)
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    started_at = models.DateTimeField(auto_now_add=True)
    # Worked with simulated instruments: it teaches the shop nothing. So many of its minutes pass in one, on their clock.
    simulated = models.BooleanField(default=False)
    pace = models.PositiveSmallIntegerField(default=1)

    objects = RunQuerySet.as_manager()

    def __str__(self):
        return f"run of {self.job_id}, {self.started_at:%Y-%m-%d}"

    def minute_of(self, moment: datetime) -> float:
        """A moment in the run's own minutes, from its issue."""
        return self.pace * (moment - self.started_at).total_seconds() / 60

    def own_time(self, moment: datetime | None) -> datetime | None:
        """A moment by a clock that began with the run and goes at its pace."""
        return moment and self.started_at + timedelta(minutes=self.minute_of(moment))

    def moment_of(self, minute: float) -> datetime:
        """When a minute of the run is."""
        return self.started_at + timedelta(minutes=minute / self.pace)

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

    @cached_property
    def issued_card(self) -> BenchCard | None:
        """The card it was begun with."""
        return BenchCard.model_validate(self.card) if self.card else None

    def standing(self) -> list["Event"]:
        """Its events in the order they happened, without those that were taken back."""
        events = list(self.events.all())
        gone = {event.takes_back_id for event in events if event.takes_back_id}
        return [event for event in events if event.pk not in gone and not event.takes_back_id]

    def next_pot(self) -> int | None:
        """The number of the pot to be mixed next: after the last whose parts are in. None once all are."""
        mixed = max((int(event.subject) for event in self.standing() if event.kind in ("touched", "B in")), default=0)
        return mixed + 1 if mixed < self.plan["pot_count"] else None


class Event(models.Model):
    """One thing that happened, once. `tap_id` is made where it was tapped, so that it never counts twice.

    A wrong one is taken back by another event, which names it and says why. `nth` counts what was taken back of the same
    kind before it, so that the table itself holds a kind to one that stands of each thing, where it can be but one.
    """

    run = models.ForeignKey(Run, on_delete=models.PROTECT, related_name="events")
    tap_id = models.UUIDField(unique=True)
    about = models.CharField(max_length=10, default="run")
    subject = models.CharField(max_length=200, blank=True)
    kind = models.CharField(max_length=20)
    data = models.JSONField(default=dict)
    happened_at = models.DateTimeField()
    came_at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    device = models.CharField(max_length=40, blank=True)
    nth = models.PositiveSmallIntegerField(default=0)
    takes_back = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="taken_back_by")

    class Meta:
        ordering = ["happened_at", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["run", "about", "subject", "kind", "nth"],
                condition=models.Q(kind__in=_ONCE),
                name="once_of_each_thing",
            )
        ]

    def __str__(self):
        return f"{self.about} {self.subject} {self.kind}"

    def save(self, *args, **kwargs):
        if self.pk is not None:
            raise TypeError("an event of the bench is never changed: add another")
        super().save(*args, **kwargs)

    def delete(self, *args, **kwargs):
        raise TypeError("an event of the bench is never deleted: add another")

    @property
    def words(self) -> str:
        return self.data.get("words", "")

    def fact(self) -> bench.Event:
        """The same for the core."""
        return bench.Event(
            id=str(self.tap_id),
            about=self.about,
            subject=self.subject,
            kind=self.kind,
            at_min=self.run.minute_of(self.happened_at),
            by=self.by.get_username(),
            data=self.data,
            takes_back=str(self.takes_back.tap_id) if self.takes_back else "",
        )


class Photo(models.Model):
    """The picture of an event, as a JPEG: in the database, so that a backup is whole."""

    event = models.OneToOneField(Event, on_delete=models.PROTECT, related_name="photo")
    content = models.BinaryField()

    def __str__(self):
        return f"photo of {self.event_id}"
