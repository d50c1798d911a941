"""What a shop does with its jobs: start one, save it, plan it."""

from datetime import timedelta

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Shop
from layup.job import JobSpec
from layup.merge import Merged, merge

SHARED_FOR = timedelta(minutes=1)


class Conflicting(Exception):
    """Somebody changed the same fields meanwhile. Holds what stands, both edits brought together, and the conflicts."""

    def __init__(self, latest: JobRevision, merged: Merged):
        super().__init__("conflicting")
        self.latest = latest
        self.merged = merged


@transaction.atomic
def start_job(shop: Shop, spec: JobSpec, person: AbstractBaseUser) -> JobRevision:
    """A new job with its first revision. Overrides do not come along: they were given for another job, or elsewhere."""
    fresh = spec.model_copy(update={"overrides": ()})
    return _append(Job.objects.create(shop=shop), 1, stored(fresh), person)


@transaction.atomic
def copy_job(job: Job, name: str, person: AbstractBaseUser) -> JobRevision:
    """A new job that begins where another stands."""
    spec = JobSpec.model_validate(job.latest().document | {"name": name})
    return start_job(job.shop, spec, person)


@transaction.atomic
def save_job(job: Job, spec: JobSpec, base: JobSpec, person: AbstractBaseUser) -> JobRevision:
    """Save an edit made from the document `base`; what others changed since is merged in, by id and field.

    Raises Conflicting where the same field of the same thing was changed by both, and saves nothing.
    """
    latest = job.latest()
    standing = stored(latest.spec())
    document = _signed(stored(spec), standing, person)
    if standing != stored(base):
        merged = merge(stored(base), document, standing)
        if merged.conflicts:
            raise Conflicting(latest, merged)
        # Both edits are sound, and what they make together may not be: two people's last plies, say.
        document = stored(JobSpec.model_validate(merged.document))
    return _keep(job, latest, document, person)


@transaction.atomic
def go_back(job: Job, number: int, person: AbstractBaseUser) -> JobRevision:
    """Make an earlier revision the job's latest again, as a new revision."""
    earlier = job.revisions.get(number=number)
    latest = job.latest()
    if latest.document == earlier.document:
        return latest
    earlier.fix()
    latest.fix()
    return _append(job, latest.number + 1, earlier.document, person)


def stored(spec: JobSpec) -> dict:
    """A document as the database keeps it."""
    return spec.model_dump(mode="json")


def _signed(document: dict, before: dict, person: AbstractBaseUser) -> dict:
    """The document with each override signed: a new one by who saves it now, an old one as it was signed then."""
    signed = {override["id"]: override for override in before["overrides"]}
    now = timezone.now().isoformat(timespec="seconds")
    overrides = []
    for override in document["overrides"]:
        old = signed.get(override["id"])
        same = old and {**override, "by": "", "at": ""} == {**old, "by": "", "at": ""}
        overrides.append(old if same else override | {"by": person.get_username(), "at": now})
    return document | {"overrides": overrides}


def _keep(job: Job, latest: JobRevision, document: dict, person: AbstractBaseUser) -> JobRevision:
    if latest.document == document:
        return latest
    fresh = timezone.now() - latest.begun_at < SHARED_FOR
    if latest.fixed or latest.saved_by_id != person.pk or not fresh or latest.number == 1:
        return _append(job, latest.number + 1, document, person)
    latest.document = document
    latest.saved_at = timezone.now()
    latest.save(update_fields=["document", "saved_at"])
    return latest


def _append(job: Job, number: int, document: dict, person: AbstractBaseUser) -> JobRevision:
    return JobRevision.objects.create(job=job, number=number, document=document, saved_by=person)
