"""Photos of a run: made small, without what a camera writes about place and time, kept with their event in the database."""

from datetime import datetime
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from cradle.bench.models import Event, Photo, Run
from cradle.bench.running import record_event
from cradle.pictures import small
from layup.bench.events import About
from layup.errors import OutOfRange

MOST_OF_A_RUN = 200


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
