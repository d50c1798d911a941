"""How a tablet is let in by a code, and how who works at it says who he is."""

import re
import secrets
from dataclasses import dataclass
from datetime import timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.contrib.auth.models import AbstractBaseUser, User
from django.db import IntegrityError, transaction
from django.utils import timezone

from cradle.devices.models import Code, Device, ShortNumber
from cradle.instruments.tokens import hash_of, new_token
from cradle.shops.models import Shop
from cradle.shops.people import require_owner
from cradle.shops.tries import tried, unhurried
from layup.errors import LayupError, Missing, OutOfRange

OPEN_FOR = timedelta(minutes=10)
# A tablet is told to be there so often at most.
_SEEN_EACH = timedelta(minutes=1)
# Without those that are read for another.
_LETTERS = "23456789abcdefghjkmnpqrstuvwxyz"
_NUMBER = re.compile(r"[0-9]{4,6}")


def make_code(shop: Shop, owner: AbstractBaseUser, name: str) -> tuple[str, Code]:
    """A code that lets a tablet in by a name. Raises OutOfRange at the name where a tablet of the shop has it."""
    require_owner(owner, shop)
    name = " ".join(name.split())
    if not name:
        raise Missing("give the tablet a name, such as “bench stand”", "name")
    if shop.devices.filter(name__iexact=name, withdrawn_at=None).exists():
        raise OutOfRange("a tablet of this shop has that name: take another, or withdraw that one first", "name")
    # Short enough to be typed where a tablet has no camera; it stands for some minutes only.
    secret = "-".join("".join(secrets.choice(_LETTERS) for _ in range(4)) for _ in range(3))
    code = Code.objects.create(
        shop=shop, name=name, code_hash=hash_of(secret), made_by=owner, expires_at=timezone.now() + OPEN_FOR
    )
    return secret, code


def open_code(secret: str) -> Code:
    """The code that was shown. Raises Missing where it was used, has run out or never was."""
    found = Code.objects.filter(code_hash=hash_of(secret), used_at=None, expires_at__gt=timezone.now())
    code = found.select_related("shop", "made_by").first()
    if code is None:
        raise Missing("this code was used or has run out: an owner shows another under People", "code")
    return code


@transaction.atomic
def let_in(secret: str) -> tuple[str, Device]:
    """Let the tablet that shows a code in: its token, which it keeps, and what it is. Of two that scan one code, one is."""
    code = open_code(secret)
    if not Code.objects.filter(pk=code.pk, used_at=None).update(used_at=timezone.now()):
        raise Missing("another tablet has used this code just now", "code")
    token, token_hash = new_token()
    try:
        with transaction.atomic():
            device = Device.objects.create(
                shop=code.shop,
                name=code.name,
                token_hash=token_hash,
                let_in_by=code.made_by,
                seen_at=timezone.now(),
            )
    except IntegrityError:
        raise OutOfRange(
            f"another tablet is called {code.name} now: an owner shows a code with another name", "code"
        ) from None
    return token, device


def device_of(token: str) -> Device | None:
    """The tablet of a token; None where there is none, or it was withdrawn."""
    if not token or len(token) > 100:
        return None
    device = Device.objects.filter(token_hash=hash_of(token), withdrawn_at=None).select_related("shop").first()
    now = timezone.now()
    if device and (device.seen_at is None or now - device.seen_at > _SEEN_EACH):
        Device.objects.filter(pk=device.pk).update(seen_at=now)
    return device


def withdraw(device: Device, owner: AbstractBaseUser) -> None:
    """Let a tablet in no more, from this moment on."""
    require_owner(owner, device.shop)
    Device.objects.filter(pk=device.pk, withdrawn_at=None).update(withdrawn_at=timezone.now())


def want_numbers(shop: Shop, owner: AbstractBaseUser, wanted: bool) -> None:
    """Whether everybody says a short number at the tablets of a shop."""
    require_owner(owner, shop)
    Shop.objects.filter(pk=shop.pk).update(short_numbers=wanted)


@dataclass(frozen=True)
class Worker:
    """Somebody who may work at a tablet: his name, his initials, whether he says his short number, or has none yet where
    the shop wants one.
    """

    person: str
    initials: str
    by_number: bool
    lacks_number: bool


def workers_of(shop: Shop) -> list[Worker]:
    """Who may work at the tablets of a shop, with initials that tell them apart."""
    members = shop.memberships.select_related("person__short_number").order_by("person__username")
    people = [member.person for member in members]
    names = [person.get_username() for person in people]
    numbered = [hasattr(person, "short_number") for person in people]
    return [
        Worker(name, initials, has, shop.short_numbers and not has)
        for name, initials, has in zip(names, initials_of(names), numbered, strict=True)
    ]


def initials_of(names: list[str]) -> list[str]:
    """The first letters of each name's words, as many more of the last word as it takes to tell them apart."""
    return [_initials(name, [other for other in names if other != name]) for name in names]


def _initials(name: str, others: list[str]) -> str:
    for letters in range(1, len(name) + 1):
        mine = _short(name, letters)
        if all(_short(other, letters) != mine for other in others):
            return mine
    return name


def _short(name: str, letters: int) -> str:
    words = re.findall(r"[^\W_]+", name) or [name]
    last = words[-1][:letters]
    return "".join(word[0].upper() for word in words[:-1]) + last[:1].upper() + last[1:]


def worker(device: Device, name: str, number: str, address: str) -> User:
    """The person who says at a tablet that it is he. Raises LayupError at the number where it is not his."""
    member = device.shop.memberships.filter(person__username=name).select_related("person__short_number").first()
    if member is None:
        raise Missing("nobody of that name works in this shop", "person")
    person: User = member.person
    if not hasattr(person, "short_number"):
        if device.shop.short_numbers:
            words = f"{device.shop.name} wants a short number of everybody: sign in with your password, and set yours under People"
            raise LayupError(words, "number")
        return person
    kept = person.short_number.number_hash
    # Counted for each tablet by itself: who guesses at one locks nobody out at another.
    at = f"{address} {device.pk}"
    if tried(f"number {name}", at, lambda: person if check_password(number, kept) else None, "number") is None:
        raise LayupError("that is not the short number of this person", "number")
    return person


def set_number(person: User, number: str) -> None:
    """Ask a person for a short number at every tablet; an empty one is asked for no more."""
    if not number:
        ShortNumber.objects.filter(person=person).delete()
        return
    if not _NUMBER.fullmatch(number):
        raise OutOfRange("four to six digits", "number")
    if len(set(number)) < 3:
        raise OutOfRange("anybody guesses that one: use at least three different digits", "number")
    hashed: list[str] = []
    unhurried(lambda: hashed.append(make_password(number)), "number")
    ShortNumber.objects.update_or_create(person=person, defaults={"number_hash": hashed[0]})
