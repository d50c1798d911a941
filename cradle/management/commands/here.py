"""`inch-cradle`: bring the data up to this version, serve it on this machine, and open it."""

import sys
import webbrowser

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand

from cradle.daily_backups import follow_the_days
from cradle.upgrading import bring_up_and_tell


class Command(BaseCommand):
    help = "Serve Inch Cradle on this machine, with the data brought up to this version."
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--quiet", action="store_true", help="open no browser")

    def handle(self, *args, port: int, quiet: bool, **options):
        self.stdout.write(f"The data is in {settings.DATA_DIR}")
        bring_up_and_tell(self.stdout.write)
        follow_the_days()
        # One who reads what it writes sits before it; a service has no browser.
        call_command("serve", port=port, once=None if quiet or not sys.stdout.isatty() else webbrowser.open)
