from django.apps import AppConfig


class ShopsConfig(AppConfig):
    name = "cradle.shops"
    label = "shops"
