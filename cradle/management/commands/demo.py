"""`manage.py demo`: migrate, load the demo shop once, serve. One process, so that a second start takes seconds."""

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = "Migrate, load the demo shop unless it is there, and serve."

    def handle(self, *args, **options):
        call_command("migrate", verbosity=0)
        call_command("load_demo")
        call_command("serve")
