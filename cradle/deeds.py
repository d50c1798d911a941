"""Who did what: every request that changes a shop is written down once, for its owners, by the name of its route."""

import logging
from collections.abc import Callable, Mapping
from datetime import timedelta
from functools import wraps
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest
from django.utils import timezone

from cradle.bench.models import Run
from cradle.devices.models import Device
from cradle.instruments.models import Instrument, Place
from cradle.jobs.models import Job
from cradle.shelf.models import Product
from cradle.shops.models import Deed, Shop
from cradle.stock.models import Lot

SAME_FOR = timedelta(hours=1)
logger = logging.getLogger(__name__)

# What a route does, in words after a name: "wren changed the job".
DEEDS: Mapping[str, str] = {
    "set_settings": "changed the shop",
    "set_conditions": "wrote down the room",
    "set_expected": "said what the day will be",
    "set_forecast": "brought in a forecast",
    "remove_forecast": "took the forecast away",
    "set_simulated_forecast": "took a simulated forecast",
    "set_role": "changed what somebody may do",
    "remove_person": "removed somebody",
    "make_invitation": "made an invitation",
    "withdraw_invitation": "withdrew an invitation",
    "let_renew_password": "let somebody choose a new password",
    "new_product": "added a product",
    "write_product": "changed a product",
    "set_retired": "retired a product, or took it back",
    "new_tin": "added a resin from its label",
    "add_sheet": "added a data sheet",
    "remove_sheet": "removed a data sheet",
    "new_job": "began a job",
    "job_from_file": "brought in a job",
    "job_from_damage": "began a repair",
    "job_from_wrong": "began a repair of a fault",
    "new_job_from_copy": "copied a job",
    "new_template": "kept a job as a template",
    "add_part_photo": "added a photo of a part",
    "remove_part_photo": "removed a photo of a part",
    "repeat_run": "began a job from a run",
    "write_job": "changed the job",
    "set_put_away": "put the job away, or took it out",
    "remove_job": "deleted the job",
    "bring_job_back": "brought back the deleted job",
    "restore_revision": "went back to an earlier revision",
    "tick": "ticked what is done before a pot",
    "set_people": "changed who works when",
    "set_start": "moved the start of the job",
    "make_calendar": "made a new address of the calendar",
    "add_to_job": "added what mends a fault",
    "start_run": "took the job to the bench",
    "add_place": "added a bench",
    "remove_place": "removed a bench",
    "put_run": "put a run on a bench",
    "add_instrument": "added an instrument",
    "withdraw_instrument": "withdrew an instrument",
    "check_scale": "checked the scale",
    "show_code": "showed a code to let a tablet in",
    "want_short_numbers": "changed how people work at a tablet",
    "withdraw_device": "withdrew a tablet",
    "new_lot": "received a lot",
    "write_lot": "corrected a lot",
    "count_lot": "counted a lot",
    "waste_lot": "wrote off some of a lot",
    "mark_lot": "said whether a lot may be used",
    "try_lot": "tried a lot",
    "set_aside": "put stock aside for the job, or let it go",
    "bring_table": "brought in a list of stock",
    "leave_out": "left a record of the log out, or took it in",
    "bring_archive": "brought in a shop",
    "set_learns": "said who learns",
    "sign_task": "signed a task of a learner, or took it back",
}
# Routes that change nothing of a shop, or only how one person sees it; and presses at the bench, which are their own record.
QUIET = frozenset(
    {
        "sign_in",
        "begin",
        "write_attempt",
        "sign_out",
        "set_preferences",
        "read_quantity",
        "read_typed_moment",
        "take_invitation",
        "set_password",
        "show_day_working",
        "try_plan",
        "show_working",
        "read_line",
        "read_quick_line",
        "write_quick_line",
        "mould_of",
        "try_levers",
        "try_starts",
        "find_latest_start",
        "try_start",
        "try_pots",
        "try_pots_of_shelf",
        "try_joint",
        "usual_strip",
        "through_its_hours",
        "flow_in_plan",
        "look_over",
        "show_run_working",
        "check_ratio",
        "what_went_wrong",
        "listen_to_port",
        "try_example",
        "post_reading",
        "work_standins",
        "look_at_code",
        "let_device_in",
        "begin_work",
        "write_number",
        "stack_from_csv",
        "take_new_plan",
        "write_event",
        "take_event_back",
        "add_photo",
    }
)


def written_down(view: Callable) -> Callable:
    """A view that, where it changes a shop and was not refused, writes down who did what."""

    @wraps(view)
    def done(request: HttpRequest, *args, **kwargs):
        if view.__name__ not in DEEDS or request.method == "GET":
            return view(request, *args, **kwargs)
        # What is deleted can be named no more afterwards.
        shop, thing_id, thing = _about(kwargs)
        answer = view(request, *args, **kwargs)
        if shop and getattr(answer, "status_code", 200) < 400:
            try:
                write_down(request, shop, view.__name__, thing_id, thing)
            except OperationalError:
                # It is done, and is not done twice because nobody could write down who did it.
                logger.warning("%s was not written down", view.__name__)
        return answer

    return done


def write_down(request: HttpRequest, shop: Shop, what: str, thing_id: str = "", thing: str = "") -> None:
    """Write down a deed; one of the same person with the same thing, within the hour, is counted."""
    now = timezone.now()
    last = shop.deeds.filter(by=request.user).first()
    if last and (last.what, last.thing_id) == (what, thing_id) and now - last.begun_at < SAME_FOR:
        last.last_at, last.times, last.thing = now, last.times + 1, thing[:200]
        last.save(update_fields=["last_at", "times", "thing"])
        return
    Deed.objects.create(
        shop=shop, by=request.user, what=what, thing_id=thing_id, thing=thing[:200], begun_at=now, last_at=now
    )


def _about(kwargs: Mapping[str, Any]) -> tuple[Shop | None, str, str]:
    """The shop that a request is about, and the thing in it with what it is called."""
    for name, find in _THINGS.items():
        if name in kwargs:
            found = find(kwargs[name])
            return (found[0], str(kwargs[name]), found[1]) if found else (None, "", "")
    shop = Shop.objects.filter(pk=kwargs["shop_id"]).first() if "shop_id" in kwargs else None
    named = next((name for sent in kwargs.values() if (name := _named(sent))), "")
    return shop, str(kwargs.get("person", "")), str(kwargs.get("person") or named)


def _named(sent: Any) -> str:
    """What is called something by what was sent: a new job, a product, a bench."""
    for said in (sent, getattr(sent, "document", None)):
        name = said.get("name") if isinstance(said, dict) else getattr(said, "name", "")
        if name and isinstance(name, str):
            return name
    return ""


def _job(pk) -> tuple[Shop, str] | None:
    job = Job.objects.select_related("shop").filter(pk=pk).first()
    return (job.shop, job.latest().name()) if job else None


def _run(pk) -> tuple[Shop, str] | None:
    run = Run.objects.select_related("job__shop").filter(pk=pk).first()
    return (run.job.shop, run.document["name"]) if run else None


def _product(pk) -> tuple[Shop, str] | None:
    product = Product.objects.select_related("shop").filter(pk=pk).first()
    return (product.shop, str(product.document.get("name", ""))) if product else None


def _lot(pk) -> tuple[Shop, str] | None:
    lot = Lot.objects.select_related("shop").filter(pk=pk).first()
    return (lot.shop, str(lot)) if lot else None


def _place(pk) -> tuple[Shop, str] | None:
    place = Place.objects.select_related("shop").filter(pk=pk).first()
    return (place.shop, place.name) if place else None


def _instrument(pk) -> tuple[Shop, str] | None:
    instrument = Instrument.objects.select_related("place__shop").filter(pk=pk).first()
    return (instrument.place.shop, str(instrument)) if instrument else None


def _device(pk) -> tuple[Shop, str] | None:
    device = Device.objects.select_related("shop").filter(pk=pk).first()
    return (device.shop, device.name) if device else None


_THINGS: Mapping[str, Callable[[Any], tuple[Shop, str] | None]] = {
    "run_id": _run,
    "job_id": _job,
    "product_id": _product,
    "lot_id": _lot,
    "place_id": _place,
    "instrument_id": _instrument,
    "device_id": _device,
}
