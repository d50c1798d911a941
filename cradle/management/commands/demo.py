"""`manage.py demo`: migrate, load the demo shop once, serve. One process, so that a second start takes seconds."""

from django.core.management import call_command
from django.core.management.base import BaseCommand

from cradle.upgrading import bring_up_and_tell


class Command(BaseCommand):
    help = "Migrate, load the demo shop unless it is there, and serve."

    def add_arguments(self, parser):
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args, port: int, **options):
        bring_up_and_tell(self.stdout.write)
        call_command("load_demo")
        call_command("serve", port=port)
