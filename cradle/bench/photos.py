"""Photos of a run: made small, without what a camera writes about place and time, kept with their event in the database."""

from datetime import datetime
from io import BytesIO
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from PIL import Image, ImageOps

from cradle.bench.models import Event, Photo, Run
from cradle.bench.running import record_event
from layup.bench.events import About
from layup.errors import OutOfRange, Unreadable

MOST_BYTES = 15_000_000
MOST_OF_A_RUN = 200
LONGEST_PX = 1600
_QUALITY = 82
# Pillow itself warns over this.
_MOST_PIXELS = 89_000_000


def keep_photo(
    run: Run,
    person: AbstractBaseUser,
    raw: bytes,
    *,
    tap_id: UUID,
    about: About,
    subject: str,
    happened_at: datetime,
) -> Event:
    """Write down a photo as an event; the same tap sent twice is kept once. Raises Unreadable, at `photo`, for what is no
    picture, and OutOfRange for one too large or one too many."""
    known = Event.objects.filter(tap_id=tap_id, run=run).first()
    if known:
        return known
    if Photo.objects.filter(event__run=run).count() >= MOST_OF_A_RUN:
        raise OutOfRange(f"a run keeps {MOST_OF_A_RUN} photos: that is all of them", "photo")
    content, (width, height) = small(raw)
    with transaction.atomic():
        event = record_event(
            run,
            person,
            tap_id=tap_id,
            about=about,
            subject=subject,
            kind="photo",
            happened_at=happened_at,
            data={"width": width, "height": height},
        )
        Photo.objects.get_or_create(event=event, defaults={"content": content})
    return event


def small(raw: bytes) -> tuple[bytes, tuple[int, int]]:
    """A picture as a JPEG of at most LONGEST_PX, turned upright, with nothing but its pixels; and its width and height."""
    try:
        with Image.open(BytesIO(raw)) as opened:
            if opened.width * opened.height <= _MOST_PIXELS:
                opened.draft("RGB", (LONGEST_PX, LONGEST_PX))
                picture = ImageOps.exif_transpose(opened).convert("RGB")
            size = opened.size
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Unreadable("is no picture this program reads: send a JPEG, PNG or WebP", "photo") from error
    if size[0] * size[1] > _MOST_PIXELS:
        raise OutOfRange(f"is {size[0]} by {size[1]} pixels: send a smaller picture", "photo")
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    written = BytesIO()
    picture.save(written, "JPEG", quality=_QUALITY, optimize=True)
    return written.getvalue(), picture.size
