"""`manage.py backup`: a whole, checked copy of the database into the data folder's backups."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone

from cradle.keeping import Unsound, take_backup


class Command(BaseCommand):
    help = "Copy the database, also while the server runs."
    requires_system_checks = []

    def handle(self, *args, **options):
        database = Path(settings.DATABASES["default"]["NAME"])
        try:
            self.stdout.write(str(take_backup(database, settings.DATA_DIR / "backups", timezone.now())))
        except Unsound as error:
            raise CommandError(str(error)) from error
