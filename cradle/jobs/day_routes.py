"""Routes of a job's day: when to begin, what each lever buys, the run sheet on paper, in a table, in a calendar."""

from uuid import UUID
from zoneinfo import ZoneInfo

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

from cradle.beside.crew import STARTS
from cradle.beside.starts import levers_tried, start_found_back, starts_in_time
from cradle.jobs.prints import CSV, SVG, JobInHand
from cradle.jobs.routes import WhatIf, job_of, tried
from cradle.lan.standing import address_for_all
from cradle.shops.preferences import facts_for
from layup.day.best_start import Aim, LeverTried, StartTried, best_of
from layup.day.calendar_file import calendar_file
from layup.day.day_list import day_list_csv
from layup.day.run_sheet_pictures import run_sheet_svg
from layup.day.run_sheet_print import day_list_pdf, run_sheet_pdf, ticket_cards_pdf
from layup.errors import Missing
from layup.job import CalendarDay, Moment
from layup.paper.kit import Paper

router = Router(tags=["run sheet"])
# Of the time that heavy work is given: the last start tried may run over it.
STARTS_SHARE = 0.5


class DayIn(WhatIf):
    """A day whose every half hour is to be tried as a start."""

    day: CalendarDay


class StartsOut(Schema):
    """The starts that were tried, and the best of them; not `whole` where the day's time for it ran out before its end."""

    tried: list[StartTried]
    best: StartTried | None
    whole: bool


class ByIn(WhatIf):
    """An hour by which the job is to be laid, or ready to trim, or to load."""

    by: Moment
    aim: Aim = "laid"


@router.post("/jobs/{uuid:job_id}/levers", response=list[LeverTried])
def try_levers(request: HttpRequest, job_id: UUID, sent: WhatIf):
    """What one step of each lever gives; nothing is saved."""
    job = job_of(request, job_id)
    spec, facts = tried(job, facts_for(request.user, job.shop), sent)
    return STARTS.work(job.shop_id, settings.HEAVY_BUDGET_S, levers_tried, spec, facts)


@router.post("/jobs/{uuid:job_id}/starts", response=StartsOut)
def try_starts(request: HttpRequest, job_id: UUID, sent: DayIn):
    """One day's half hours, each tried as a start; nothing is saved."""
    job = job_of(request, job_id)
    spec, facts = tried(job, facts_for(request.user, job.shop), sent)
    seconds = settings.HEAVY_BUDGET_S * STARTS_SHARE
    day = spec, facts, sent.day, seconds
    found, whole = STARTS.work(job.shop_id, settings.HEAVY_BUDGET_S, starts_in_time, *day)
    now = job.shop.now()
    to_come = tuple(start for start in found if start.start_at >= now)
    return {"tried": to_come, "best": best_of(to_come), "whole": whole}


@router.post("/jobs/{uuid:job_id}/latest-start", response=StartTried)
def find_latest_start(request: HttpRequest, job_id: UUID, sent: ByIn):
    """The latest start that still meets an hour; nothing is saved."""
    job = job_of(request, job_id)
    spec, facts = tried(job, facts_for(request.user, job.shop), sent)
    wanted = spec, facts, sent.by, sent.aim, job.shop.now()
    return STARTS.work(job.shop_id, settings.HEAVY_BUDGET_S, start_found_back, *wanted)


class _Sheet(JobInHand):
    """A job whose day is laid out. Raises Missing where there is no run sheet yet."""

    def __init__(self, request: HttpRequest, job_id: UUID):
        super().__init__(request, job_id)
        if self.plan.run_sheet is None:
            raise Missing("there is no run sheet yet: finish the stack and the chemistry", "pots")
        self.zone = ZoneInfo(self.job.shop.time_zone)


@router.get("/jobs/{uuid:job_id}/run-sheet.pdf", response=str)
def run_sheet_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """The run sheet drawn, with its list in the order of the clock."""
    sheet = _Sheet(request, job_id)
    content = run_sheet_pdf(sheet.head(paper), sheet.plan, sheet.zone)
    return sheet.sent(content, "run-sheet.pdf")


@router.get("/jobs/{uuid:job_id}/day-list.pdf", response=str)
def day_list_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """The list alone."""
    sheet = _Sheet(request, job_id)
    content = day_list_pdf(sheet.head(paper), sheet.plan, sheet.zone)
    return sheet.sent(content, "day-list.pdf")


@router.get("/jobs/{uuid:job_id}/tickets.pdf", response=str)
def tickets_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """A card for each pot, with a code that opens it."""
    sheet = _Sheet(request, job_id)
    address = f"{address_for_all(request)}/jobs/{job_id}/ticket?pot="
    content = ticket_cards_pdf(sheet.head(paper), sheet.plan, sheet.zone, address)
    return sheet.sent(content, "tickets.pdf")


@router.get("/jobs/{uuid:job_id}/run-sheet.csv", response=str)
def run_sheet_as_csv(request: HttpRequest, job_id: UUID):
    sheet = _Sheet(request, job_id)
    text = day_list_csv(sheet.plan, sheet.zone, sheet.facts.scales)
    return sheet.sent(text.encode(), "run-sheet.csv", CSV)


@router.get("/jobs/{uuid:job_id}/run-sheet.svg", response=str)
def run_sheet_as_svg(request: HttpRequest, job_id: UUID):
    sheet = _Sheet(request, job_id)
    svg = run_sheet_svg(sheet.spec.name, sheet.plan, sheet.zone, sheet.facts.scales)
    return sheet.sent(svg.encode(), "run-sheet.svg", SVG)


@router.get("/jobs/{uuid:job_id}/run-sheet.ics", response=str)
def run_sheet_as_calendar(request: HttpRequest, job_id: UUID):
    """Pots, windows, tests, stops and cures as a calendar file."""
    sheet = _Sheet(request, job_id)
    changed_at = max(sheet.revision.saved_at, sheet.job.shop.conditions_read_at)
    content = calendar_file(sheet.spec.name, str(job_id), sheet.plan, sheet.zone, changed_at, sheet.facts.scales)
    return sheet.sent(content, "run-sheet.ics", "text/calendar; charset=utf-8")
