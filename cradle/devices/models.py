"""Tablets that belong to a shop's benches, the codes that let them in, and the short numbers of those who work at them."""

import uuid

from django.conf import settings
from django.db import models

from cradle.shops.models import Shop


class Device(models.Model):
    """A tablet that was let in, for the bench alone. What it shows at the door is kept as a hash."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="devices")
    name = models.CharField(max_length=60)
    token_hash = models.CharField(max_length=64, unique=True)
    let_in_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    let_in_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["shop", "name"], condition=models.Q(withdrawn_at=None), name="one_device_of_a_name"
            )
        ]

    def __str__(self):
        return self.name


class Code(models.Model):
    """A code that lets one tablet in, once, for some minutes; kept as a hash."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    code_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)

    def __str__(self):
        return f"a code for {self.name}"


class ShortNumber(models.Model):
    """The short number by which a person says at a tablet of any of his shops that it is he. Kept as passwords are."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="short_number")
    number_hash = models.CharField(max_length=128)

    def __str__(self):
        return f"the short number of {self.person}"
