from django.apps import AppConfig


class InstrumentsConfig(AppConfig):
    name = "cradle.instruments"
    label = "instruments"
    default_auto_field = "django.db.models.BigAutoField"
