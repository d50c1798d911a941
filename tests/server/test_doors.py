"""Who gets in, and that another shop's people get nothing: every route of the API is walked."""

import json
import subprocess
from io import BytesIO
from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone
from PIL import Image

from cradle.api import answers_lists, api
from cradle.bench.deleting import delete_job
from cradle.bench.models import Photo, Run
from cradle.bench.running import record_event
from cradle.demo_jobs import buoy_lid
from cradle.devices.letting_in import let_in, make_code
from cradle.instruments.benches import add_instrument, add_place
from cradle.instruments.models import Place
from cradle.jobs.models import PartPhoto
from cradle.jobs.saving import start_job
from cradle.shops.people import invite
from cradle.stock.keeping import receive
from layup.job import JobSpec
from layup.stock.articles import Article
from tests.core.jobs import panel
from tests.server.people import PDF, TwoShops, product_like, shop_with_person

SCHEMA = settings.BASE_DIR / "web" / "src" / "api" / "openapi.json"


class Pairs(TwoShops):
    """A pair that a view answers is two things, never a status and what is said."""

    def test_exactly_two_levers(self):
        job = panel("polyester-general", "csm-450", pots={"hands": 8, "largest_g": 3000, "mixer": "a person more"})
        made = start_job(self.shop, job, self.person).job
        for hands, mixer in ((8, "one of the hands"), (7, "a person more")):
            document = made.latest().document
            document["pots"] |= {"hands": hands, "mixer": mixer, "overtime_h": 1}
            status, answer = self.send("post", f"/api/jobs/{made.pk}/levers", {"document": document})
            self.assertEqual((status, len(answer)), (200, 2), answer)

    def test_exactly_two_products_changed(self):
        document = self.job.latest().document
        for changed in ("cloth-300", "cloth-200"):
            path = f"/api/shops/{self.shop.pk}/shelf"
            made = self.send("post", path, {"kind": "fabric", "document": product_like(changed)})[1]
            document["materials"]["fabrics"].append(made["document"])
            self.send("put", f"/api/shelf/{made['id']}/retired", {"retired": True})
        other = start_job(self.shop, JobSpec.model_validate(document), self.person).job
        status, answer = self.get(f"/api/jobs/{other.pk}/shelf")
        self.assertEqual((status, len(answer)), (200, 2))

    def test_no_view_answers_a_bare_pair(self):
        """Every view of the API stands behind what turns its tuples into lists."""
        standing = answers_lists(lambda request: ("one", "two"))
        self.assertEqual(standing(None), ["one", "two"])
        operations = [
            operation
            for router in api._get_bound_routers()
            for view in router.path_operations.values()
            for operation in view.operations
        ]
        self.assertGreaterEqual(len(operations), 70)
        for operation in operations:
            with self.subTest(view=operation.view_func.__name__):
                self.assertIs(operation.view_func.__code__, standing.__code__)


def picture() -> SimpleUploadedFile:
    """A photo, as it is sent."""
    written = BytesIO()
    Image.new("RGB", (30, 20)).save(written, "PNG")
    return SimpleUploadedFile("photo.png", written.getvalue())


class Doors(TwoShops):
    def bodies(self) -> dict[str, dict]:
        """A body that each writing route would take from the shop's own people."""
        document = self.job.latest().document
        event = {
            "tap_id": str(uuid4()),
            "about": "pot",
            "subject": "1",
            "kind": "touched",
            "happened_at": "2026-01-01T09:00:00Z",
        }
        settings = {"name": "Saltmarsh Slip", "time_zone": "Europe/London", "currency": "GBP"}
        tools = {"tools": {}, "dose_tool": "syringe", "learner": False}
        mending = {"job_id": str(self.job.pk), "part_id": document["parts"][0]["id"], "area_m2": 0.2, "cause": "dirty"}
        units = {"fabric_unit": "oz", "fluid_ounce": "us", "locale": "en-DE"}
        return {
            "post /api/shops/{shop_id}/shelf": {"kind": "fabric", "document": product_like("cloth-300")},
            "put /api/shelf/{product_id}": {"number": 1, "document": product_like("epoxy-2-1")},
            "put /api/shelf/{product_id}/retired": {"retired": True},
            "post /api/jobs/{job_id}/ticks": {
                "tap_id": str(uuid4()),
                "kind": "prepare",
                "things": ["sheets"],
                "state": "done",
            },
            "put /api/shops/{shop_id}/settings": settings | tools | units,
            "put /api/shops/{shop_id}/expected": {"coldest_c": 12, "warmest_c": 20},
            "post /api/jobs/{job_id}/copy": {"name": "Copy"},
            "post /api/jobs/{job_id}/template": {"name": "Our bottom"},
            "post /api/shops/{shop_id}/shelf/from-label": {
                "like": "epoxy-2-1",
                "name": "Bench epoxy",
                "ratio": "100:44",
                "minutes": 30,
            },
            "post /api/jobs/{job_id}/runs": {"tap_id": str(uuid4())},
            "put /api/jobs/{job_id}/put-away": {"away": False},
            "post /api/shops/{shop_id}/working": {"about": "dew"},
            "post /api/jobs/{job_id}/working": {"about": "area"},
            "put /api/shops/{shop_id}/conditions": {"room_c": 20},
            "post /api/shops/{shop_id}/quantities": {"text": "4 ft", "dimension": "length"},
            "post /api/shops/{shop_id}/moments": {"text": "tomorrow 8"},
            "post /api/shops/{shop_id}/job-line": {"text": "Hatch: 600 x 900 mm, mould, 2x 300 cloth, epoxy"},
            "post /api/jobs/{job_id}/parts/{part_id}/quick-line": {"text": "450 csm"},
            "post /api/shops/{shop_id}/jobs": {"name": "New"},
            "put /api/shops/{shop_id}/people/{person}": {"role": "owner"},
            "post /api/shops/{shop_id}/invitations": {"role": "viewer"},
            "put /api/jobs/{job_id}": {"base": document, "document": document},
            "post /api/runs/{run_id}/events": event,
            "post /api/runs/{run_id}/plan": {"tap_id": str(uuid4())},
            "post /api/runs/{run_id}/repeat": {"name": "Again", "as_done": True},
            "post /api/runs/{run_id}/working": {"about": "mixed"},
            "post /api/runs/{run_id}/check": {"pot": 1, "part_a_g": 100, "part_b_g": 45},
            "post /api/runs/{run_id}/events/{event_id}/take-back": {"tap_id": str(uuid4()), "reason": "another cup"},
            "post /api/jobs/{job_id}/starts": {"day": "2026-05-01"},
            "post /api/jobs/{job_id}/latest-start": {"by": "2126-05-01T18:00:00Z"},
            "post /api/jobs/{job_id}/joint": {"document": document, "joint_id": document["joints"][0]["id"]},
            "post /api/jobs/{job_id}/parts/{part_id}/mould": {"document": document},
            "post /api/jobs/{job_id}/pour-hours": {
                "document": document | {"pours": [{"id": "cast"}]},
                "pour_id": "cast",
            },
            "post /api/jobs/{job_id}/flow": {"document": document, "part_id": document["parts"][0]["id"]},
            "post /api/shops/{shop_id}/damage": {"width_mm": 80, "length_mm": 90, "skin_mm": 4},
            "post /api/shops/{shop_id}/jobs/from-damage": {"width_mm": 80, "length_mm": 90, "skin_mm": 4},
            "post /api/shops/{shop_id}/wrong": {"answers": {"seen": "soft"}},
            "post /api/shops/{shop_id}/jobs/from-wrong": mending,
            "post /api/shops/{shop_id}/wrong/added": mending,
            "post /api/shops/{shop_id}/places": {"name": "By the window"},
            "post /api/shops/{shop_id}/devices": {"name": "phone"},
            "put /api/shops/{shop_id}/devices/numbers": {"wanted": True},
            "post /api/shops/{shop_id}/ports/listen": {"port": "none"},
            "post /api/shops/{shop_id}/line-examples": {"kind": "scale", "lines": ["12 g"]},
            "post /api/instruments/{instrument_id}/check": {"known_g": 500},
            "post /api/places/{place_id}/standins": {"do": "stop"},
            "post /api/places/{place_id}/instruments": {"kind": "room", "name": "probe"},
            "post /api/shops/{shop_id}/stock": {"article": "resin epoxy-2-1", "amount": 500, "received": "2026-01-01"},
            "put /api/lots/{lot_id}": {"received": "2026-01-01", "place": "the cold shelf"},
            "post /api/lots/{lot_id}/count": {"tap_id": str(uuid4()), "amount": 1000, "expected": 1000},
            "post /api/lots/{lot_id}/waste": {"tap_id": str(uuid4()), "amount": 10, "reason": "spilt"},
            "put /api/lots/{lot_id}/bad": {"bad": ""},
            "post /api/lots/{lot_id}/trial": {
                "hardener_id": "epoxy-2-1-slow",
                "room_c": 20,
                "mass_g": 50,
                "seen_min": 60,
            },
            "put /api/shops/{shop_id}/week/people": {"people": [{"name": "wren"}]},
            "post /api/shops/{shop_id}/week/moved": {
                "job_id": str(self.job.pk),
                "start_at": "2126-05-01T08:00:00Z",
                "first": "2126-05-01",
            },
            "put /api/jobs/{job_id}/start": {"start_at": "2126-05-01T08:00:00Z"},
            "put /api/jobs/{job_id}/aside": {"aside": True},
            "post /api/jobs/{job_id}/delete": {},
            "post /api/jobs/{job_id}/bring-back": {},
            "put /api/shops/{shop_id}/taught/{kind}/{record_id}": {"left_out": True, "reason": "a wet cup"},
            "post /api/shops/{shop_id}/training": {
                "tap_id": str(uuid4()),
                "thing": "tare-1",
                "number": 100,
                "at": "2026-01-01T09:00:00Z",
            },
            "put /api/shops/{shop_id}/learners/{person}": {"learns": True},
            "put /api/shops/{shop_id}/learners/{person}/signed": {"task": "weigh", "signed": True},
            "post /api/shops/{shop_id}/pot-lab": {
                "resin_id": "epoxy-2-1",
                "trials": [{"mass_g": 300, "room_c": 20}],
            },
            "post /api/jobs/{job_id}/pot-lab": {"trials": [{"mass_g": 300, "room_c": 20}]},
        }

    def routes(self):
        run = Run.objects.first() or self.make_run()
        ids = {
            "shop_id": self.shop.pk,
            "job_id": self.job.pk,
            "run_id": run.pk,
            "product_id": self.epoxy.pk,
            "sheet_id": self.epoxy.sheets.get().pk,
            "number": 1,
            "event_id": run.events.first().pk,
            "person": "wren",
            "part_id": "bottom",
            "joint_id": self.job.latest().document["joints"][0]["id"],
            "invitation_id": invite(self.shop, "viewer", self.person).pk,
        }
        photo = {"job": self.job, "part_id": "bottom", "by": self.person, "content": picture().read()}
        ids["photo_id"] = PartPhoto.objects.create(id=uuid4(), **photo).pk
        gone = delete_job(start_job(self.shop, buoy_lid(), self.person).job, self.person)
        stirred = {"filler_id": "wood-flour", "consistency": "peaks", "parts": 1.2, "stirred_at": timezone.now()}
        ids |= {"kind": "filler", "record_id": self.shop.stirred.create(tap_id=uuid4(), **stirred).pk}
        tin = Article(kind="resin", product_id="epoxy-2-1")
        ids["lot_id"] = receive(self.shop, self.person, tin, 1000, received=self.shop.now().date()).pk
        ids["device_id"] = let_in(make_code(self.shop, self.person, "bench stand")[0])[1].pk
        ids["place_id"] = add_place(self.shop, "By the door").pk
        ids["instrument_id"] = add_instrument(Place.objects.get(), self.person, kind="scale", name="scale")[0].pk
        learner = shop_with_person("A Third Yard", "tern")[1]
        self.shop.memberships.create(person=learner, learns=True)
        # Somebody of this shop alone, whose password its owner may renew.
        apprentice = User.objects.create_user("plover")
        self.shop.memberships.create(person=apprentice, role="laminator")
        paths = json.loads(SCHEMA.read_text())["paths"]
        # An invitation's link is itself the right to open it: tested with the people.
        found = [(method, path) for path in paths if "{token}" not in path for method in paths[path]]
        for method, path in sorted(found, key=lambda route: route[0] == "delete"):
            of = {"job_id": gone.pk} if path.endswith("/bring-back") else {}
            of |= {"person": learner.get_username()} if "/learners/" in path else {}
            of |= {"person": apprentice.get_username()} if path.endswith("/new-password") else {}
            yield method, path, path.format(**ids | of)

    def make_run(self) -> Run:
        self.start_run()
        run = Run.objects.get()
        record_event(
            run, self.person, tap_id=uuid4(), about="pot", subject="1", kind="touched", happened_at=timezone.now()
        )
        Photo.objects.create(event=run.events.get(), content=picture().read())
        return run

    def test_every_route_with_an_id_refuses_another_shops_person(self):
        walked = 0
        for method, path, filled in self.routes():
            if path == filled:
                continue
            with self.subTest(route=f"{method} {path}"):
                self.assertEqual(self.knock(method, path, filled, self.foreign), 404)
                own = self.knock(method, path, filled, self.client)
                self.assertIn(own, (200, 422), "the route itself must work, or the refusal proves nothing")
                walked += 1
        self.assertGreaterEqual(walked, 20)

    def knock(self, method: str, path: str, filled: str, client: Client) -> int:
        if method == "get":
            return client.get(filled).status_code
        if path.endswith("/sheets"):
            return client.post(filled, {"sheet": SimpleUploadedFile("sheet.pdf", PDF)}).status_code
        if path.endswith("/stock/table"):
            listed = SimpleUploadedFile("list.csv", b"product,amount\n450 biaxial,3\n")
            return client.post(filled, {"table": listed}).status_code
        if path == "/api/archive":
            return client.post(filled, {"archive": SimpleUploadedFile("shop.zip", b"none")}).status_code
        if path.endswith("/photos"):
            of_run = {"tap_id": str(uuid4()), "happened_at": timezone.now().isoformat()}
            of_part = {"id": str(uuid4()), "part_id": "bottom"}
            return client.post(filled, of_run | of_part | {"photo": picture()}).status_code
        return self.send(method, filled, self.bodies().get(f"{method} {path}"), client)[0]

    def test_nobody_gets_in_unsigned(self):
        for method, path, filled in self.routes():
            open_to_all = path in ("/api/health", "/api/begin") or (path == "/api/session" and method != "delete")
            if open_to_all:
                continue
            # The door of a tablet, before anybody works at it: tested with the devices.
            if path.startswith("/api/devices/") and path == filled:
                continue
            with self.subTest(route=f"{method} {path}"):
                status = Client().generic(method.upper(), filled, "{}", content_type="application/json").status_code
                self.assertEqual(status, 401)

    def test_the_floor_lists_only_the_own_shop(self):
        self.assertEqual(self.get(f"/api/shops/{self.other_shop.pk}/jobs", self.foreign), (200, []))
        self.assertEqual(
            [shop["name"] for shop in self.get("/api/session", self.foreign)[1]["shops"]], ["Another Yard"]
        )

    def test_signing_in_and_out(self):
        browser = Client()
        wrong = self.send("post", "/api/session", {"person": "wren", "password": "no"}, browser)
        self.assertEqual((wrong[0], wrong[1]["problems"][0]["path"]), (422, "password"))
        right = self.send("post", "/api/session", {"person": "wren", "password": "a-long-test-word"}, browser)
        self.assertEqual((right[0], right[1]["signed_in"]), (200, True))
        self.assertEqual(self.send("delete", "/api/session", client=browser)[1]["signed_in"], False)
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}", browser)[0], 401)

    def test_a_write_without_the_token_is_refused(self):
        careful = Client(enforce_csrf_checks=True)
        careful.force_login(self.person)
        self.assertEqual(self.send("put", f"/api/shops/{self.shop.pk}/conditions", {"room_c": 20}, careful)[0], 403)
        self.assertEqual(
            self.send("post", "/api/session", {"person": "wren", "password": "x"}, Client(enforce_csrf_checks=True))[0],
            403,
        )


class Contract(TwoShops):
    def test_the_committed_openapi_file_is_the_apis(self):
        now = json.loads(json.dumps(api.get_openapi_schema(), default=str))
        self.assertEqual(json.loads(Path(SCHEMA).read_text()), now, "run `make api`")

    def test_the_committed_types_are_made_from_it(self):
        web = settings.BASE_DIR / "web"
        command = ["node_modules/.bin/openapi-typescript", "src/api/openapi.json"]
        made = subprocess.run(command, cwd=web, capture_output=True, text=True, check=True).stdout
        self.assertEqual((web / "src" / "api" / "schema.d.ts").read_text().strip(), made.strip(), "run `make api`")
