"""`inch-cradle password NAME`: a new password for somebody who has forgotten his, asked for twice and shown nowhere."""

from getpass import getpass

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError

from cradle.shops.people import give_password
from layup.errors import LayupError


class Command(BaseCommand):
    help = "Give somebody a new password."
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("name")

    def handle(self, *args, name: str, **options):
        person = User.objects.filter(username__iexact=name).first()
        if person is None:
            names = ", ".join(User.objects.order_by("username").values_list("username", flat=True))
            raise CommandError(f"nobody here is called {name}. Here are: {names or 'none yet'}")
        password = getpass(f"A new password for {person.get_username()}: ")
        if getpass("Once more: ") != password:
            raise CommandError("the two are not the same: nothing was changed")
        try:
            give_password(person, password)
        except LayupError as error:
            raise CommandError(error.message) from error
        self.stdout.write(
            f"{person.get_username()} signs in with it from now on. All his open pages have to sign in again."
        )
