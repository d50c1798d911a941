"""`manage.py restore FILE`: put a backup in the database's place, keeping what stood there."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone

from cradle.keeping import Unsound, put_back


class Command(BaseCommand):
    help = "Put a backup back. Stop the server first."
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("file", type=Path)

    def handle(self, *args, file: Path, **options):
        if not file.is_file():
            raise CommandError(f"{file} is not there")
        try:
            kept = put_back(file, Path(settings.DATABASES["default"]["NAME"]), timezone.now())
        except Unsound as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"restored; what stood before is {kept}" if kept else "restored")
