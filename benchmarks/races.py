"""People who do the same in the same moment, on a real server: what each is told, and that nothing is lost or done twice."""

import itertools
import json
import threading
from collections import Counter
from datetime import UTC, datetime
from functools import partial
from uuid import uuid4

from benchmarks.shop import Desk, Tablet, at_once, demo_server, tablets

FILL = """
from uuid import uuid4
from cradle.jobs.ready import before_pot, tick_things
from cradle.jobs.saving import start_job
from cradle.shops.models import Shop
from django.contrib.auth.models import User
from layup.plan import plan
from tests.core.jobs import panel
shop, person = Shop.objects.get(), User.objects.first()
spec = panel("epoxy-2-1", *["cloth-300"] * 4, width_m=4, length_m=5, pots={"largest_g": 300})
job = start_job(shop, spec, person).job
facts = shop.shop_facts()
before = before_pot(job, spec, plan(spec, facts), facts)
for kind, things in (("cut", [p.id for p in before.pieces]), ("prepare", [line.id for line in before.lines])):
    tick_things(before, job, person, tap_id=uuid4(), kind=kind, things=things, state="done")
print(job.pk)
"""
FROZEN = """
import sys
from cradle.bench.models import Run
from cradle.jobs.models import JobRevision
for run in Run.objects.filter(job_id=sys.argv[1]):
    print(run.document == JobRevision.objects.get(job=run.job, number=run.revision_number).document)
"""


class Races:
    def __init__(self, desk: Desk):
        self.desk = desk
        self.people = tablets(desk, 8)
        self.job_id = desk.script(FILL).strip()
        self.job, self.shop = f"/api/jobs/{self.job_id}", f"/api/shops/{desk.shop_id}"
        self.told: Counter[int] = Counter()

    def send(self, tablet: Tablet, method: str, path: str, body: dict | None = None) -> tuple[int, dict]:
        status, content = tablet.send(method, path, body)
        self.told[status] += 1
        return status, json.loads(content)

    def runs_begun_while_it_is_edited(self) -> str:
        """Each names a revision that is what it froze."""
        editing, done = self.people[0], threading.Event()

        def edit() -> None:
            base = self.send(editing, "GET", self.job)[1]["document"]
            for number in itertools.count():
                if done.is_set():
                    return
                changed = base | {"name": f"Panel {number}"}
                base = self.send(editing, "PUT", self.job, {"base": base, "document": changed})[1]["document"]

        editor = threading.Thread(target=edit)
        editor.start()
        begun = [self.begin(self.people[1], uuid4())[0] for _ in range(9)]
        done.set()
        editor.join()
        frozen = self.desk.script(FROZEN, self.job_id).split()
        return f"{begun.count(200)} runs begun during edits, {frozen.count('False')} name what they did not freeze"

    def begin(self, tablet: Tablet, tap) -> tuple[int, dict]:
        return self.send(tablet, "POST", f"{self.job}/runs", {"tap_id": str(tap)})

    def one_start_pressed_four_times(self) -> str:
        tap = uuid4()
        begun = at_once([partial(self.begin, person, tap) for person in self.people[:4]])
        ids = {run.get("id") for _, run in begun}
        self.run = begun[0][1]
        return f"one start pressed four times: {len(ids)} run, told {sorted(status for status, _ in begun)}"

    def pour(self, tablet: Tablet, pot: int, tap) -> int:
        event = {
            "tap_id": str(tap),
            "about": "pot",
            "subject": str(pot),
            "kind": "touched",
            "happened_at": datetime.now(UTC).isoformat(),
        }
        return self.send(tablet, "POST", f"/api/runs/{self.run['id']}/events", event)[0]

    def poured(self) -> Counter[int]:
        """How often each pot was written down as poured."""
        run = self.send(self.people[0], "GET", f"/api/runs/{self.run['id']}")[1]
        return Counter(
            story["pot"] for story in run["stories"] for event in story["events"] if event["kind"] == "touched"
        )

    def one_pot_poured_by_six(self) -> str:
        for pot in range(1, 9):
            at_once([partial(self.pour, person, pot, uuid4()) for person in self.people[:6]])
        twice = sum(count > 1 for count in self.poured().values())
        return f"one pot poured by six tablets at once, 8 times: {twice} poured twice"

    def one_tap_eight_times(self) -> str:
        refused = 0
        for pot in range(9, 15):
            tap = uuid4()
            told = at_once([partial(self.pour, person, pot, tap) for person in self.people])
            refused += sum(status != 200 for status in told)
        twice = sum(count > 1 for count in self.poured().values())
        return f"the same tap eight times at once, 6 times: {refused} of 48 not answered, {twice} written twice"

    def settings_and_a_reading(self) -> str:
        lost = 0
        shop = self.send(self.people[0], "GET", self.shop)[1]
        known = {name: shop[name] for name in ("name", "time_zone", "currency")}
        names = ("fabric_unit", "fluid_ounce", "locale", "tools")
        names += ("dose_tool", "learner")
        known |= {name: shop["facts"][name] for name in names}
        for number in range(40):
            room_c, scoop_ml = 15 + number / 10, 100 + number
            conditions, settings = {"room_c": room_c}, known | {"scoop_ml": scoop_ml}
            reading = partial(self.send, self.people[0], "PUT", f"{self.shop}/conditions", conditions)
            saving = partial(self.send, self.people[1], "PUT", f"{self.shop}/settings", settings)
            at_once([reading, saving])
            facts = self.send(self.people[0], "GET", self.shop)[1]["facts"]
            lost += (facts["conditions"]["room_c"], facts["scoop_ml"]) != (room_c, scoop_ml)
        return f"settings and a reading at once, 40 times: {lost} lost"

    def eight_on_one_link(self) -> str:
        token = self.send(self.people[0], "POST", f"{self.shop}/invitations", {"role": "viewer"})[1]["token"]
        strangers = [Tablet(self.desk) for _ in range(8)]
        names = [{"person": f"new-{n}", "password": f"copper-rivet-{n}9"} for n in range(8)]
        joined = at_once(
            [
                partial(self.send, stranger, "POST", f"/api/invitations/{token}", name)
                for stranger, name in zip(strangers, names, strict=True)
            ]
        )
        return f"eight who follow one link at once: {[status for status, _ in joined].count(200)} let in"

    def saves_of_many(self) -> str:
        """Each changes a part of his own: all of it is there after."""
        document = self.send(self.people[0], "GET", self.job)[1]["document"]
        first = document["parts"][0]
        parts = [first | {"id": f"part-{n}", "name": f"Part {n}", "plies": []} for n in range(8)]
        opened = self.send(
            self.people[0], "PUT", self.job, {"base": document, "document": document | {"parts": parts}}
        )[1]
        base, made_from = opened["document"], {name: opened[name] for name in ("revision", "edit")}

        def rename(person: Tablet, number: int) -> int:
            mine = json.loads(json.dumps(base))
            mine["parts"][number]["name"] = f"Of {number}"
            body = {"base": base, "document": mine, "made_from": made_from}
            return self.send(person, "PUT", self.job, body)[0]

        told = at_once([partial(rename, person, number) for number, person in enumerate(self.people)])
        now = self.send(self.people[0], "GET", self.job)[1]["document"]["parts"]
        missing = sum(part["name"] != f"Of {number}" for number, part in enumerate(now))
        return f"eight saves of one job at once: {told.count(200)} taken, {missing} of them not there after"


def main() -> None:
    with demo_server() as desk:
        races = Races(desk)
        for race in (
            races.runs_begun_while_it_is_edited,
            races.one_start_pressed_four_times,
            races.one_pot_poured_by_six,
            races.one_tap_eight_times,
            races.settings_and_a_reading,
            races.eight_on_one_link,
            races.saves_of_many,
        ):
            print(f"  {race()}")
        faults = sum(count for status, count in races.told.items() if status >= 500)
        print(f"Races: {sum(races.told.values()):,} answers, {faults} of them a fault (promised 0)")


if __name__ == "__main__":
    main()
