"""Passwords tried: counted before they are looked at, so that many at once are no way round, and kept across restarts."""

import hashlib
from collections.abc import Callable
from datetime import datetime, timedelta
from threading import Semaphore

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from cradle.shops.models import Try
from layup.errors import LayupError

FORGOTTEN_AFTER = timedelta(minutes=15)
KNOWN_FOR = timedelta(days=30)
# For one account from one address; for one account from all addresses it never was signed in from; from one address.
MOST_OF_PAIR, MOST_OF_ACCOUNT = 5, 30
MOST_OF_ADDRESS, ADDRESS_FORGOTTEN_AFTER = 30, timedelta(minutes=1)
# Looking at a password is made to take long: one at a time leaves the other core to those who work.
_looking = Semaphore(1)
_LOOKED_AT_WITHIN_S = 30


class TooManyTries(LayupError):
    """Too many passwords were tried."""


def tried(account: str, address: str, look: Callable[[], User | None], field: str) -> User | None:
    """What looking at a password gives, unless too many were tried. Raises TooManyTries at the field."""
    one = _counted(_digest(account.lower()), _digest(address), field)
    person = unhurried(look, field)
    if person is not None:
        # What was mistyped before the right one is forgiven, and this address is known from now on.
        with transaction.atomic():
            Try.objects.filter(account=one.account, address=one.address, right=False).exclude(pk=one.pk).delete()
            Try.objects.filter(pk=one.pk).update(right=True)
    return person


def unhurried(of: Callable[[], User | None], field: str) -> User | None:
    """What takes the time of a password to work out, one at a time. Raises TooManyTries where too many wait."""
    if not _looking.acquire(timeout=_LOOKED_AT_WITHIN_S):
        raise TooManyTries("too many people are signing in just now: try again in a minute", field)
    try:
        return of()
    finally:
        _looking.release()


@transaction.atomic
def _counted(account: str, address: str, field: str) -> Try:
    now = timezone.now()
    Try.objects.filter(right=False, at__lt=now - FORGOTTEN_AFTER).delete()
    Try.objects.filter(at__lt=now - KNOWN_FOR).delete()
    wrong = Try.objects.filter(right=False)
    since = wrong.filter(address=address, at__gt=now - ADDRESS_FORGOTTEN_AFTER)
    if since.count() >= MOST_OF_ADDRESS:
        raise TooManyTries("too many wrong passwords from this network: wait a minute", field)
    of_account = wrong.filter(account=account)
    if of_account.filter(address=address).count() >= MOST_OF_PAIR:
        raise TooManyTries(
            f"too many wrong passwords: wait {_minutes_left(of_account.filter(address=address), now)}", field
        )
    known = Try.objects.filter(account=account, address=address, right=True).exists()
    if not known and of_account.count() >= MOST_OF_ACCOUNT:
        words = (
            "too many wrong passwords for this name: sign in from where you did before, or wait a quarter of an hour"
        )
        raise TooManyTries(words, field)
    return Try.objects.create(account=account, address=address, at=now)


def _minutes_left(wrong, now: datetime) -> str:
    oldest = wrong.order_by("at").values_list("at", flat=True).first()
    minutes = max(1, -(-(oldest + FORGOTTEN_AFTER - now).total_seconds() // 60))
    return "a minute" if minutes == 1 else f"{minutes:.0f} minutes"


def _digest(words: str) -> str:
    return hashlib.sha256(f"{settings.SECRET_KEY} {words}".encode(errors="replace")).hexdigest()
