"""Practice, as an app."""

from django.apps import AppConfig


class TrainingConfig(AppConfig):
    name = "cradle.training"
    default_auto_field = "django.db.models.BigAutoField"
