"""Bag and flow at the desk: a bag whose deadline a slow crew misses, a corner that stays dry and is mended by dragging, the
room scrubbed to the best, what cannot be said."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Bags(DeskTest):
    def test_a_slow_crew_misses_the_deadline_and_the_bag_says_so(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Bag")
        expect(page.get_by_role("heading", level=1)).to_contain_text("The bag over Skin")
        expect(self.sheet.get_by_text("Bag down, to spare")).to_be_visible()
        # What lies in it, from the part outward, and what of it comes with the bag.
        section = page.get_by_role("img", name=re.compile("Section through the bag of Skin"))
        expect(section).to_have_accessible_name(re.compile("85 peel ply, 150 breather, Bag film$"))
        self.fill("To put it on, min", "110")
        expect(self.sheet.get_by_text("Bag down too late by")).to_be_visible()
        expect(self.sheet.get_by_text(re.compile("after the first pot has gelled"))).to_be_visible()
        steps = page.get_by_role("navigation", name="Steps")
        expect(steps.get_by_role("link", name="Bag")).to_contain_text("stop")
        self.fill("To put it on, min", "12")
        expect(self.sheet.get_by_text("Bag down, to spare")).to_be_visible()
        self.saved()
        self.step("Pots")
        expect(page.get_by_role("group", name=re.compile("run sheet", re.IGNORECASE)).first).to_contain_text(
            "bag down by"
        )

    def test_a_gauge_is_read_in_its_own_unit_and_a_leak_stops(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Bag")
        told = page.get_by_role("region", name="What the bag does")
        expect(told).to_contain_text("100 mbar")
        self.pick("Read as", "inHg, as a gauge shows it")
        # The same level, as the gauge has it.
        expect(page.get_by_label("Pulled down to")).to_have_value("27")
        self.fill("Pulled down to", "25")
        expect(told).to_contain_text("167 mbar")
        self.fill("Pulled down to", "31")
        expect(page.get_by_text("no shop pump pulls so far").first).to_be_visible()
        expect(page.get_by_label("Pulled down to")).to_have_value("31")
        self.fill("Pulled down to", "27")
        self.fill("Leak test: came back, mbar", "40")
        expect(self.sheet.get_by_text("40 mbar came back in 10 min with the pump shut")).to_be_visible()
        expect(told).to_contain_text("mbar·l/s")
        self.fill("Leak test: came back, mbar", "4")
        expect(self.sheet.get_by_text("came back in 10 min")).to_have_count(0)


class Flow(DeskTest):
    def setUp(self):
        # Each begins with the hatch as it was at first.
        self.server.begin_again(weather=False)
        super().setUp()

    def open_flow(self) -> None:
        self.open("Foredeck hatch")
        self.step("Bag")
        expect(self.feed()).to_be_visible()

    def feed(self, name: str = "feed"):
        return self.page.get_by_role("slider", name=name, exact=True)

    def drag(self, name: str, to: str, inside: int = 0) -> None:
        """Drags a point of a line onto another's."""
        target = self.feed(to).bounding_box()
        point = self.feed(name)
        box = point.bounding_box()
        mouse = self.page.mouse
        mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        mouse.down()
        mouse.move(target["x"] + target["width"] / 2 + 40, target["y"] + target["height"] / 2 + 30, steps=4)
        mouse.move(target["x"] + target["width"] / 2 + inside, target["y"] + target["height"] / 2 + inside, steps=4)
        mouse.up()

    def test_a_corner_that_stays_dry_is_mended_by_dragging(self):
        page = self.page
        self.open_flow()
        plan = page.get_by_role("group", name=re.compile("Hatch in plan"))
        expect(plan).to_have_accessible_name(re.compile(r"full after \d+ minutes"))
        # Thick resin without mesh, out of one corner: most of it stays dry.
        page.get_by_role("checkbox", name="Flow mesh over it").click()
        self.fill("Viscosity at 25 °C", "400")
        self.drag("feed, point 2", "feed, point 1", inside=2)
        expect(plan.locator("[data-dry]")).to_be_visible()
        expect(self.sheet.get_by_text("Stays dry", exact=True)).to_be_visible()
        expect(self.sheet.get_by_text(re.compile("the resin sets after .* stays dry"))).to_be_visible()
        self.saved()
        # A second feed, mesh again: full, with time to spare.
        page.get_by_role("button", name="Add a feed").click()
        expect(self.feed("feed 2")).to_be_visible()
        page.get_by_role("checkbox", name="Flow mesh over it").click()
        self.drag("feed 1", "feed 2, point 1")
        expect(plan.locator("[data-dry]")).to_have_count(0)
        expect(self.sheet.get_by_text("Full after", exact=True)).to_be_visible()
        self.saved()
        # It stands there again after the page is loaded anew.
        page.reload()
        expect(self.feed("feed 2")).to_be_visible()
        expect(self.sheet.get_by_text("Full after", exact=True)).to_be_visible()

    def test_one_more_feed_is_laid_where_it_is_proposed_and_lines_get_points_and_become_rings(self):
        page = self.page
        self.open_flow()
        dashed = page.locator("[data-second]")
        # Full long before it sets: nobody wants one more.
        expect(dashed).to_have_count(0)
        page.get_by_role("checkbox", name="Flow mesh over it").click()
        self.fill("Viscosity at 25 °C", "400")
        expect(dashed).to_have_count(2)
        expect(page.get_by_text("More feeds help most along the dashed lines")).to_be_visible()
        page.get_by_role("button", name="Lay them there").click()
        expect(self.feed("feed 3")).to_be_visible()
        opened = self.sheet.get_by_text(re.compile(r"opened after \d+ min"))
        expect(opened).to_have_count(2)
        # A feed of two points bends at a third, and one that is made a ring has nine, its last on its first.
        expect(self.feed("feed 1, point 3")).to_have_count(0)
        self.sheet.get_by_role("button", name="Add a point").first.click()
        expect(self.feed("feed 1, point 3")).to_be_visible()
        self.sheet.get_by_role("button", name="Make it a ring").last.click()
        expect(self.feed("feed 3, point 9")).to_be_attached()
        self.saved()
        page.reload()
        expect(self.feed("feed 3, point 9")).to_be_attached()

    def test_a_feed_is_moved_by_keys_and_the_time_follows(self):
        self.open_flow()
        before = self.feed().get_attribute("aria-valuetext")
        for _ in range(3):
            self.feed().press("PageDown")
        expect(self.feed()).not_to_have_attribute("aria-valuetext", before)
        # Nearer to the vent by three tenths of a metre: the way is half as long each way.
        expect(self.sheet.get_by_text(re.compile(r"^[3-6]\s*min$"))).to_be_visible()
        self.saved()

    def test_the_room_is_scrubbed_and_the_best_is_read(self):
        page = self.page
        self.open_flow()
        room = page.get_by_role("slider", name="Room tried")
        room.press("Home")
        chart = page.get_by_role("group", name=re.compile("By the room"))
        expect(chart).to_have_accessible_name(re.compile("in 10.0 °C full after"))
        cold = self.minutes(chart)
        for _ in range(2):
            room.press("PageUp")
        expect(chart).to_have_accessible_name(re.compile("in 30.0 °C"))
        warm = self.minutes(chart)
        self.assertLess(warm, cold / 2)
        expect(page.get_by_text("half as much again to spare from")).to_contain_text("the warmest is the quickest")
        # It was tried, not meant: it springs back.
        page.keyboard.press("Escape")
        expect(chart).not_to_have_accessible_name(re.compile("in 30.0 °C"))

    def minutes(self, chart) -> float:
        return float(re.search(r"full after (\d+)", chart.get_attribute("aria-label"))[1])

    def test_what_cannot_be_is_said_on_the_drawing_and_nothing_moves(self):
        page = self.page
        self.open_flow()
        self.drag("vent, point 1", "feed, point 1")
        self.drag("vent, point 2", "feed, point 2")
        expect(page.get_by_text("this vent lies in a feed").first).to_be_visible()
        expect(self.feed("vent")).to_be_visible()
        self.saved()
        # Both points go back where they lay, at once or one after the other.
        undo = page.get_by_role("button", name="Undo")
        while undo.is_enabled():
            undo.click()
        expect(page.get_by_text("this vent lies in a feed")).to_have_count(0)

    def test_an_answer_that_comes_after_it_was_taken_back_says_nothing(self):
        page, held = self.page, []
        self.open_flow()

        def hold(route) -> None:
            if route.request.post_data_json["rough"]:
                held.append(route)
            else:
                route.continue_()

        page.route("**/api/jobs/*/flow", hold)
        self.drag("vent, point 1", "feed, point 1")
        self.saved()
        undo = page.get_by_role("button", name="Undo")
        undo.click()
        expect(undo).to_be_disabled()
        self.saved()
        late = "this vent lies in a feed, said too late"
        with page.expect_response("**/api/jobs/*/flow"):
            held[0].fulfill(status=422, json={"problems": [{"path": "lines", "message": late}]})
        # It was let go of by then: a beat later there is still nothing to read of it.
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 50)))")
        expect(page.get_by_text(late)).to_have_count(0)
        expect(self.feed("vent")).to_be_visible()
