"""What a shop has of each thing: its lots, what went in and out of them, and what a job has put aside."""

import uuid

from django.conf import settings
from django.core.validators import MinValueValidator
from django.db import models
from django.db.models import OuterRef, Q, Subquery, Sum
from django.utils import timezone

from cradle.bench.models import Run
from cradle.jobs.models import Job
from cradle.shops.models import Shop
from layup.stock.articles import Article
from layup.stock.lots import DIGITS
from layup.stock.lots import Lot as LotFact


class LotQuerySet(models.QuerySet):
    def of(self, person):
        """The lots a person may reach: those of his shops."""
        return self.filter(shop__memberships__person=person)


class Lot(models.Model):
    """One tin, roll or box. `left` is the sum of its movements, in its article's unit, and kept beside them."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="lots")
    article_kind = models.CharField(max_length=12)
    product_id = models.CharField(max_length=80)
    name = models.CharField(max_length=120)
    batch = models.CharField(max_length=60, blank=True)
    left = models.FloatField(default=0.0, validators=[MinValueValidator(0)])
    received = models.DateField()
    # Of a fabric that is not as wide as its roll was: an offcut, that is cut from by its size.
    width_mm = models.FloatField(null=True, validators=[MinValueValidator(1)])
    # When it was ordered, where somebody said: how long things take to come.
    ordered = models.DateField(null=True)
    made = models.DateField(null=True)
    opened = models.DateField(null=True)
    expires = models.DateField(null=True)
    place = models.CharField(max_length=60, blank=True)
    stored_c = models.FloatField(null=True)
    conditions = models.JSONField(default=list)
    # What was paid for a unit of it, on the day it came.
    price = models.FloatField(null=True)
    trial_on = models.DateField(null=True)
    # Why it must not be used, where it must not.
    bad = models.CharField(max_length=300, blank=True)

    objects = LotQuerySet.as_manager()

    class Meta:
        ordering = ["article_kind", "name", "received", "id"]
        constraints = [models.CheckConstraint(condition=Q(left__gte=0), name="stock_never_under_nought")]
        indexes = [models.Index(fields=["shop", "article_kind", "product_id"])]

    def __str__(self):
        return self.fact().called

    @property
    def article(self) -> Article:
        return Article(kind=self.article_kind, product_id=self.product_id)

    def move(self, by, kind: "Movement.Kind", amount: float, **said) -> None:
        """So much in or out: the one place where a movement is written, and `left` with it."""
        amount = round(amount, DIGITS)
        Movement.objects.create(lot=self, kind=kind, amount=amount, by=by, **said)
        self.left = round(self.left + amount, DIGITS)
        self.save(update_fields=["left"])

    def fact(self) -> LotFact:
        """The same for the core."""
        same = ("name", "batch", "left", "received", "made", "opened", "expires", "stored_c", "trial_on", "bad")
        said = {name: getattr(self, name) for name in same}
        return LotFact(id=str(self.pk), article=self.article, conditions=tuple(self.conditions), **said)


class Movement(models.Model):
    """So much into a lot or out of it, with why. Movements only ever add.

    What a pot drew names its run and its number, what a piece drew its job and its id; what goes back is a movement too.
    """

    class Kind(models.TextChoices):
        CAME = "came"
        DRAWN = "drawn"
        PUT_BACK = "put back"
        COUNTED = "counted"
        WASTED = "wasted"

    lot = models.ForeignKey(Lot, on_delete=models.CASCADE, related_name="movements")
    kind = models.CharField(max_length=10, choices=Kind)
    amount = models.FloatField()
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    reason = models.CharField(max_length=300, blank=True)
    tap_id = models.UUIDField(null=True, unique=True)
    job = models.ForeignKey(Job, on_delete=models.SET_NULL, null=True, related_name="movements")
    run = models.ForeignKey(Run, on_delete=models.SET_NULL, null=True, related_name="movements")
    pot = models.PositiveIntegerField(null=True)
    piece = models.CharField(max_length=120, blank=True)
    # What it went into, in words, as it was called then.
    into = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["run", "pot"]), models.Index(fields=["job", "piece"])]

    def __str__(self):
        return f"{self.kind} {self.amount:g}"

    def save(self, *args, **kwargs):
        if self.pk is not None:
            raise TypeError("a movement of stock is never changed: add another")
        super().save(*args, **kwargs)


class AsideQuerySet(models.QuerySet):
    def with_drawn(self):
        """With what each job drew of the article since, less what went back; None where it drew nothing."""
        same = {"lot__article_kind": OuterRef("article_kind"), "lot__product_id": OuterRef("product_id")}
        since = Movement.objects.filter(job=OuterRef("job"), pk__gt=OuterRef("since"), **same).order_by()
        return self.annotate(moved=Subquery(since.values("job").annotate(sum=Sum("amount")).values("sum")))


class Aside(models.Model):
    """What a job has put aside of an article, in its unit. What it draws comes off it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="asides")
    article_kind = models.CharField(max_length=12)
    product_id = models.CharField(max_length=80)
    amount = models.FloatField(validators=[MinValueValidator(0)])
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    # The last movement before it was put aside: what came after comes off it.
    since = models.PositiveBigIntegerField(default=0)

    objects = AsideQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job", "article_kind", "product_id"], name="one_aside_of_an_article")
        ]

    def __str__(self):
        return f"{self.amount:g} of {self.product_id} for {self.job_id}"

    @property
    def article(self) -> Article:
        return Article(kind=self.article_kind, product_id=self.product_id)

    @property
    def still(self) -> float:
        """What of it was not drawn yet, of one that was read `with_drawn`."""
        return max(0.0, round(self.amount - max(0.0, -(self.moved or 0.0)), DIGITS))
