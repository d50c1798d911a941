"""Instruments at the bench, simulated on terminals: a pot that is weighed, poured over and mended, a fast tin, a plug pulled.

Of `web/src/bench/AtPlace`, `web/src/bench/Weigh`, `web/src/floor/Benches`, `cradle.instruments`.
"""

import json
import re

from playwright.sync_api import Page, expect

from tests.browser.test_bench import BenchTest


class Simulated(BenchTest):
    """The locker lid at the bench by the door."""

    def tearDown(self):
        super().tearDown()
        # What it simulates is in the server's memory: the next begins with none.
        self.server.kill()

    def take_a_hand(self, *acts: str, page: Page | None = None) -> None:
        for act in acts:
            (page or self.page).get_by_role("button", name=act, exact=True).click()

    def start_simulated(self) -> None:
        self.page.goto(f"{self.server.address}/shop")
        self.page.get_by_role("button", name="Try it with simulated instruments").first.click()
        expect(self.page.get_by_text(re.compile(r"sends ST, \+0"))).to_be_visible()
        self.page.goto(f"{self.server.address}/jobs")

    def begin(self, *, pace: str = "") -> None:
        self.start_simulated()
        self.to_bench()
        self.press("Work at Bench by the door", "Start the bench")
        expect(self.instruments()).to_contain_text("Scale")
        self.press("Simulated: take a hand")
        if pace:
            self.take_a_hand(pace, "A fast tin")
            expect(self.button("A fast tin")).to_have_attribute("aria-pressed", "true")

    def instruments(self, page: Page | None = None):
        return (page or self.page).get_by_role("region", name="Instruments")

    def amounts(self, kind: str) -> list[float]:
        rows = self.server.data().execute("SELECT data FROM bench_event WHERE kind = ? ORDER BY id", [kind])
        return [json.loads(data)["amount"] for (data,) in rows]


class Weighing(Simulated):
    """A pot on the scale, large enough that a gram of it, which is all that the scale shows, is a hundredth."""

    job = "Rudder blade"

    def test_a_pot_is_weighed_poured_over_and_mended_without_a_finger_on_the_page(self):
        page = self.page
        self.begin()
        self.take_a_hand("Put a cup on")
        expect(page.get_by_role("heading", name=re.compile("^Pour A, resin"))).to_be_visible()
        self.take_a_hand("Pour")
        expect(page.get_by_text("the next step opens by itself").first).to_be_visible()
        expect(page.get_by_role("heading", name=re.compile("^Pour B"))).to_be_visible()
        self.take_a_hand("Knock the bench", "Pour too much")
        alert = page.get_by_role("alert").filter(has_text="% off its ratio")
        expect(alert).to_contain_text("more of A mends it")
        expect(page.get_by_role("heading", name=re.compile("^More of A"))).to_be_visible()
        # A plug that is pulled is said, and found again when it is back.
        self.take_a_hand("Unplug the scale")
        expect(self.instruments()).to_contain_text("is unplugged")
        self.take_a_hand("Plug in the scale")
        expect(self.instruments()).not_to_contain_text("is unplugged")
        self.take_a_hand("Pour")
        expect(self.button("It is stirred")).to_be_visible()
        # What the room's probe says comes when it comes.
        kinds = [kind for kind, _ in self.events() if kind != "room read"]
        self.assertEqual(kinds[-6:], ["opened", "cup on", "A in", "touched", "B in", "A in"])
        first, mended = self.amounts("A in")[-2:]
        (second,) = self.amounts("B in")[-1:]
        self.assertAlmostEqual(mended / first, 1.25, delta=0.06)
        self.assertAlmostEqual(second / mended, 0.45, delta=0.03)


class Fast(Simulated):
    """A tin that lives seven tenths of its label."""

    def test_a_fast_tin_is_caught_by_its_surface_and_two_benches_are_two(self):
        page = self.page
        page.goto(f"{self.server.address}/shop")
        page.get_by_label("New bench").fill("Bench by the window")
        self.press("Make it")
        expect(page.get_by_role("heading", name="Bench by the window")).to_be_visible()
        self.begin(pace="60 times as fast")
        other = self.another_tablet()
        expect(self.instruments(other)).to_contain_text("Bench by the door")
        self.take_a_hand("Put a cup on")
        expect(page.get_by_role("heading", name=re.compile("^Pour A, resin"))).to_be_visible()
        self.take_a_hand("Pour")
        expect(page.get_by_role("heading", name=re.compile("^Pour B"))).to_be_visible()
        self.take_a_hand("Pour")
        self.press("It is stirred")
        live = page.get_by_role("complementary", name="Live")
        expect(live.get_by_text("A fast mix")).to_be_visible()
        self.press("Clocks")
        expect(page.get_by_role("img", name=re.compile("^Surface of pot 1: "))).to_be_visible()
        for tablet in (page, other):
            expect(tablet.get_by_role("alert").filter(has_text="Pot 1 is too hot")).to_be_visible()
        # The other bench has none of its own, until it is given some: they show what stands on them alone.
        self.press("Weigh by hand")
        expect(self.button("Work at Bench by the door")).to_be_visible()
        self.press("Work at Bench by the window")
        expect(self.instruments()).to_contain_text("Bench by the window")
        expect(self.instruments()).not_to_contain_text("Scale")
        self.press("Try it with simulated instruments")
        expect(self.instruments()).to_contain_text(re.compile(r"Scale\s*0\.0 g"))
        page.goto(f"{self.server.address}/shop")
        scales = page.get_by_role("listitem").filter(has_text=re.compile("^simulated scale"))
        expect(scales).to_have_count(2)
        expect(scales.first).to_contain_text(re.compile(r"scale\s*1\d\d g"))
        expect(scales.last).to_contain_text("0.0 g")


class AtTheShop(Simulated):
    """What stands at a bench, and how it is made known."""

    def test_an_instrument_is_put_at_a_bench_by_example_or_with_a_token_and_checked(self):
        page = self.page
        page.goto(f"{self.server.address}/shop")
        self.press("Add an instrument")
        page.get_by_role("radio", name="a room probe").click()
        self.pick("Its port", "it posts over the network, with a token")
        self.press("Put it at Bench by the door")
        token = page.get_by_label("Give this token to the sensor.").input_value()
        self.press("It is written down")
        answer = page.request.post(
            f"{self.server.address}/api/readings",
            data={"value": 70.7, "unit": "F"},
            headers={"Authorization": f"Bearer {token}"},
        )
        self.assertEqual(answer.status, 200)
        room = page.get_by_role("listitem").filter(has_text="Room, Bench by the door")
        expect(room).to_contain_text("21.5 °C")
        expect(page.get_by_text(token)).to_have_count(0)
        self.press("Try it with simulated instruments")
        scale = page.get_by_role("listitem").filter(has_text="simulated scale").last
        expect(scale).to_contain_text("ST, +0")
        scale.get_by_role("button", name="Check it with a known weight").click()
        page.get_by_label("The weight that stands on it now, g").fill("500")
        alert = scale.get_by_role("alert")
        for _ in range(60):
            scale.get_by_role("button", name=re.compile("^Keep what it shows")).click()
            expect(alert).to_be_visible()
            if "wait until the scale stands still" not in alert.inner_text():
                break
            page.wait_for_timeout(500)
        expect(alert).to_contain_text("the scale shows nothing like that")
        scale.get_by_role("button", name="Not now").click()
        scale.get_by_role("button", name="Withdraw simulated scale").click()
        expect(page.get_by_text("ST, +0")).to_have_count(0)
        # Its port is free again: what it sends is looked at, and the number that is the weight pressed.
        self.press("Add an instrument")
        page.get_by_role("radio", name="a scale").click()
        self.pick("Its port", "simulated scale")
        self.press("Listen to what it sends")
        expect(page.get_by_text("It reads as 0 g").or_(page.get_by_text("It reads as 0.0 g"))).to_be_visible()
        page.get_by_label("Three lines as it sends them").fill("a1 G 412.5 g\na2 G 413.0 g\na3 G 413.5 g")
        page.get_by_role("button", name="412.5", exact=True).click()
        expect(page.get_by_text("It reads as 413 g, 413 g, 414 g")).to_be_visible()
