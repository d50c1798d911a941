"""What was practised, and what was signed for."""

from django.conf import settings
from django.db import models

from cradle.shops.models import Shop
from layup.training.tried import Attempt as Tried
from layup.training.tried import Signed


class Attempt(models.Model):
    """One thing tried, once, and whether it was right. `tap_id` is made where it was tried, so that it never counts twice."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="attempts")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="attempts")
    tap_id = models.UUIDField(unique=True)
    thing = models.CharField(max_length=40)
    right = models.BooleanField()
    # What was answered, as it was sent.
    answer = models.JSONField(default=dict)
    at = models.DateTimeField()
    came_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "id"]
        indexes = [models.Index(fields=["shop", "person", "at"])]

    def __str__(self):
        return f"{self.thing}: {'right' if self.right else 'not right'}"

    def fact(self) -> Tried:
        """The same for the core."""
        return Tried(thing=self.thing, right=self.right, at=self.at)


class SignOff(models.Model):
    """A task of a learner that somebody skilled has signed."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="sign_offs")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="sign_offs")
    task = models.CharField(max_length=40)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.UniqueConstraint(fields=["shop", "person", "task"], name="one_sign_off_a_task")]

    def __str__(self):
        return f"{self.task} of {self.person}, signed by {self.by}"

    def fact(self) -> Signed:
        """The same for the core."""
        return Signed(task=self.task, by=self.by.get_username(), at=self.at)
