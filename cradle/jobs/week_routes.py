"""Routes of the shop's week: all jobs on one clock, who is there, what clashes, and the calendar that others subscribe to."""

import secrets
from contextlib import suppress
from datetime import date, datetime, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router, Schema

from cradle.jobs.floor import JobStrip, strips_of
from cradle.jobs.prints import JobInHand
from cradle.jobs.routes import job_of
from cradle.jobs.saving import MOST_OVERTAKEN, Conflicting, Overtaken, save_job
from cradle.lan.standing import address_for_all
from cradle.shops.models import Shop
from cradle.shops.people import Forbidden, require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from cradle.stock.keeping import on_hand
from layup.job import CalendarDay, Moment
from layup.outcome import StepState
from layup.preparing.before_pot import ShoppingList
from layup.preparing.buying import of_several
from layup.week.calendar import week_calendar
from layup.week.clashes import Clash, clashes_of, earliest_free
from layup.week.jobs import WeekJob
from layup.week.people import ShopWeek
from layup.week.told import WeekDay, days_of

router = Router(tags=["week"])
DAYS = 7


class JobOfWeek(Schema):
    """A job as it lies in the week; without `work` it has no plan yet. `free_at` is when it could begin beside the others,
    where it has no start of its own. `behind` where it is being planned again.
    """

    id: UUID
    name: str
    state: StepState
    next_words: str
    work: WeekJob | None
    free_at: datetime | None = None
    behind: bool


class WeekOut(Schema):
    """Seven days from one on: the jobs, those with a start of their own first, and what of them clashes."""

    now: datetime
    days: list[WeekDay]
    jobs: list[JobOfWeek]
    clashes: list[Clash]
    people: ShopWeek
    calendar: str = ""


class MoveIn(Schema):
    """A job tried at another start, as it stands: nothing is saved."""

    job_id: UUID
    start_at: Moment
    first: CalendarDay


class StartIn(Schema):
    """When a job begins; nothing, where it has no start of its own any more."""

    start_at: Moment | None = None


@router.get("/shops/{uuid:shop_id}/week", response=WeekOut)
def read_week(request: HttpRequest, shop_id: UUID, first: CalendarDay | None = None):
    """Seven days from one on; from today where none is said."""
    shop = shop_of(request, shop_id)
    return _week(request, shop, first or shop.now().date(), {})


@router.post("/shops/{uuid:shop_id}/week/moved", response=WeekOut)
def try_start(request: HttpRequest, shop_id: UUID, sent: MoveIn):
    """The week with one job begun at another moment, as it stands."""
    shop = shop_of(request, shop_id)
    return _week(request, shop, sent.first, {str(sent.job_id): sent.start_at})


@router.get("/shops/{uuid:shop_id}/week/buy", response=ShoppingList)
def read_buying(request: HttpRequest, shop_id: UUID, first: CalendarDay | None = None):
    """What the jobs need that are worked at in seven days, as one list, beside what is there."""
    shop = shop_of(request, shop_id)
    facts, zone = facts_for(request.user, shop), ZoneInfo(shop.time_zone)
    days = days_of(first or shop.now().date(), DAYS, shop.shop_week(), zone)
    lists = [
        JobInHand(request, strip.id).shopping({})
        for strip in strips_of(shop, facts, with_a_start=True)
        if strip.week
        and any(busy.from_at < days[-1].to_at and busy.to_at > days[0].from_at for busy in strip.week.busy)
    ]
    return of_several(lists, facts.scales, on_hand(shop))


@router.put("/shops/{uuid:shop_id}/week/people", response=ShopWeek)
def set_people(request: HttpRequest, shop_id: UUID, sent: ShopWeek):
    """Who works when, the days the shop is shut, how many pumps it has."""
    shop = shop_of(request, shop_id, to_write=True)
    shop.week = sent.model_dump(mode="json")
    shop.save(update_fields=["week"])
    return sent


@router.put("/jobs/{uuid:job_id}/start", response=StartIn)
def set_start(request: HttpRequest, job_id: UUID, sent: StartIn):
    """Begin a job at another moment."""
    job = job_of(request, job_id, to_write=True)
    for _ in range(MOST_OVERTAKEN):
        base = job.latest().spec()
        pots = base.pots.model_copy(update={"start": sent.start_at})
        # What another begins in the same moment is no conflict to be brought together: the later stands.
        with suppress(Conflicting):
            save_job(job, base.model_copy(update={"pots": pots}), base, request.user)
            return sent
    raise Overtaken("others save this job all the time: try again in a moment")


@router.post("/shops/{uuid:shop_id}/week/calendar", response=WeekOut)
def make_calendar(request: HttpRequest, shop_id: UUID):
    """A new address of the calendar; one that was given before is good no more."""
    shop = shop_of(request, shop_id, to_write=True)
    shop.calendar_token = secrets.token_urlsafe(24)
    shop.save(update_fields=["calendar_token"])
    return _week(request, shop, shop.now().date(), {})


@router.get("/calendar/{token}.ics", auth=None, response=str)
def read_calendar(request: HttpRequest, token: str):
    """The shop's jobs for whoever was given this address: it is the right to read them."""
    shop = Shop.objects.filter(calendar_token=token).exclude(calendar_token="").first()
    if shop is None:
        raise Http404
    strips = strips_of(shop, shop.shop_facts(), with_a_start=True)
    jobs = {str(strip.id): (strip.name, strip.week) for strip in strips if strip.week and strip.week.given}
    changed_at = max([shop.conditions_read_at, *(strip.saved_at for strip in strips)])
    content = week_calendar(shop.name, jobs, changed_at)
    return HttpResponse(content, content_type="text/calendar; charset=utf-8")


def _week(request: HttpRequest, shop: Shop, first: date, moved: dict[str, datetime]) -> WeekOut:
    facts, zone, now = facts_for(request.user, shop), ZoneInfo(shop.time_zone), shop.now()
    strips, week = strips_of(shop, facts), shop.shop_week()
    works = {str(strip.id): _at(strip.week, moved.get(str(strip.id))) for strip in strips if strip.week}
    given = {job_id: work for job_id, work in works.items() if work.given}
    told = [_job(strip, works, given, week, zone, now) for strip in strips]
    told.sort(key=lambda job: (not (job.work and job.work.given), job.work.start_at if job.work else now, job.name))
    days = days_of(first, DAYS, week, zone, facts.forecast)
    shown = [
        clash
        for clash in clashes_of(given, week, zone, now)
        if clash.from_at < days[-1].to_at and clash.to_at > days[0].from_at
    ]
    writes = shop.calendar_token and _may_write(request, shop)
    address = f"{address_for_all(request)}/api/calendar/{shop.calendar_token}.ics" if writes else ""
    return WeekOut(now=now, days=days, jobs=told, clashes=shown, people=week, calendar=address)


def _may_write(request: HttpRequest, shop: Shop) -> bool:
    """An address that opens the week to anybody is shown to those who may change it."""
    try:
        require_writer(request.user, shop)
    except Forbidden:
        return False
    return True


def _at(work: WeekJob, start_at: datetime | None) -> WeekJob:
    return work if start_at is None else work.later_by(start_at - work.start_at).model_copy(update={"given": True})


def _job(
    strip: JobStrip,
    works: dict[str, WeekJob],
    given: dict[str, WeekJob],
    week: ShopWeek,
    zone: ZoneInfo,
    now: datetime,
) -> JobOfWeek:
    job_id, work = str(strip.id), works.get(str(strip.id))
    free_at = None
    if work and not work.given:
        begun = work.later_by(now - work.start_at - timedelta(minutes=1))
        free_at = earliest_free(job_id, given | {job_id: begun}, week, zone, now)
    return JobOfWeek(
        id=strip.id,
        name=strip.name,
        state=strip.state,
        next_words=strip.next_step.words,
        work=work,
        free_at=free_at,
        behind=strip.behind,
    )
