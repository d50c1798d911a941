"""The route of who did what, for the owners of a shop."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from cradle.deeds import DEEDS
from cradle.shops.people import require_owner
from cradle.shops.routes import shop_of

router = Router(tags=["people"])
_AT_A_TIME = 100


class DeedOut(Schema):
    """What somebody did, in words after his name; so many times until `last_at`."""

    id: int
    by: str
    words: str
    thing: str
    begun_at: datetime
    last_at: datetime
    times: int


class DeedList(Schema):
    """Deeds, the last first; `older` is the number to ask with for those before them."""

    deeds: list[DeedOut]
    older: int | None


@router.get("/shops/{uuid:shop_id}/deeds", response=DeedList)
def list_deeds(
    request: HttpRequest,
    shop_id: UUID,
    by: Annotated[str, Field(max_length=150)] = Query(""),
    after: Annotated[int, Field(ge=0, le=2**31 - 1)] = Query(0),
):
    """Who did what in the shop, the last first; of one person where he is named."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop, "sees who did what")
    deeds = shop.deeds.select_related("by")
    if by:
        deeds = deeds.filter(by__username=by)
    listed = list(deeds[after : after + _AT_A_TIME + 1])
    more = len(listed) > _AT_A_TIME
    return DeedList(
        deeds=[
            DeedOut(
                id=deed.pk,
                by=deed.by.get_username(),
                words=DEEDS.get(deed.what, deed.what),
                thing=deed.thing,
                begun_at=deed.begun_at,
                last_at=deed.last_at,
                times=deed.times,
            )
            for deed in listed[:_AT_A_TIME]
        ],
        older=after + _AT_A_TIME if more else None,
    )
