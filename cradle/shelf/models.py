"""A shop's own products with their revisions, and the data sheets kept with them."""

import uuid

from django.conf import settings
from django.db import models

from cradle.shops.models import Shop
from layup.materials import Material
from layup.shelf import PRODUCT_KINDS, read_product


class ProductQuerySet(models.QuerySet):
    def of(self, person):
        """The products a person may reach: those of his shops."""
        return self.filter(shop__memberships__person=person)


class Product(models.Model):
    """One product as it stands. Its id is the product's id in every job that uses it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="products")
    kind = models.CharField(max_length=12, choices=[(kind, kind) for kind in PRODUCT_KINDS])
    number = models.PositiveIntegerField(default=1)
    document = models.JSONField()
    retired_at = models.DateTimeField(null=True)
    saved_at = models.DateTimeField(auto_now=True)

    objects = ProductQuerySet.as_manager()

    class Meta:
        ordering = ["kind", "saved_at"]

    def __str__(self):
        return f"{self.document.get('name')}, {self.kind}"

    def material(self) -> Material:
        """The product as the core knows it."""
        return read_product(self.kind, self.document)


class ProductRevision(models.Model):
    """What a product said, each time it was saved."""

    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    saved_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["product", "number"], name="one_product_revision_a_number")]
        ordering = ["number"]

    def __str__(self):
        return f"revision {self.number} of {self.product_id}"


class DataSheet(models.Model):
    """A data sheet, kept in the database so that a backup is whole."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="sheets")
    name = models.CharField(max_length=120)
    content_type = models.CharField(max_length=40)
    size_bytes = models.PositiveIntegerField()
    content = models.BinaryField()
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-added_at"]

    def __str__(self):
        return self.name
