"""The API under /api, and the built page for every other address."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from cradle.api import api


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return HttpResponse((settings.WEB_DIST / "index.html").read_bytes(), content_type="text/html; charset=utf-8")


urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|static/).*$", page)]
