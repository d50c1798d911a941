"""What a shop does with its jobs: start one, save it, plan it."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Shop
from layup.job import Conditions, JobSpec
from layup.outcome import Plan
from layup.plan import plan


class StaleRevision(Exception):
    """Somebody saved the job after the revision that a save was made from."""

    def __init__(self, latest: JobRevision):
        super().__init__("stale")
        self.latest = latest


@transaction.atomic
def start_job(shop: Shop, spec: JobSpec, person: AbstractBaseUser) -> JobRevision:
    """A new job with its first revision."""
    return _append(Job.objects.create(shop=shop), 1, spec, person)


@transaction.atomic
def save_job(job: Job, spec: JobSpec, base_revision: int, person: AbstractBaseUser) -> JobRevision:
    """Append a revision made from `base_revision`. Raises StaleRevision where that is no longer the latest."""
    latest = job.latest()
    if latest.number != base_revision:
        raise StaleRevision(latest)
    if latest.document == _stored(spec):
        return latest
    return _append(job, latest.number + 1, spec, person)


def plan_of(shop: Shop, spec: JobSpec, conditions: Conditions | None = None) -> Plan:
    """The plan of a document with a shop's facts; `conditions` stand in for the day's and the job's, to try them."""
    if conditions is not None:
        spec = spec.model_copy(update={"conditions": conditions})
    return plan(spec, shop.shop_facts())


def _stored(spec: JobSpec) -> dict:
    return spec.model_dump(mode="json")


def _append(job: Job, number: int, spec: JobSpec, person: AbstractBaseUser) -> JobRevision:
    return JobRevision.objects.create(job=job, number=number, document=_stored(spec), saved_by=person)
