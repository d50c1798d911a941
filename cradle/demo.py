"""The invented shop Saltmarsh Slip and its jobs. Nothing computes from these figures."""

from datetime import timedelta
from uuid import uuid4
from zoneinfo import ZoneInfo

from django.utils import timezone

from cradle.bench.models import Run
from cradle.bench.running import issue_run, planned_pot, record_event
from cradle.beside.tables_on_disk import write_table
from cradle.demo_jobs import DEMO_JOBS, skiff
from cradle.demo_shelf import fill_shelf
from cradle.demo_stock import fill_stock
from cradle.demo_words import PERSON
from cradle.instruments.models import Place
from cradle.jobs.models import Job
from cradle.jobs.ready import before_pot, tick_things
from cradle.jobs.saving import save_job, start_job
from cradle.shops.day import expect, keep_reading, simulate_forecast
from cradle.shops.models import Membership, Shop
from cradle.stock.drawing import settle_pieces
from layup.day.shop_clock import at_hour
from layup.heat.pot_heat import full_heat, stated_pot
from layup.job import Conditions, JobSpec, PotWishes
from layup.plan import plan
from layup.preparing.cutting import cut_plan
from layup.shop_facts import RoomDay
from layup.week.people import ShopWeek

SHOP_NAME = "Saltmarsh Slip"
# Of each pot: minutes after the start, until used up, until it gelled; the share of B really poured; the filler stirred
# in, over what was planned; a note.
_MORNING = (
    (0, 8, None, 1.0, 1.08, "stood at last with a spoon more"),
    (15, 7, 18, 1.0, None, ""),
    (30, 8, 17, 1.02, None, "room warming"),
    (49, 6, 18, 1.0, None, "last of it into the cup"),
)


def load(person) -> Shop:
    """Make the demo shop, its person's membership, its jobs, and this morning's first pots of the skiff."""
    shop = Shop.objects.create(name=SHOP_NAME, time_zone="Europe/London", currency="GBP")
    shop.facts |= {"locale": "en-GB"}
    hours = {
        "people": [
            {"name": PERSON},
            {"name": "tern", "to_h": 16},
            {"name": "knot", "days": [0, 2, 4], "may_mix": False},
        ]
    }
    shop.week = ShopWeek.model_validate(hours).model_dump(mode="json")
    shop.save()
    Membership.objects.create(shop=shop, person=person)
    expect(shop, RoomDay(coldest_c=14, warmest_c=21.5))
    simulate_forecast(shop)
    read = Conditions(room_c=19, surface_c=17.5, humidity_pct=62)
    keep_reading(shop, read, person)
    # The last one started stands first on the floor.
    for job in reversed(DEMO_JOBS[1:]):
        start_job(shop, job(), person)
    fill_shelf(shop, person)
    fill_stock(shop, person)
    Place.objects.create(shop=shop, name="Bench by the door")
    # At eight in the room as read, whatever the hour it is loaded at: the demo shop has learned the same of its gels.
    two_hands = PotWishes(hands=2, start=at_hour(shop.now().date(), 8, ZoneInfo(shop.time_zone)))
    begun = start_job(shop, skiff().model_copy(update={"pots": two_hands, "conditions": read}), person)
    Job.objects.filter(pk=begun.job_id).update(is_sample=True)
    _cut_and_prepared(begun.job, person)
    _log_a_morning(issue_run(begun.job, person), person)
    save_job(begun.job, skiff(), begun.spec(), person)
    _keep_heat(skiff())
    return shop


def _keep_heat(spec: JobSpec) -> None:
    """The tables that its plans were worked out with here, so that the server begins with them."""
    for resin in spec.materials.resins:
        for hardener in resin.hardeners:
            stated = stated_pot(hardener)
            write_table(stated, full_heat(stated))


def _cut_and_prepared(job: Job, person) -> None:
    """All of the skiff's pieces cut, and its preparation done but for two lines."""
    spec, facts = job.latest().spec(), job.shop.shop_facts()
    before = before_pot(job, spec, plan(spec, facts), facts)
    lines = [line.id for line in before.lines if line.id not in ("sheets", "spill", "runaway")]
    cut = {piece.id: True for piece in before.pieces}
    settle_pieces(job, person, spec, cut_plan(spec, before.divided), cut)
    for kind, things in (("cut", [piece.id for piece in before.pieces]), ("prepare", lines)):
        tick_things(before, job, person, tap_id=uuid4(), kind=kind, things=things, state="done")


def _log_a_morning(run: Run, person) -> None:
    start = timezone.now() - timedelta(hours=4)
    for pot, (after_min, used_min, gelled_min, part_b_share, stirred, note) in enumerate(_MORNING, 1):
        poured = start + timedelta(minutes=after_min)
        ticket = planned_pot(run, pot).ticket
        part_a, part_b = ticket.pours[0].amount, round(ticket.pours[1].amount * part_b_share)

        def tap(kind, minutes, pot=pot, poured=poured, **data):
            at = poured + timedelta(minutes=minutes)
            of_pot = {"about": "pot", "subject": str(pot), "kind": kind, "happened_at": at, "data": data}
            record_event(run, person, tap_id=uuid4(), **of_pot)

        tap("touched", 0, a_g=part_a, b_g=part_b)
        if stirred:
            loose_ml = sum(row.loose_ml for row in ticket.thickened.fillers)
            tap("filler in", 4, loose_ml=round(loose_ml * stirred))
        tap("used up", used_min, words=note)
        if gelled_min:
            tap("gelled", gelled_min)
