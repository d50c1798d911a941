"""The API under /api, and the built page for every other address."""

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.defaults import bad_request

from cradle.api import api
from cradle.lan.standing import standing
from cradle.lan.trust import urlpatterns as trust


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return HttpResponse((settings.WEB_DIST / "index.html").read_bytes(), content_type="text/html; charset=utf-8")


def another_address(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Somebody typed, or scanned from an old print, an address that is not this server's now."""
    if not isinstance(exception, DisallowedHost):
        return bad_request(request, exception)
    here = standing()
    addresses = here and here.addresses
    where = f"It is at {addresses.by_number} now." if addresses else "It answers on its own machine alone."
    words = f"Inch Cradle is not at this address. {where}\n"
    return HttpResponse(words, status=400, content_type="text/plain; charset=utf-8")


handler400 = another_address
urlpatterns = [path("api/", api.urls), *trust, re_path(r"^(?!api/|static/).*$", page)]
