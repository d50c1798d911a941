"""Tokens with which small sensors on the network post their readings: shown once, kept as a hash."""

import hashlib
import secrets

from cradle.instruments.models import Instrument

_BYTES = 24


def new_token() -> tuple[str, str]:
    """A token, and what is kept of it."""
    token = secrets.token_urlsafe(_BYTES)
    return token, hash_of(token)


def hash_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def instrument_of(token: str) -> Instrument | None:
    """The instrument that a token was made for; None where there is none, or it was withdrawn."""
    if not token or len(token) > 100:
        return None
    known = Instrument.objects.filter(token_hash=hash_of(token), withdrawn_at=None)
    return known.select_related("place__shop").first()
