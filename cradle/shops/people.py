"""The people of a shop: who may do what, how a person is let in, how passwords are guarded."""

import re
import secrets
from datetime import timedelta

from django.contrib.auth import authenticate
from django.contrib.auth.models import AbstractBaseUser, User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from cradle.shops.models import Invitation, Membership, Role, Shop
from cradle.shops.tries import tried, unhurried
from layup.errors import LayupError, Missing, OutOfRange

OPEN_FOR, RENEWS_FOR = timedelta(days=7), timedelta(days=1)
# Stands in the session of who works at a tablet of the bench, with the tablet's id.
AT_TABLET = "device"
# Letters of any language: José, Ane-Mette, O'Neill, de la Cruz.
_A_NAME = re.compile(r"[^\W_](?:[\w .'’-]{0,58}[\w.])?")
_MAY_WRITE = {Role.OWNER, Role.LAMINATOR}


class Forbidden(LayupError):
    """Something this person's role in the shop does not allow."""


def role_of(person: AbstractBaseUser, shop: Shop) -> str:
    return Membership.objects.get(shop=shop, person=person).role


def require_writer(person: AbstractBaseUser, shop: Shop) -> None:
    """Raise Forbidden for those who may only look."""
    if role_of(person, shop) not in _MAY_WRITE:
        raise Forbidden(f"you may look at {shop.name}, not change it: ask an owner")


def require_owner(person: AbstractBaseUser, shop: Shop, may: str = "decides who belongs to it") -> None:
    """Raise Forbidden for all but owners; `may` is what only they do."""
    if role_of(person, shop) != Role.OWNER:
        raise Forbidden(f"only an owner of {shop.name} {may}")


def sign_in_person(name: str, password: str, address: str) -> User:
    """The person of a name and password, tried from an address."""
    person = tried(name, address, lambda: authenticate(username=name, password=password), "password")
    if person is None:
        raise LayupError("that name and password do not fit together", "password")
    return person


def change_password(person: User, old: str, new: str, address: str) -> None:
    """Set a new password, which ends every other session of the person."""
    name = person.get_username()
    if tried(name, address, lambda: person if person.check_password(old) else None, "old") is None:
        raise LayupError("that is not the password you have now", "old")
    give_password(person, new, "new")


def give_password(person: User, new: str, field: str = "password") -> None:
    """Set a password, which ends the sessions begun with the old one. Raises OutOfRange where it is weak."""
    _require_good_password(new, person, field)
    unhurried(lambda: person.set_password(new), field)
    person.save(update_fields=["password"])


def _require_good_password(password: str, person: User, field: str) -> None:
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise OutOfRange(" ".join(error.messages), field) from error


def invite(shop: Shop, role: str, person: AbstractBaseUser) -> Invitation:
    """A link for one person, open for a week."""
    return Invitation.objects.create(
        token=secrets.token_urlsafe(32), shop=shop, role=role, made_by=person, expires_at=timezone.now() + OPEN_FOR
    )


def let_renew(shop: Shop, name: str, owner: AbstractBaseUser) -> Invitation:
    """A link by which somebody of the shop who has forgotten his password chooses a new one, open for a day.

    Raises Missing where he does not belong to it, Forbidden where he belongs to another shop, whose data it would open.
    """
    member = shop.memberships.select_related("person").filter(person__username=name).first()
    if member is None:
        raise Missing(f"{name} does not belong to {shop.name}", "person")
    _require_all_shops_owned(member.person, owner)
    return Invitation.objects.create(
        token=secrets.token_urlsafe(32),
        shop=shop,
        role=member.role,
        renews=member.person,
        made_by=owner,
        expires_at=timezone.now() + RENEWS_FOR,
    )


def _require_all_shops_owned(person: AbstractBaseUser, owner: AbstractBaseUser) -> None:
    owned = owner.memberships.filter(role=Role.OWNER).values("shop")
    if person.memberships.exclude(shop__in=owned).exists():
        words = f"{person.get_username()} belongs to a shop that is not yours, too"
        raise Forbidden(f"{words}: whoever runs the server gives a new password with `inch-cradle password`")


def open_invitations(shop: Shop) -> QuerySet[Invitation]:
    """The links that still let somebody in, newest first."""
    unused = shop.invitations.filter(used_at=None, withdrawn_at=None, expires_at__gt=timezone.now())
    return unused.select_related("made_by", "renews").order_by("-expires_at")


def open_invitation(token: str) -> Invitation:
    """The invitation of a link. Raises Missing where it was used, was withdrawn, has expired or never was."""
    found = Invitation.objects.select_related("shop", "made_by", "renews").filter(token=token).first()
    if found is None or not open_invitations(found.shop).filter(pk=found.pk).exists():
        raise Missing("this invitation was used or taken back, has run out or never was: ask for another")
    return found


def withdraw(shop: Shop, invitation_id: int) -> None:
    """Take a link back. Raises Missing where it no longer lets anybody in."""
    if not open_invitations(shop).filter(pk=invitation_id).update(withdrawn_at=timezone.now()):
        raise Missing("this link lets nobody in any more: look again")


@transaction.atomic
def join(token: str, person: User | None, name: str, password: str) -> User:
    """Let a person in on an invitation, or a new one with a name and a password; the link is then used up.

    A role already held is kept. A link that renews a password lets in whose it is. Of two who follow one link at once, one is let in.
    """
    invitation = open_invitation(token)
    if invitation.renews:
        if not Membership.objects.filter(shop=invitation.shop, person=invitation.renews).exists():
            raise Missing(f"{invitation.renews.get_username()} does not belong to {invitation.shop.name} any more")
        _require_all_shops_owned(invitation.renews, invitation.made_by)
        give_password(invitation.renews, password)
        person = invitation.renews
    person = person or new_person(name, password)
    Membership.objects.get_or_create(shop=invitation.shop, person=person, defaults={"role": invitation.role})
    invitation.used_at = timezone.now()
    invitation.save(update_fields=["used_at"])
    return person


def new_person(name: str, password: str) -> User:
    """A new account. Raises OutOfRange where the name is taken or the password is weak."""
    name = User.normalize_username(" ".join(name.split()))
    if not _A_NAME.fullmatch(name):
        raise OutOfRange("a name is up to 60 letters and digits, with spaces, dots, - or _ between them", "person")
    # The database knows small and large letters of plain Latin alone.
    spelt = {name, name.lower(), name.upper(), name.title()}
    if User.objects.filter(Q(username__iexact=name) | Q(username__in=spelt)).exists():
        raise OutOfRange("that name is taken: choose another, or sign in first", "person")
    _require_good_password(password, User(username=name), "password")
    return unhurried(lambda: User.objects.create_user(name, password=password), "password")


@transaction.atomic
def change_role(shop: Shop, name: str, role: str | None) -> None:
    """Give a member another role, or none: out of the shop. A shop keeps at least one owner."""
    member = shop.memberships.filter(person__username=name).first()
    if member is None:
        raise Missing(f"{name} does not belong to {shop.name}", "person")
    owners = shop.memberships.filter(role=Role.OWNER)
    if member.role == Role.OWNER and role != Role.OWNER and owners.count() == 1:
        raise OutOfRange(f"{shop.name} needs an owner: make another one first", "role")
    if member.role == Role.OWNER and role != Role.OWNER:
        # Nobody comes back, or is let in, by a link of one who no longer decides.
        shop.invitations.filter(made_by=member.person, used_at=None).update(withdrawn_at=timezone.now())
    if role is None:
        member.delete()
    else:
        member.role = role
        member.save(update_fields=["role"])
