"""The API: one Ninja instance, its manner of refusing, and the apps' routers."""

import logging
import shutil
from collections.abc import Callable
from functools import wraps

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError, OperationalError, connection
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema, Status
from ninja.errors import HttpError, ValidationError
from ninja.parser import Parser
from ninja.security import django_auth
from pydantic import ValidationError as PydanticError

from cradle.archive.routes import router as archives
from cradle.bench.built_routes import router as as_built
from cradle.bench.diagnosis_routes import router as diagnosis
from cradle.bench.routes import router as bench
from cradle.bench.search_routes import router as search
from cradle.bench.taught_routes import router as taught
from cradle.beside.crew import Busy, NobodyWaits
from cradle.deeds import written_down
from cradle.devices.routes import router as devices
from cradle.guide.routes import router as guide
from cradle.instruments.routes import router as instruments
from cradle.jobs.before_pot_routes import router as before_pot
from cradle.jobs.begin_routes import router as begin
from cradle.jobs.day_routes import router as day
from cradle.jobs.flow_routes import router as flows
from cradle.jobs.joint_routes import router as joints
from cradle.jobs.lab_routes import router as pot_lab
from cradle.jobs.line_routes import router as job_lines
from cradle.jobs.photo_routes import router as part_photos
from cradle.jobs.pour_routes import router as pours
from cradle.jobs.repair_routes import router as repairs
from cradle.jobs.routes import router as jobs
from cradle.jobs.stack_routes import router as stack
from cradle.jobs.week_routes import router as week
from cradle.keeping import words_of_disk
from cradle.lan.routes import router as lan
from cradle.shelf.routes import router as shelf
from cradle.shops.deed_routes import router as deeds
from cradle.shops.people import Forbidden
from cradle.shops.people_routes import router as people
from cradle.shops.preferences import units_of
from cradle.shops.routes import router as shops
from cradle.shops.tries import TooManyTries
from cradle.stock.job_routes import router as stock_of_jobs
from cradle.stock.routes import router as stock
from cradle.stock.table_routes import router as stock_tables
from cradle.training.routes import router as training
from layup.document import MOST_VALUES, require_an_end
from layup.errors import MOST_TOLD, LayupError, field_path, place_of, problems_of, words_for
from layup.job_file import Refused
from layup.scales import METRIC, Scales


class Bodies(Parser):
    """What was sent, as JSON; refused before it is looked at where it holds more than any job."""

    def parse_body(self, request: HttpRequest) -> object:
        body = super().parse_body(request)
        # A save sends two documents.
        require_an_end(body, 2 * MOST_VALUES)
        return body


class Fault(Schema):
    """One thing wrong with what was sent: the field and what to do about it."""

    path: str
    message: str


class Refusal(Schema):
    """Why a request was not carried out, each reason at its field."""

    problems: list[Fault]


class Detail(Schema):
    """Why a request was not carried out, in a word."""

    detail: str


class Published(NinjaAPI):
    """An API whose published description says how each route refuses, too."""

    def get_openapi_schema(self, **options) -> dict:
        schema = super().get_openapi_schema(**options)
        for refusal in (Fault, Refusal, Detail):
            model = refusal.model_json_schema(ref_template="#/components/schemas/{model}")
            model.pop("$defs", None)
            schema["components"]["schemas"][refusal.__name__] = model
        for path, methods in schema["paths"].items():
            for method, operation in methods.items():
                refusals = _refusals(path, method, signed_in="security" in operation)
                operation["responses"] |= {status: _refused(*of) for status, of in refusals.items()}
        return schema


def _refusals(path: str, method: str, *, signed_in: bool) -> dict[int, tuple[str, type[Schema]]]:
    """What a route may answer besides: its status, what that means, what comes with it."""
    found: dict[int, tuple[str, type[Schema]]] = {422: ("What was sent cannot be taken", Refusal)}
    if signed_in:
        found[401] = ("Nobody is signed in", Detail)
    if "{" in path:
        found[404] = ("No such thing in a shop of this person's", Detail)
    if method != "get":
        found[403] = ("This person may look, not change", Refusal)
    if not signed_in and method != "get":
        found[429] = ("Too many tries: wait a while", Refusal)
    found[503] = ("The server is busy, or cannot write: try again", Refusal)
    return dict(sorted(found.items()))


def _refused(meaning: str, of: type[Schema]) -> dict:
    body = {"schema": {"$ref": f"#/components/schemas/{of.__name__}"}}
    return {"description": meaning, "content": {"application/json": body}}


logger = logging.getLogger(__name__)
api = Published(title="Inch Cradle", version="1", auth=django_auth, docs_url=None, parser=Bodies())


def answers_lists(view: Callable) -> Callable:
    """A view whose tuple is a list of things: of a pair, the first would be taken for the answer's status."""

    @wraps(view)
    def answered(request: HttpRequest, *args, **kwargs):
        answer = view(request, *args, **kwargs)
        return list(answer) if isinstance(answer, tuple) else answer

    return answered


api.add_decorator(written_down)
api.add_decorator(answers_lists)
api.add_router("", shops)
api.add_router("", people)
api.add_router("", begin)
api.add_router("", guide)
api.add_router("", part_photos)
api.add_router("", shelf)
api.add_router("", jobs)
api.add_router("", stack)
api.add_router("", before_pot)
api.add_router("", day)
api.add_router("", week)
api.add_router("", pot_lab)
api.add_router("", job_lines)
api.add_router("", joints)
api.add_router("", pours)
api.add_router("", flows)
api.add_router("", repairs)
api.add_router("", bench)
api.add_router("", diagnosis)
api.add_router("", as_built)
api.add_router("", search)
api.add_router("", taught)
api.add_router("", deeds)
api.add_router("", archives)
api.add_router("", instruments)
api.add_router("", lan)
api.add_router("", devices)
api.add_router("", stock)
api.add_router("", stock_of_jobs)
api.add_router("", stock_tables)
api.add_router("", training)


class HealthOut(Schema):
    ok: bool
    disk_free_mb: int


def _refuse(request: HttpRequest, problems: list[tuple[str, str]], status: int = 422) -> HttpResponse:
    faults = [Fault(path=path, message=message) for path, message in problems]
    return api.create_response(request, Refusal(problems=faults), status=status)


_WRAPPING = {"body", "path", "query", "sent", "document"}


def _field(loc: tuple) -> str:
    """The field's path within what was sent, without the request's own wrapping."""
    steps = list(loc)
    while steps and steps[0] in _WRAPPING:
        steps.pop(0)
    return field_path(steps)


@api.exception_handler(ValidationError)
def refuse_invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    found: dict[str, str] = {}
    for detail in error.errors[:MOST_TOLD]:
        found.setdefault(_field(place_of(detail)), words_for(detail))
    return _refuse(request, list(found.items()))


@api.exception_handler(HttpError)
def refuse_unread(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, LayupError):
        return refuse_unworkable(request, error.__cause__)
    return api.create_response(request, {"detail": str(error)}, status=error.status_code)


@api.exception_handler(Refused)
def refuse_file(request: HttpRequest, error: Refused) -> HttpResponse:
    return _refuse(request, error.faults)


@api.exception_handler(Forbidden)
def refuse_forbidden(request: HttpRequest, error: Forbidden) -> HttpResponse:
    return _refuse(request, [(error.path, error.message)], status=403)


@api.exception_handler(TooManyTries)
def refuse_for_now(request: HttpRequest, error: TooManyTries) -> HttpResponse:
    return _refuse(request, [(error.path, error.message)], status=429)


@api.exception_handler(NobodyWaits)
def tell_nobody(request: HttpRequest, error: NobodyWaits) -> HttpResponse:
    """Whoever asked has closed the connection: no fault of the server's, and not written down as one."""
    return _refuse(request, [(error.path, error.message)], status=499)


@api.exception_handler(Busy)
def refuse_while_busy(request: HttpRequest, error: Busy) -> HttpResponse:
    return _refuse(request, [(error.path, error.message)], status=503)


@api.exception_handler(LayupError)
def refuse_unworkable(request: HttpRequest, error: LayupError) -> HttpResponse:
    scales = Scales(units_of(request.user)) if request.user.is_authenticated else METRIC
    return _refuse(request, [(error.path, scales.said(error.message))])


@api.exception_handler(RequestDataTooBig)
def refuse_too_large(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    most, size = settings.DATA_UPLOAD_MAX_MEMORY_SIZE / 1e6, int(request.headers.get("Content-Length") or 0) / 1e6
    words = f"{size:.1f} MB were sent at once, and {most:.1f} MB is the most: split the job, nothing typed is lost"
    return _refuse(request, [("", words)])


@api.exception_handler(OperationalError)
def refuse_unwritten(request: HttpRequest, error: OperationalError) -> HttpResponse:
    """The disk or the folder of the server, not what was sent."""
    logger.exception("the database refused")
    return _refuse(request, [("", words_of_disk(error))], status=507)


@api.exception_handler(Exception)
def tell_of_a_fault(request: HttpRequest, error: Exception) -> HttpResponse:
    """A fault of the program's own: written down, and told without a word of what is inside."""
    logger.error("a fault", exc_info=error)
    words = "the program failed in this, and it was written down: nothing was changed; try again, or go another way"
    return _refuse(request, [("", words)], status=500)


@api.get("/health", auth=None, response={200: HealthOut, 503: HealthOut}, tags=["health"])
def read_health(request: HttpRequest):
    """Whether the server answers from its data, and how much room its disk has: for whoever watches over it."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM shops_shop")
        answers = True
    except DatabaseError:
        answers = False
    free_mb = shutil.disk_usage(settings.DATA_DIR).free // 1_000_000
    return Status(200 if answers else 503, {"ok": answers, "disk_free_mb": free_mb})


@api.exception_handler(PydanticError)
def refuse_together(request: HttpRequest, error: PydanticError) -> HttpResponse:
    """Two edits that are sound alone and not together, such as the last plies a job may hold."""
    return _refuse(request, problems_of(error))
