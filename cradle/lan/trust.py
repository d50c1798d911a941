"""The page that says how a tablet is told to trust the server, and the certificate it is given: read before any TLS."""

from collections.abc import Callable
from datetime import datetime

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path
from django.views.decorators.http import require_safe

from cradle.lan.standing import Standing, standing
from cradle.lan.trust_steps import KINDS, kind_of, picture


def trust_only(application: Callable) -> Callable:
    """An ASGI application that answers with the trust page and its certificate, and sends all else there."""

    async def at_the_door(scope, receive, send):
        if scope["type"] == "http" and scope["path"].split("/")[1] == "trust" and scope["method"] in ("GET", "HEAD"):
            await application(scope, receive, send)
        elif scope["type"] == "http":
            await send({"type": "http.response.start", "status": 302, "headers": [(b"location", b"/trust")]})
            await send({"type": "http.response.body", "body": b""})

    return at_the_door


def _here() -> Standing:
    here = standing()
    if here is None:
        raise Http404
    return here


@require_safe
def page(request: HttpRequest) -> HttpResponse:
    here = _here()
    kind = kind_of(request.headers.get("User-Agent", ""), request.GET.get("kind", ""))
    name = here.authority.name
    addresses = here.addresses
    about = {
        "kind": kind,
        "others": [other for other in KINDS if other is not kind],
        "steps": [{"words": step.words, "picture": picture(step, name)} for step in kind.steps],
        "name": name,
        "fingerprint": here.authority.fingerprint,
        "address": addresses.by_number if addresses else f"https://localhost:{here.port}",
        "by_name": addresses.by_name if addresses else "",
        "clock": datetime.now().astimezone(),
    }
    return render(request, "lan/trust.html", about)


@require_safe
def certificate(request: HttpRequest) -> HttpResponse:
    headers = {"Content-Disposition": 'attachment; filename="authority.crt"', "Cache-Control": "no-store"}
    return HttpResponse(_here().authority.der, content_type="application/x-x509-ca-cert", headers=headers)


urlpatterns = [path("trust", page), path("trust/authority.crt", certificate)]
