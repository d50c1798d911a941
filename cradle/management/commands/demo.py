"""`manage.py demo`: migrate, load the demo shop once, serve. One process, so that a second start takes seconds."""

from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand

from cradle.upgrading import bring_up_to_date


class Command(BaseCommand):
    help = "Migrate, load the demo shop unless it is there, and serve."

    def handle(self, *args, **options):
        bring_up_to_date(Path(settings.DATABASES["default"]["NAME"]))
        call_command("load_demo")
        call_command("serve")
