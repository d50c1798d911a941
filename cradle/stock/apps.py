from django.apps import AppConfig


class StockConfig(AppConfig):
    name = "cradle.stock"
    label = "stock"
