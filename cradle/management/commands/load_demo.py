"""`manage.py load_demo`: the invented shop with its jobs, once; later runs leave everything as it stands."""

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand
from django.db import transaction

from cradle import demo
from cradle.demo_words import PASSWORD, PERSON
from cradle.shops.models import Shop


class Command(BaseCommand):
    help = "Load the demo shop unless it is there already."

    @transaction.atomic
    def handle(self, *args, **options):
        if not Shop.objects.filter(name=demo.SHOP_NAME).exists():
            demo.load(User.objects.create_user(PERSON, password=PASSWORD))
        self.stdout.write(f"Sign in as {PERSON}, password {PASSWORD}")
