"""Two shops that must not see each other, for the tests of the server."""

import json
from functools import cached_property
from uuid import uuid4

from django.contrib.auth.models import User
from django.test import Client, TestCase, override_settings

from cradle.demo_jobs import buoy_lid, skiff
from cradle.jobs.models import Job
from cradle.jobs.saving import start_job
from cradle.shelf.keeping import add_product
from cradle.shelf.models import DataSheet, Product
from cradle.shops.models import Membership, Shop
from layup.library import generic

PDF = b"%PDF-1.4\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n"


def product_like(generic_id: str) -> dict:
    """A generic product as a document of the shop's own, without its ids."""
    library = generic()
    every = (*library.fabrics, *library.resins, *library.fillers, *library.vessels, *library.consumables)
    document = next(found for found in every if found.id == generic_id).model_dump(mode="json")
    del document["id"]
    for hardener in document.get("hardeners", ()):
        del hardener["id"]
    return document


def shop_with_person(name: str, person: str) -> tuple[Shop, User]:
    shop = Shop.objects.create(name=name)
    user = User.objects.create_user(person, password="a-long-test-word")
    Membership.objects.create(shop=shop, person=user)
    return shop, user


# Slow hashing protects real passwords; here it only costs time.
@override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])
class TwoShops(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.shop, cls.person = shop_with_person("Saltmarsh Slip", "wren")
        cls.other_shop, cls.stranger = shop_with_person("Another Yard", "heron")
        cls.job = start_job(cls.shop, skiff(), cls.person).job
        cls.lid = start_job(cls.shop, buoy_lid(), cls.person).job

    def setUp(self):
        self.client.force_login(self.person)
        self.foreign = Client()
        self.foreign.force_login(self.stranger)

    @cached_property
    def epoxy(self) -> Product:
        """A resin of the shop's own, with a data sheet."""
        made = add_product(self.shop, "resin", product_like("epoxy-2-1"), self.person)
        DataSheet.objects.create(
            product=made,
            name="sheet.pdf",
            content_type="application/pdf",
            size_bytes=9,
            content=PDF,
            added_by=self.person,
        )
        return made

    def start_run(self, job: Job | None = None):
        """A run of a job whose pieces are cut and whose lines are signed off."""
        at = f"/api/jobs/{(job or self.job).pk}"
        waiting = self.get(f"{at}/ready")[1]["to_waive"]
        for kind, things in waiting.items():
            if things:
                self.send(
                    "post", f"{at}/ticks", {"tap_id": str(uuid4()), "kind": kind, "things": things, "state": "done"}
                )
        return self.send("post", f"{at}/runs", {"tap_id": str(uuid4())})

    def send(self, method: str, path: str, body=None, client: Client | None = None):
        """A JSON request; answers (status, JSON)."""
        response = getattr(client or self.client, method)(path, json.dumps(body or {}), content_type="application/json")
        return response.status_code, response.json()

    def get(self, path: str, client: Client | None = None):
        response = (client or self.client).get(path)
        return response.status_code, response.json()
