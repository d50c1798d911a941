from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "cradle.shelf"
    label = "shelf"
