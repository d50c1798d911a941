from django.apps import AppConfig


class LanConfig(AppConfig):
    name = "cradle.lan"
    label = "lan"
