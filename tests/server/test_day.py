"""A job's day over the wire: the forecast, starts, levers, the rest of a run, what is printed.

Of `layup.day.run_sheet_print`, `layup.day.day_list`.
"""

import io
import re
from datetime import UTC, datetime, timedelta
from itertools import combinations
from uuid import uuid4

from pypdf import PdfReader

from cradle.bench.models import Run
from cradle.bench.running import record_event
from cradle.demo_jobs import skiff
from cradle.jobs.saving import start_job
from layup.job import PotWishes
from layup.paper.face import BOLD, PLAIN, width_of
from tests.core.test_paper import structure, unmarked_words
from tests.server.people import TwoShops

PRINTS = ("labels", "cut-plan", "preparation", "buy", "run-sheet", "day-list", "tickets", "laminate", "joints")
HOURS = "hour;°C;%\n" + "".join(f"{hour}:00;{12 + hour / 2:g};60\n".replace(".", ",") for hour in range(24))


def boxes_of(page) -> list[tuple[float, float, float, float, str]]:
    """Where each run of letters stands on a page: left, foot, right and top, points, by the face it is set in."""
    found = []

    def take(text, matrix, text_matrix, font, size):
        words = text.strip("\n ")
        if not words:
            return
        scale = matrix[0]
        x = matrix[4] + text_matrix[4] * scale
        y = matrix[5] + text_matrix[5] * matrix[3]
        name = BOLD if "Bold" in str(font["/BaseFont"]) else PLAIN
        # Letters reach from a fifth of their size under the line to seven tenths over it, figures from the line.
        wide, size = width_of(words, name, size * scale), size * scale
        under = 0.0 if words.isdigit() else 0.2 * size
        found.append((x, y - under, x + wide, y + 0.7 * size, words))

    page.extract_text(visitor_text=take)
    return found


class Forecasts(TwoShops):
    def bring(self, text: str):
        path = f"/api/shops/{self.shop.pk}/forecast"
        response = self.client.post(path, text.encode(), content_type="text/csv")
        return response.status_code, response.json()

    def test_a_table_becomes_the_room_of_every_plan(self):
        before = self.get(f"/api/jobs/{self.job.pk}/plan")[1]["run_sheet"]
        self.assertEqual(before["room_words"], "as read, all along")
        status, shop = self.bring(HOURS)
        self.assertEqual((status, shop["forecast_from"], len(shop["facts"]["forecast"])), (200, "a file", 24))
        sheet = self.get(f"/api/jobs/{self.job.pk}/plan")[1]["run_sheet"]
        self.assertEqual(sheet["room_words"], "by the forecast")
        self.assertGreater(len(set(sheet["room_c"])), 3)
        moments = self.get(f"/api/shops/{self.shop.pk}/day")[1]["moments"]
        self.assertGreater(max(m["room_c"] for m in moments) - min(m["room_c"] for m in moments), 5)
        self.assertEqual(self.client.delete(f"/api/shops/{self.shop.pk}/forecast").json()["forecast_from"], "")

    def test_a_bad_table_is_refused_at_its_row_and_the_old_one_stands(self):
        self.bring(HOURS)
        status, answer = self.bring("8:00,14\n9:00,warm\n")
        self.assertEqual(status, 422)
        self.assertIn("row 2: “warm” is no temperature", answer["problems"][0]["message"])
        self.assertEqual(len(self.get(f"/api/shops/{self.shop.pk}")[1]["facts"]["forecast"]), 24)

    def test_a_room_that_is_tried_moves_all_of_the_forecast(self):
        self.bring(HOURS)
        job = f"/api/jobs/{self.job.pk}"
        room_c = self.get(f"/api/shops/{self.shop.pk}")[1]["facts"]["conditions"]["room_c"]
        plain = self.send("post", f"{job}/what-if", {})[1]["run_sheet"]
        warmer = self.send("post", f"{job}/what-if", {"room_c": room_c + 3})[1]["run_sheet"]
        for one, other in zip(plain["room_c"][:10], warmer["room_c"][:10], strict=True):
            self.assertAlmostEqual(other - one, 3, places=2)


class Days(TwoShops):
    def test_starts_levers_and_an_hour_to_meet(self):
        job = f"/api/jobs/{self.job.pk}"
        tomorrow = (self.shop.now() + timedelta(days=1)).date()
        status, starts = self.send("post", f"{job}/starts", {"day": tomorrow.isoformat()})
        self.assertEqual((status, len(starts["tried"])), (200, 20))
        self.assertIn(starts["best"], starts["tried"])
        past = self.send("post", f"{job}/starts", {"day": "2020-05-01"})[1]
        self.assertEqual(past, {"tried": [], "best": None, "whole": True})
        names = [lever["name"] for lever in self.send("post", f"{job}/levers", {})[1]]
        self.assertEqual(names[:2], ["People", "Mixing"])
        by = datetime(tomorrow.year, tomorrow.month, tomorrow.day, 15, tzinfo=UTC)
        found = self.send("post", f"{job}/latest-start", {"by": by.isoformat()})[1]
        self.assertLessEqual(datetime.fromisoformat(found["laid_by"]), by)
        status, answer = self.send("post", f"{job}/latest-start", {"by": "2021-05-01T12:00:00Z"})
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "by"))
        self.assertIn("is past", answer["problems"][0]["message"])

    def test_what_is_wished_badly_is_said_at_its_field(self):
        base = self.get(f"/api/jobs/{self.job.pk}")[1]["document"]
        for wishes, field in (
            ({"hands": 0}, "hands"),
            ({"share": 1.4}, "share"),
            ({"start": "2026-05-01T08:00"}, "start"),
            ({"start": "1026-05-01T08:00Z"}, "start"),
        ):
            document = base | {"pots": base["pots"] | wishes}
            status, answer = self.send("put", f"/api/jobs/{self.job.pk}", {"base": base, "document": document})
            self.assertEqual((status, answer["problems"][0]["path"]), (422, f"pots.{field}"))

    def test_hours_a_shop_cannot_keep(self):
        settings = self.get(f"/api/shops/{self.shop.pk}")[1]
        body = settings["facts"] | {key: settings[key] for key in ("name", "time_zone", "currency")}
        status, answer = self.send("put", f"/api/shops/{self.shop.pk}/settings", body | {"opens_h": 18, "closes_h": 9})
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "closes_h"))

    def test_a_job_that_begins_tomorrow_is_due(self):
        start = self.shop.now() + timedelta(hours=20)
        begun = start_job(self.shop, skiff().model_copy(update={"pots": PotWishes(start=start)}), self.person)
        due = self.get(f"/api/shops/{self.shop.pk}/due")[1]
        (one,) = (row for row in due if row["job_id"] == str(begun.job_id))
        self.assertEqual((one["kind"], one["passed"]), ("begin", False))
        self.assertIn("pots, laid by", one["why"])


class OnPaper(TwoShops):
    def pages(self, name: str) -> list[str]:
        response = self.client.get(f"/api/jobs/{self.job.pk}/{name}")
        self.assertEqual(response["Content-Type"], "application/pdf")
        return [page.extract_text() for page in PdfReader(io.BytesIO(response.content)).pages]

    def test_run_sheet_list_and_cards_are_of_one_plan(self):
        plan = self.get(f"/api/jobs/{self.job.pk}/plan")[1]
        for paper in ("A4", "Letter"):
            text = " ".join(self.pages(f"run-sheet.pdf?paper={paper}"))
            self.assertIn(plan["run_sheet"]["sentence"], " ".join(text.split()))
            cards = self.pages(f"tickets.pdf?paper={paper}")
            self.assertEqual(len(cards), -(-plan["pot_count"] // 4))
        every = " ".join(cards)
        for pot in plan["run_sheet"]["pots"]:
            self.assertIn(f"Pot {pot['number']} of {plan['pot_count']}", every)
        self.assertNotIn("water in it", every)
        listed = " ".join(self.pages("day-list.pdf"))
        self.assertEqual(len(re.findall(r"pot \d+, ", listed)), plan["pot_count"])

    def test_every_print_embeds_its_letters_and_names_its_author(self):
        spec = self.job.latest().spec()
        name = "Łódź Ж Ω skiff 船 🚤 مركب"
        saved = {"document": spec.model_dump(mode="json") | {"name": name}, "base": spec.model_dump(mode="json")}
        self.send("put", f"/api/jobs/{self.job.pk}", saved)
        for what in PRINTS:
            with self.subTest(what=what):
                response = self.client.get(f"/api/jobs/{self.job.pk}/{what}.pdf")
                self.assertEqual(response.status_code, 200)
                pdf = PdfReader(io.BytesIO(response.content))
                self.assertEqual(pdf.metadata.author, "Inch Cradle")
                self.assertEqual(unmarked_words(pdf), [])
                kinds = dict(structure(pdf))
                self.assertTrue({"/P", "/H1"} & kinds.keys() and "/Document" in kinds)
                for page in pdf.pages:
                    said = page.extract_text()
                    for letters in ("Łódź", "Ж", "船", "🚤", "revision 2, printed "):
                        self.assertIn(letters, said)
                    for font in page["/Resources"]["/Font"].values():
                        self.assertIn("/FontFile2", font.get_object()["/FontDescriptor"])

    def test_no_words_on_paper_lie_over_others_or_are_cut(self):
        """Each run of letters as a box: none meets another, none leaves its page, none ends in dots."""
        for paper in ("A4", "Letter"):
            for what in PRINTS:
                with self.subTest(what=what, paper=paper):
                    response = self.client.get(f"/api/jobs/{self.job.pk}/{what}.pdf?paper={paper}")
                    for page in PdfReader(io.BytesIO(response.content)).pages:
                        self.assert_clear(boxes_of(page), *map(float, page.mediabox[2:]))

    def assert_clear(self, boxes: list[tuple[float, float, float, float, str]], wide: float, tall: float) -> None:
        self.assertTrue(boxes)
        for left, foot, right, top, words in boxes:
            self.assertFalse(words.endswith("…"), words)
            self.assertTrue(0 <= left < right <= wide and 0 <= foot < top <= tall, words)
        for one, other in combinations(boxes, 2):
            beside = one[2] <= other[0] + 0.5 or other[2] <= one[0] + 0.5
            apart = one[3] <= other[1] + 0.5 or other[3] <= one[1] + 0.5
            self.assertTrue(beside or apart, f"“{one[4]}” lies over “{other[4]}”")

    def test_every_figure_of_a_pot_is_read_back_from_its_card(self):
        plan = self.get(f"/api/jobs/{self.job.pk}/plan")[1]
        kinds = {pot["id"]: pot["ticket"] for pot in plan["pots"]}
        cards = " ".join(" ".join(self.pages("tickets.pdf")).split()).split("Pot ")[1:]
        self.assertEqual(len(cards), plan["pot_count"])
        for pot, card in zip(plan["run_sheet"]["pots"], cards, strict=True):
            self.assertTrue(card.startswith(f"{pot['number']} of "), card)
            for pour in kinds[pot["about"]]["pours"]:
                self.assertIn(f"{pour['what']} {pour['running']:.10g} {pour['unit']}", card)
                self.assertIn(f"on the scale: pour {pour['amount']:.10g} {pour['unit']}", card)

    def test_a_corner_that_is_none_has_no_drawing(self):
        self.assertEqual(self.client.get(f"/api/jobs/{self.job.pk}/joints/none/corner.svg").status_code, 404)

    def test_files(self):
        for name, begins in (
            ("run-sheet.ics", b"BEGIN:VCALENDAR"),
            ("run-sheet.svg", b"<svg"),
            ("run-sheet.csv", b'\xef\xbb\xbf"begins"'),
        ):
            response = self.client.get(f"/api/jobs/{self.job.pk}/{name}")
            self.assertTrue(response.content.startswith(begins), name)

    def test_a_drawing_says_how_large_it_is(self):
        part = self.job.latest().spec().parts[0].id
        joint = self.job.latest().spec().joints[0].id
        for path in ("run-sheet.svg", "rolls/1.svg", f"parts/{part}/section.svg", f"joints/{joint}/corner.svg"):
            head = self.client.get(f"/api/jobs/{self.job.pk}/{path}").content.decode().partition(">")[0]
            self.assertRegex(head, r'width="[\d.]+(mm)?" height="[\d.]+(mm)?"', path)

    def test_a_job_that_is_not_whole_has_no_sheet_and_says_why(self):
        made = self.send("post", f"/api/shops/{self.shop.pk}/jobs", {"name": "Empty"})[1]
        response = self.client.get(f"/api/jobs/{made['id']}/run-sheet.pdf")
        self.assertEqual(response.status_code, 422)
        self.assertIn("finish the stack", response.json()["problems"][0]["message"])


class TheRest(TwoShops):
    def test_a_run_is_planned_again_from_now(self):
        self.start_run()
        run = Run.objects.get()
        pots = run.plan["run_sheet"]["pots"]
        for pot in (1, 2):
            said = {"about": "pot", "subject": str(pot), "kind": "touched"}
            record_event(run, self.person, tap_id=uuid4(), happened_at=run.started_at, **said)
        rest = self.get(f"/api/runs/{run.pk}/rest")[1]
        self.assertEqual((rest["laid"], rest["run_sheet"]["pots"][0]["number"]), (2, 3))
        left = sum(pot["laid_g"] for pot in rest["run_sheet"]["pots"])
        self.assertAlmostEqual(left, sum(pot["laid_g"] for pot in pots[2:]), places=2)
        run.plan["run_sheet"] = None
        run.save()
        self.assertEqual(self.client.get(f"/api/runs/{run.pk}/rest").status_code, 422)
