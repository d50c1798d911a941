"""What a shop does with its jobs: start one, save it, plan it."""

from dataclasses import dataclass
from datetime import timedelta

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.beside.crew import Busy
from cradle.jobs.models import Job, JobRevision
from cradle.plans import planned_json
from cradle.shops.models import Shop
from cradle.shops.preferences import facts_for
from layup.job import JobSpec
from layup.merge import Merged, merge

SHARED_FOR = timedelta(minutes=1)
# So often a save may be overtaken by another's while it is planned.
MOST_OVERTAKEN = 8


@dataclass(frozen=True)
class MadeFrom:
    """The state of a job that an edit was made from: a revision, as it was after so many saves."""

    revision: int
    edit: int


class Overtaken(Busy):
    """Others saved the same job again and again."""


class Conflicting(Exception):
    """Somebody changed the same fields meanwhile. Holds what stands, both edits brought together, and the conflicts."""

    def __init__(self, latest: JobRevision, merged: Merged):
        super().__init__("conflicting")
        self.latest = latest
        self.merged = merged


def start_job(shop: Shop, spec: JobSpec, person: AbstractBaseUser) -> JobRevision:
    """A new job with its first revision. Overrides do not come along: they were given for another job, or elsewhere.

    Raises LayupError for what cannot be planned.
    """
    fresh = spec.model_copy(update={"overrides": ()})
    _require_plan(shop, fresh, person)
    with transaction.atomic():
        return _append(Job.objects.create(shop=shop), 1, stored(fresh), person)


def keep_as_template(job: Job, name: str, person: AbstractBaseUser) -> Job:
    """A job as it stands now, kept for others to begin from: off the floor, and in nobody's week."""
    template = start_job(job.shop, copy_of(job, name), person).job
    template.is_template, template.put_away_at = True, timezone.now()
    template.save(update_fields=["is_template", "put_away_at"])
    return template


def copy_of(job: Job, name: str) -> JobSpec:
    """The document of a new job that begins where another stands."""
    return JobSpec.model_validate(stored(job.latest().spec()) | {"name": name})


def save_job(
    job: Job,
    spec: JobSpec,
    base: JobSpec,
    person: AbstractBaseUser,
    made_from: MadeFrom | None = None,
) -> JobRevision:
    """Save an edit made from the document `base`; what others changed since is merged in, by id and field.

    `made_from` is the revision that the edit was made from, where that is known: an edit of what stands is merged with
    nothing, and of an older one its own document is the base. What comes of it is planned before it is kept. Raises
    LayupError where it cannot be, Conflicting where the same field of the same thing was changed by both.
    """
    for _ in range(MOST_OVERTAKEN):
        latest = job.latest()
        document = _brought_together(job, latest, spec, base, person, made_from)
        _require_plan(job.shop, JobSpec.model_validate(document), person)
        with transaction.atomic():
            # Another may have saved while this was planned: then all is brought together anew.
            standing = job.latest()
            if standing.same_as(latest):
                return _keep(job, standing, document, person)
    raise Overtaken("others save this job all the time: try again in a moment")


def _brought_together(
    job: Job, latest: JobRevision, spec: JobSpec, base: JobSpec, person: AbstractBaseUser, made_from: MadeFrom | None
) -> dict:
    standing = stored(latest.spec())
    document = _signed(stored(spec), standing, person)
    was = stored(base)
    if made_from:
        of = job.revisions.filter(number=made_from.revision, edit=made_from.edit).first()
        was = stored(of.spec()) if of else was
    if standing == was:
        return document
    merged = merge(was, document, standing)
    if merged.conflicts:
        raise Conflicting(latest, merged)
    # Both edits are sound, and what they make together may not be: two people's last plies, say.
    return stored(JobSpec.model_validate(merged.document))


def go_back(job: Job, number: int, person: AbstractBaseUser) -> JobRevision:
    """Make an earlier revision the job's latest again, as a new revision.

    Raises LayupError where it can no longer be read or planned.
    """
    _require_plan(job.shop, job.revisions.get(number=number).spec(), person)
    with transaction.atomic():
        earlier, latest = job.revisions.get(number=number), job.latest()
        if latest.document == earlier.document:
            return latest
        earlier.fix()
        latest.fix()
        return _append(job, latest.number + 1, stored(earlier.spec()), person)


def put_away(job: Job, away: bool) -> Job:
    """Take a job off the floor, or out again. Nothing of it is lost."""
    job.put_away_at = timezone.now() if away else None
    # One that is taken out on the floor is a job like others.
    job.is_template = job.is_template and away
    job.save(update_fields=["put_away_at", "is_template"])
    return job


def _require_plan(shop: Shop, spec: JobSpec, person: AbstractBaseUser) -> None:
    planned_json(shop.pk, spec, facts_for(person, shop))


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
    # A clock that was set back says nothing of how long ago it was.
    fresh = timedelta(0) <= timezone.now() - latest.begun_at < SHARED_FOR
    if latest.fixed or latest.saved_by_id != person.pk or not fresh or latest.number == 1:
        return _append(job, latest.number + 1, document, person)
    latest.document = document
    latest.saved_at = timezone.now()
    latest.edit += 1
    latest.save(update_fields=["document", "saved_at", "edit"])
    return latest


def _append(job: Job, number: int, document: dict, person: AbstractBaseUser) -> JobRevision:
    return JobRevision.objects.create(job=job, number=number, document=document, saved_by=person)
