"""Routes of a whole shop: taken out as one archive, and brought in."""

import tempfile
from uuid import UUID

from django.http import FileResponse, HttpRequest
from django.utils.text import slugify
from ninja import File, Router, Schema, UploadedFile

from cradle.archive.back import MOST_BYTES, bring_in
from cradle.archive.out import write_archive
from cradle.deeds import write_down
from cradle.shops.people import require_owner
from cradle.shops.routes import shop_of
from layup.errors import OutOfRange

router = Router(tags=["archive"])
# So much of an archive is held in memory while it is written; the rest on disk.
_IN_MEMORY_BYTES = 20_000_000


class BroughtInOut(Schema):
    """The shop that came of an archive."""

    id: UUID
    name: str


@router.get("/shops/{uuid:shop_id}/archive.zip", response=str)
def shop_as_archive(request: HttpRequest, shop_id: UUID):
    """All of a shop as one archive of open files; for its owners."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop, "takes it out whole")
    written = tempfile.SpooledTemporaryFile(max_size=_IN_MEMORY_BYTES)  # noqa: SIM115
    write_archive(shop, written, shop.now())
    written.seek(0)
    name = f"{slugify(shop.name) or 'shop'}-{shop.now():%Y-%m-%d}.zip"
    return FileResponse(written, as_attachment=True, filename=name, content_type="application/zip")


@router.post("/archive", response=BroughtInOut)
def bring_archive(request: HttpRequest, archive: UploadedFile = File(...)):  # noqa: B008
    """A shop out of an archive, as one of its own; who brings it in is its owner."""
    if archive.size > MOST_BYTES:
        raise OutOfRange(f"is {archive.size / 1e6:.0f} MB: {MOST_BYTES / 1e6:.0f} MB at most", "archive")
    shop = bring_in(archive.file, request.user)
    write_down(request, shop, bring_archive.__name__, str(shop.pk), shop.name)
    return BroughtInOut(id=shop.pk, name=shop.name)
