"""Routes of a shop's people: roles, invitations, passwords."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.contrib.auth import login, update_session_auth_hash
from django.http import HttpRequest
from ninja import Field, Router, Schema

from cradle.sent import require_page
from cradle.shops.models import Invitation, Role, Shop
from cradle.shops.people import (
    change_password,
    change_role,
    invite,
    join,
    let_renew,
    open_invitation,
    open_invitations,
    require_owner,
    role_of,
    withdraw,
)
from cradle.shops.routes import SessionOut, session_of, shop_of

router = Router(tags=["people"])
Words = Annotated[str, Field(max_length=200)]


class MemberOut(Schema):
    person: str
    role: Role


class PeopleOut(Schema):
    your_role: Role
    people: list[MemberOut]


class RoleIn(Schema):
    role: Role


class InvitationOut(Schema):
    token: str
    role: Role
    expires_at: datetime


class OpenInvitationOut(Schema):
    """A link that still lets somebody in; the link itself is shown once, when it is made."""

    id: int
    role: Role
    renews: str
    made_by: str
    expires_at: datetime


class InvitedOut(Schema):
    """What a link is good for: a place in a shop, or a new password for whom it `renews`."""

    shop: str
    renews: str
    role: Role
    invited_by: str


class JoinIn(Schema):
    """A name and a password for a new account; left empty by someone who is signed in."""

    person: Words = ""
    password: Words = ""


class PasswordIn(Schema):
    old: Words
    new: Words


def _people(request: HttpRequest, shop) -> PeopleOut:
    members = shop.memberships.select_related("person").order_by("person__username")
    return PeopleOut(
        your_role=role_of(request.user, shop),
        people=[MemberOut(person=member.person.get_username(), role=member.role) for member in members],
    )


@router.get("/shops/{uuid:shop_id}/people", response=PeopleOut)
def list_people(request: HttpRequest, shop_id: UUID):
    return _people(request, shop_of(request, shop_id))


@router.put("/shops/{uuid:shop_id}/people/{person}", response=PeopleOut)
def set_role(request: HttpRequest, shop_id: UUID, person: str, sent: RoleIn):
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    change_role(shop, person, sent.role)
    return _people(request, shop)


@router.delete("/shops/{uuid:shop_id}/people/{person}", response=list[MemberOut])
def remove_person(request: HttpRequest, shop_id: UUID, person: str):
    """Out of the shop; anyone may go himself."""
    shop = shop_of(request, shop_id)
    if person != request.user.get_username():
        require_owner(request.user, shop)
    change_role(shop, person, None)
    members = shop.memberships.select_related("person").order_by("person__username")
    return [MemberOut(person=member.person.get_username(), role=member.role) for member in members]


@router.post("/shops/{uuid:shop_id}/invitations", response=InvitationOut)
def make_invitation(request: HttpRequest, shop_id: UUID, sent: RoleIn):
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    return invite(shop, sent.role, request.user)


@router.get("/shops/{uuid:shop_id}/invitations", response=list[OpenInvitationOut])
def list_invitations(request: HttpRequest, shop_id: UUID):
    """The links that still let somebody in; for owners."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    return _open_invitations(shop)


@router.delete("/shops/{uuid:shop_id}/invitations/{int:invitation_id}", response=list[OpenInvitationOut])
def withdraw_invitation(request: HttpRequest, shop_id: UUID, invitation_id: int):
    """Take a link back: it lets nobody in any more."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    withdraw(shop, invitation_id)
    return _open_invitations(shop)


def _open_invitations(shop: Shop) -> list[OpenInvitationOut]:
    return [
        OpenInvitationOut(
            id=invitation.pk,
            role=invitation.role,
            renews=_renewed(invitation),
            made_by=invitation.made_by.get_username(),
            expires_at=invitation.expires_at,
        )
        for invitation in open_invitations(shop)
    ]


@router.get("/invitations/{token}", auth=None, response=InvitedOut)
def read_invitation(request: HttpRequest, token: str):
    invitation = open_invitation(token)
    return InvitedOut(
        shop=invitation.shop.name,
        renews=_renewed(invitation),
        role=invitation.role,
        invited_by=invitation.made_by.get_username(),
    )


@router.post("/invitations/{token}", auth=None, response=SessionOut)
def take_invitation(request: HttpRequest, token: str, sent: JoinIn):
    """Join the shop: as who is signed in, or with a new account."""
    require_page(request)
    known = request.user if request.user.is_authenticated else None
    person = join(token, known, sent.person, sent.password)
    # Also who renewed his own password: the page he sits at goes on with the new one.
    if known is None or (known.pk, known.password) != (person.pk, person.password):
        login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    return session_of(request)


def _renewed(invitation: Invitation) -> str:
    return invitation.renews.get_username() if invitation.renews else ""


@router.post("/shops/{uuid:shop_id}/people/{person}/new-password", response=InvitationOut)
def let_renew_password(request: HttpRequest, shop_id: UUID, person: str):
    """A link for somebody who has forgotten his password, good once and for a day."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    return let_renew(shop, person, request.user)


@router.post("/session/password", response=SessionOut)
def set_password(request: HttpRequest, sent: PasswordIn):
    """A new password: every other session of this person ends, this one goes on."""
    change_password(request.user, sent.old, sent.new, request.META["REMOTE_ADDR"])
    update_session_auth_hash(request, request.user)
    return session_of(request)
