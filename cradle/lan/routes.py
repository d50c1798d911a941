"""The route that says how other tablets reach this server."""

import segno
from django.http import HttpRequest
from ninja import Router, Schema

from cradle.lan.standing import standing

router = Router(tags=["lan"])


class LanOut(Schema):
    """Where tablets reach the server; nothing in it where it answers on its own machine alone, or is on no network.

    `code` is a picture of the trust page's address, as the address of an image.
    """

    on_the_network: bool
    by_number: str = ""
    by_name: str = ""
    trust: str = ""
    code: str = ""
    authority: str = ""
    fingerprint: str = ""


@router.get("/lan", response=LanOut)
def read_lan(request: HttpRequest):
    """How other tablets reach this server."""
    here = standing()
    if here is None:
        return LanOut(on_the_network=False)
    found = LanOut(on_the_network=True, authority=here.authority.name, fingerprint=here.authority.fingerprint)
    if addresses := here.addresses:
        found.by_number, found.by_name, found.trust = addresses.by_number, addresses.by_name, addresses.trust
        found.code = segno.make(addresses.trust, micro=False).svg_data_uri(border=2, light="#fff", scale=8)
    return found
