"""Jobs and their revisions. One person's edits within a minute share a revision; one that was issued never changes."""

import logging
import uuid

from django.conf import settings
from django.db import models
from django.db.models import OuterRef, Subquery
from django.utils import timezone
from pydantic import ValidationError

from cradle.shops.models import Shop
from layup.errors import LayupError, Unreadable
from layup.job import JobSpec
from layup.job_file import read_document

logger = logging.getLogger(__name__)


class JobQuerySet(models.QuerySet):
    def of(self, person):
        """The jobs a person may reach: those of his shops, without what was deleted."""
        return self.filter(shop__memberships__person=person, deleted_at=None)

    def deleted_of(self, person):
        """The deleted jobs that a person may bring back."""
        return self.filter(shop__memberships__person=person).exclude(deleted_at=None)

    def with_newest(self):
        """With the key of each job's latest revision, and how often that was saved."""
        newest = JobRevision.objects.filter(job=OuterRef("pk")).order_by("-number")
        return self.annotate(
            newest_pk=Subquery(newest.values("pk")[:1]),
            newest_edit=Subquery(newest.values("edit")[:1]),
            newest_at=Subquery(newest.values("saved_at")[:1]),
        )


class Job(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="jobs")
    created_at = models.DateTimeField(auto_now_add=True)
    # The job a new person is shown round with: it opens with hints.
    is_sample = models.BooleanField(default=False)
    # Off the floor since; its work stays as it is, and it can be taken out again.
    put_away_at = models.DateTimeField(null=True)
    # Off everything since, and gone for good after a while. It is put away, too.
    deleted_at = models.DateTimeField(null=True)
    deleted_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    # Others begin from it; it is never on the floor itself.
    is_template = models.BooleanField(default=False)
    # What the floor shows of the job, by unit set, each for one revision and one state of the shop: see floor.py.
    strips = models.JSONField(default=dict)
    # What it is found by, for one state of it: see search.py.
    found_by = models.JSONField(default=dict)

    objects = JobQuerySet.as_manager()

    def __str__(self):
        return str(self.id)

    def latest(self) -> "JobRevision":
        return self.revisions.select_related("saved_by").order_by("-number").first()


class JobRevision(models.Model):
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    begun_at = models.DateTimeField(default=timezone.now)
    saved_at = models.DateTimeField(default=timezone.now)
    fixed = models.BooleanField(default=False)
    # How often it was saved anew since it was begun: a save says from which of them it was made.
    edit = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "number"], name="one_revision_a_number")]

    def __str__(self):
        return f"{self.job_id} revision {self.number}"

    def fix(self) -> None:
        """Keep this revision as it is for good: it was issued, exported or gone back to."""
        self.fixed = True
        self.save(update_fields=["fixed"])

    def spec(self) -> JobSpec:
        """The document. Raises Unreadable where this version of the program cannot read it."""
        try:
            return read_document(self.document)
        except (ValidationError, LayupError) as failed:
            logger.warning("revision %s of job %s can no longer be read", self.number, self.job_id)
            raise Unreadable("this job can no longer be read: go back to an earlier revision under Log") from failed

    def name(self) -> str:
        """What the job was called then, whether or not the rest can be read."""
        return str(self.document.get("name", "")) if isinstance(self.document, dict) else ""

    def same_as(self, other: "JobRevision") -> bool:
        """Whether it is the same revision, saved no more often."""
        return (self.pk, self.edit) == (other.pk, other.edit)


class PartPhoto(models.Model):
    """A photo of a part of a job, as a JPEG. Its id is made where it was taken."""

    id = models.UUIDField(primary_key=True, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="part_photos")
    part_id = models.CharField(max_length=40)
    content = models.BinaryField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self):
        return f"photo of {self.part_id}"


class Tick(models.Model):
    """One thing done before a pot, or waived with a reason, or taken back: a piece cut, a line of the preparation.

    `thing` is its id in the plan, `said` what it was when it was ticked. Ticks only ever add; the latest stands.
    """

    class Kind(models.TextChoices):
        CUT = "cut"
        PREPARE = "prepare"
        CORNER = "corner"

    class State(models.TextChoices):
        DONE = "done"
        WAIVED = "waived"
        UNDONE = "undone"

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="ticks")
    tap_id = models.UUIDField()
    kind = models.CharField(max_length=8, choices=Kind)
    thing = models.CharField(max_length=120)
    state = models.CharField(max_length=8, choices=State)
    said = models.CharField(max_length=300)
    reason = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["job", "tap_id", "kind", "thing"], name="one_tick_a_tap")]

    def __str__(self):
        return f"{self.thing} {self.state}"

    def save(self, *args, **kwargs):
        if self.pk is not None:
            raise TypeError("a tick is never changed: add another")
        super().save(*args, **kwargs)
