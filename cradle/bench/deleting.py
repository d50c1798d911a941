"""Jobs that are deleted: off everything at once, brought back within a month, then gone with their runs."""

import logging
from datetime import datetime, timedelta

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.bench.models import Event, Photo, Run
from cradle.jobs.models import Job
from cradle.shops.models import Shop
from layup.errors import LayupError

KEPT_FOR = timedelta(days=30)
logger = logging.getLogger(__name__)


def delete_job(job: Job, person: AbstractBaseUser) -> Job:
    """Delete a job; it can be brought back for as long as it is kept. Raises LayupError while a run of it is open."""
    open_run = next((run for run in job.runs.with_events() if not run.simulated and _is_open(run)), None)
    if open_run:
        shop = job.shop
        since = shop.shop_facts().scales.customs.day(timezone.localtime(open_run.started_at, shop.now().tzinfo).date())
        raise LayupError(f"its run of {since} is still open: close it at the bench first", "job")
    job.deleted_at, job.deleted_by = timezone.now(), person
    job.put_away_at = job.put_away_at or job.deleted_at
    job.save(update_fields=["deleted_at", "deleted_by", "put_away_at"])
    return job


def _is_open(run: Run) -> bool:
    kinds = {event.kind for event in run.standing()}
    return bool(kinds) and "closed" not in kinds


def bring_back(job: Job) -> Job:
    """A deleted job on the floor again, as it was."""
    job.deleted_at = job.deleted_by = None
    job.put_away_at = job.put_away_at if job.is_template else None
    job.save(update_fields=["deleted_at", "deleted_by", "put_away_at"])
    return job


def deleted_in(shop: Shop, now: datetime) -> list[Job]:
    """The deleted jobs of a shop that can still be brought back, the last deleted first."""
    still = shop.jobs.filter(deleted_at__gt=now - KEPT_FOR).select_related("deleted_by")
    return list(still.with_newest().order_by("-deleted_at"))


@transaction.atomic
def drop_what_is_past(now: datetime) -> int:
    """Drop the jobs that were deleted so long ago, with their runs. Answers how many.

    What the shop learned of them stays, and what its tins gave stays drawn: it is said in words where it went.
    """
    past = Job.objects.filter(deleted_at__lte=now - KEPT_FOR)
    events = Event.objects.filter(run__job__in=past)
    events.update(takes_back=None)
    Photo.objects.filter(event__in=events).delete()
    events.delete()
    Run.objects.filter(job__in=past).delete()
    count = past.count()
    past.delete()
    if count:
        logger.info("%s deleted for good", count)
    return count
