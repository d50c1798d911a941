from django.apps import AppConfig


class BenchConfig(AppConfig):
    name = "cradle.bench"
    label = "bench"
