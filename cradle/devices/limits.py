"""What may be done from a tablet that was let in for the bench: the routes of a bench, in its own shop, and nothing else."""

import re
from collections.abc import Callable
from uuid import UUID

from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse, JsonResponse

from cradle.bench.models import Run
from cradle.devices.letting_in import device_of
from cradle.devices.models import Device
from cradle.instruments.models import Place
from cradle.jobs.models import Job
from cradle.shops.people import AT_TABLET, Forbidden

COOKIE = "device"
# By method and address: what a bench reads, and what is written down at it. A job is looked at there and not changed.
_BENCH = tuple(
    (method, re.compile(path))
    for method, path in (
        ("GET", r"/api/session"),
        ("(POST|DELETE)", r"/api/session"),
        ("GET", r"/api/health"),
        ("(GET|POST)", r"/api/devices/(here|work|code|let-in)"),
        ("GET", r"/api/lan"),
        ("GET", r"/api/(practice|glossary|guide|guide\.pdf|about)"),
        ("(GET|POST)", r"/api/shops/[^/]+/training"),
        ("GET", r"/api/shops/[^/]+(/(due|live|day|jobs|library|stream|instruments))?"),
        ("POST", r"/api/shops/[^/]+/(quantities|moments)"),
        ("GET", r"/api/jobs/[^/]+(/(ready|runs|run-sheet\.pdf|day-list\.pdf|tickets\.pdf))?"),
        ("GET", r"/api/runs/.+"),
        ("POST", r"/api/runs/[^/]+/(events|photos|plan|check|working)"),
        ("POST", r"/api/runs/[^/]+/events/\d+/take-back"),
        ("PUT", r"/api/places/[^/]+/run"),
    )
)


def device_here(request: HttpRequest) -> Device | None:
    """The tablet that asks, where it is one that was let in."""
    return device_of(request.COOKIES.get(COOKIE, ""))


def may_from_here(request: HttpRequest) -> bool:
    """Whether who is signed in may still be so: one who works at a tablet only while that tablet is let in.

    Raises Forbidden for what is not of the bench, or of another shop than the tablet's.
    """
    device_id = request.session.get(AT_TABLET)
    if not device_id:
        return True
    device = device_here(request)
    if device is None or str(device.pk) != device_id:
        return False
    path = request.path
    if not any(re.fullmatch(method, request.method or "") and allowed.fullmatch(path) for method, allowed in _BENCH):
        raise Forbidden(f"{device.name} is let in for the bench alone: sign in with your password for this")
    shop_id = _shop_of(path)
    # Of what is not his at all, the route says that there is no such thing.
    if shop_id not in (None, device.shop_id) and request.user.memberships.filter(shop_id=shop_id).exists():
        raise Forbidden(f"{device.name} belongs to {device.shop.name} alone")
    return True


def _shop_of(path: str) -> UUID | None:
    """The shop that an address is about, where it is about one."""
    found = re.match(r"/api/(shops|jobs|runs|places)/([^/]+)", path)
    try:
        about = UUID(found[2]) if found else None
    except ValueError:
        # No such address stands anywhere: the route says so.
        about = None
    if found is None or about is None:
        return None
    if found[1] == "shops":
        return about
    shops = {
        "jobs": Job.objects.filter(pk=about).values_list("shop_id", flat=True),
        "runs": Run.objects.filter(pk=about).values_list("job__shop_id", flat=True),
        "places": Place.objects.filter(pk=about).values_list("shop_id", flat=True),
    }
    return shops[found[1]].first()


class TabletMiddleware:
    """Signs out who works at a tablet that is let in no more, and refuses from one what is not of the bench."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path.startswith("/api/"):
            try:
                if not may_from_here(request):
                    logout(request)
            except Forbidden as refused:
                return JsonResponse({"problems": [{"path": "", "message": refused.message}]}, status=403)
        return self.get_response(request)
