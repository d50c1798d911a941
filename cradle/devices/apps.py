from django.apps import AppConfig


class DevicesConfig(AppConfig):
    name = "cradle.devices"
    label = "devices"
    default_auto_field = "django.db.models.BigAutoField"
