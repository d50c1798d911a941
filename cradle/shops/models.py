"""A shop, its people, and what a plan takes from it."""

import uuid

from django.conf import settings
from django.db import models

from layup.job import ShopFacts


def _default_facts() -> dict:
    return ShopFacts().model_dump(mode="json")


class ShopQuerySet(models.QuerySet):
    def of(self, person):
        """The shops a person belongs to."""
        return self.filter(memberships__person=person)


class Shop(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=50, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    facts = models.JSONField(default=_default_facts)
    conditions_read_at = models.DateTimeField(auto_now_add=True)

    objects = ShopQuerySet.as_manager()

    def __str__(self):
        return self.name

    def shop_facts(self) -> ShopFacts:
        return ShopFacts.model_validate(self.facts)


class Role(models.TextChoices):
    OWNER = "owner"
    LAMINATOR = "laminator"
    VIEWER = "viewer"


class Membership(models.Model):
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="memberships")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role, default=Role.OWNER)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "person"], name="one_membership_a_person")]

    def __str__(self):
        return f"{self.person} at {self.shop}"


class Invitation(models.Model):
    """A link that lets one person into a shop, once, until it expires."""

    token = models.CharField(max_length=64, unique=True)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=10, choices=Role)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)

    def __str__(self):
        return f"{self.role} at {self.shop}"
