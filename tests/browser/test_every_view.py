"""Every page and every step of the demo jobs, in a shop that reads ounces and inches.

No metric word stands outside a name; axe finds nothing, its rules off by default included, by day and by night, on a desk
and on a phone; nothing runs off the side. `make views` goes through all jobs in every look; each time, what differs most.
"""

import os
import re

from playwright.sync_api import expect

from tests.browser.desk import ROOT, DeskTest
from tests.metric_words import METRIC_WORD

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text(encoding="utf-8")
ALL = "CRADLE_ALL_VIEWS" in os.environ
PRACTICE = tuple(
    f"/practice/{piece}" for piece in ("hour", "sums", "pour", "day", "samples", "record", *(("words",) if ALL else ()))
)
GUIDE = ("/guide", "/guide/ticket", "/guide/about", *(("/guide/changes", "/guide/shop") if ALL else ()))
PAGES = (
    "/",
    "/shop",
    "/people",
    "/shelf",
    "/week",
    "/kit",
    "/damage",
    "/wrong",
    "/taught",
    "/search?q=epoxy",
    "/lab",
    *PRACTICE,
    "/first",
    *GUIDE,
)
# The kit shows its pieces in both unit sets; the shop's page and the shelf name the other set to choose it. A learner is asked
# in whatever unit he may meet, and each says its own.
METRIC_TOO = ("/shop", "/kit", "/shelf", *PRACTICE, *GUIDE)
JOBS = (
    "Estuary skiff",
    "Channel buoy lid",
    *(("Rudder blade", "Foredeck hatch", "Locker lid", "Tiller-head panel", "Springy foredeck") if ALL else ()),
)
TITLES = {"buy": "to buy", "lab": "pot lab"}
# The narrowest: a page of 1,280 points, four times enlarged, reflows to it (published, WCAG 2.2, 1.4.10).
DESK, PHONE, NARROW = (1280, 800), (390, 844), (320, 640)
LOOKS = ((DESK, "light"), (PHONE, "dark"), *(((DESK, "dark"), (PHONE, "light")) if ALL else ()))
# What a look or a size can change, of what the first has been through whole.
OF_A_LOOK = {
    (DESK, "dark"): ("color-contrast",),
    (PHONE, "dark"): ("color-contrast", "target-size", "scrollable-region-focusable"),
    (PHONE, "light"): ("target-size",),
}
# Names of things, and words that the job's own people typed.
NAMED = (*("g °C", "10 mm foam core", "clamps every 200 mm", "700 ml", "R 12 mm"),)
SAID = """() => {
    const said = [document.body.innerText];
    for (const part of document.querySelectorAll("[aria-label], [placeholder], [title], [aria-valuetext]"))
        for (const name of ["aria-label", "placeholder", "title", "aria-valuetext"])
            said.push(part.getAttribute(name) ?? "");
    for (const field of document.querySelectorAll("input")) said.push(field.value);
    return said.join("\\n");
}"""
# As a link goes: the page stays.
GO = "place => { history.pushState({}, '', place); dispatchEvent(new PopStateEvent('popstate')); }"
RUN = """async (only) => {
    const options = { resultTypes: ["violations"] };
    if (only.length) options.runOnly = only;
    else options.rules = Object.fromEntries(
        ["target-size", "label-content-name-mismatch", "page-has-heading-one"].map((rule) => [rule, { enabled: true }]));
    const { violations } = await axe.run(options);
    return violations.flatMap((rule) => rule.nodes.map((node) => `${rule.id}: ${node.html.slice(0, 160)}`));
}"""


class Views(DeskTest):
    def axe(self, only: tuple[str, ...] = ()) -> list[str]:
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE)
        return self.page.evaluate(RUN, only)

    def metric_words(self) -> list[str]:
        """The lines that say a metric word; what the server is still working out anew stands in its old words till then."""
        for _ in range(60):
            said = self.page.evaluate(SAID)
            for name in NAMED:
                said = said.replace(name, "")
            lines = [line for line in said.splitlines() if METRIC_WORD.search(line)]
            if not lines:
                break
            self.page.wait_for_timeout(1000)
            self.page.reload()
            expect(self.page.get_by_role("heading", level=1)).to_be_attached()
        return lines

    def look(self, where: str, *, metric_too: bool = False) -> None:
        """One place in every look and size."""
        page = self.page
        page.wait_for_load_state("networkidle")
        with self.subTest(where=where):
            if not metric_too:
                self.assertEqual(self.metric_words(), [])
            for size, scheme in LOOKS:
                page.set_viewport_size({"width": size[0], "height": size[1]})
                page.emulate_media(color_scheme=scheme)
                expect(page.locator("html")).to_have_attribute("data-look", "night" if scheme == "dark" else "light")
                self.assertEqual(self.axe(OF_A_LOOK.get((size, scheme), ())), [], f"{size} {scheme}")
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size[0])
        with self.subTest(where=where, size=NARROW):
            self.reflows()
        page.set_viewport_size({"width": DESK[0], "height": DESK[1]})
        page.emulate_media(color_scheme="light")

    def reflows(self) -> None:
        """On the narrowest nothing runs off the side; what is wide by nature scrolls in a frame of its own."""
        self.page.set_viewport_size({"width": NARROW[0], "height": NARROW[1]})
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), NARROW[0])

    def in_ounces(self) -> None:
        page = self.page
        page.get_by_role("radio", name="oz °F").click()
        # Chosen once the server has it.
        expect(page.get_by_role("radio", name="oz °F")).to_be_checked()
        page.goto(f"{self.server.address}/shop")
        page.get_by_role("radio", name="ounces").click()
        for label, tool in (
            ("Pots are weighed on", "Bench scale, 0.05 oz"),
            ("The cup they are measured in", "Quart cup, marked every ½ fl oz"),
            ("The syringe", "Syringe, 10 cc"),
            ("Numbers, days and hours are written as in", "United States"),
        ):
            self.pick(label, tool)
        expect(page.get_by_role("status")).to_have_text("kept")


class EveryView(Views):
    def test_every_view(self):
        page = self.page
        self.in_ounces()
        for path in PAGES:
            page.goto(self.server.address + path)
            expect(page.get_by_role("heading", level=1)).to_be_attached()
            self.look(path, metric_too=path in METRIC_TOO)
        page.goto(f"{self.server.address}/shelf")
        page.get_by_role("region", name="Stock").get_by_role("link").filter(has_text="ME-2207").click()
        expect(page.get_by_role("region", name="What came and went")).to_be_visible()
        self.look("a lot")
        page.goto(f"{self.server.address}/search?q=bottom")
        page.get_by_role("link", name="What lies there").first.click()
        expect(page.get_by_role("table", name="").first).to_be_visible()
        self.look("as built")
        for job in JOBS:
            page.goto(self.server.address)
            self.open(job)
            steps = page.get_by_role("navigation", name="Steps").get_by_role("link")
            places = [step.get_attribute("href") for step in steps.all()]
            of_job = places[0].rsplit("/", 1)[0]
            for place in (*places, f"{of_job}/buy", f"{of_job}/lab"):
                step = place.rsplit("/", 1)[1]
                page.evaluate(GO, place)
                expect(page).to_have_title(re.compile(f"^{TITLES.get(step, step)}", re.IGNORECASE))
                expect(page.locator("#step h1")).to_be_attached()
                self.look(f"{job} {step}")
        if not ALL:
            # Of the casting, what no other job has.
            page.goto(self.server.address)
            self.open("Tiller-head panel")
            self.step("Pours")
            expect(page.get_by_role("slider", name="Moment shown")).to_be_visible()
            self.look("Tiller-head panel pours")


class AtTheBench(Views):
    """A thickened pot from its cup to the corner, weighed in ounces, by night and by day, on a stand and on a phone."""

    def look_at_the_bench(self, where: str) -> None:
        page = self.page
        with self.subTest(where=where):
            self.assertEqual(self.metric_words(), [])
            for size in (DESK, PHONE):
                page.set_viewport_size({"width": size[0], "height": size[1]})
                self.assertEqual(self.axe(OF_A_LOOK.get((PHONE, "dark"), ()) if size == PHONE else ()), [], str(size))
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size[0])
            self.reflows()
            page.set_viewport_size({"width": DESK[0], "height": DESK[1]})

    def test_the_bench(self):
        page = self.page
        self.in_ounces()
        page.goto(self.server.address)
        self.open("Estuary skiff")
        self.step("Ticket")
        page.get_by_role("button", name="Take it to the bench").click()
        page.get_by_role("link", name="Open the bench").click()
        next_step = page.locator("[data-next]")
        for where in ("begin", "mix", "weigh", "weigh the second", "stir", "fill", "pour out", "lay"):
            expect(next_step).to_be_visible()
            self.look_at_the_bench(where)
            if where == "stir":
                page.get_by_role("button", name="day", exact=True).click()
            words = next_step.inner_text()
            page.keyboard.press("ArrowRight")
            expect(page.get_by_role("button", name=words, exact=True)).to_have_count(0)
        for view in ("Lay", "Clocks", "Plan", "Write"):
            page.get_by_role("navigation", name="Bench").get_by_role("button", name=view).click()
            if view == "Plan":
                expect(page.get_by_role("button", name="Take the new plan")).to_be_enabled()
            self.look_at_the_bench(view)
        page.get_by_role("button", name="Pot getting hot?").click()
        self.look_at_the_bench("hot")
