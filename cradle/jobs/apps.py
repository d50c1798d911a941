from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "cradle.jobs"
    label = "jobs"
