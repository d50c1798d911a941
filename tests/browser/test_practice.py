"""A learner from his first lesson to a pour that somebody signs, after which his pots may grow; sums, samples and a day.

Of `web/src/practice`, `web/src/lab`, `web/src/ui/Told.tsx`. The clock of a pour and of a day is moved by hand, so that a slow machine pours as a quick one does.
"""

import re

from playwright.sync_api import Page, expect

from layup.library import generic
from layup.training.pouring import PourTask, Press, in_cup
from tests.browser.desk import DeskTest

_BEGAN = 1_788_000_000


def held_for(task: PourTask, before: list[Press], part: str, wanted: float) -> float:
    """How long a tin is tipped, s, for so much of a part to be in the cup: found by halving, to a hundredth."""
    low, high = 0.0, 60.0
    for _ in range(40):
        middle = (low + high) / 2
        now = in_cup(task, [*before, Press(part=part, hold_s=max(middle, 1e-6))])[part == "B"]
        low, high = (middle, high) if now < wanted else (low, middle)
    return round(high, 2)


class Practice(DeskTest):
    def training(self, page: Page) -> dict:
        shop = page.request.get(f"{self.server.address}/api/session").json()["shops"][0]["id"]
        return page.request.get(f"{self.server.address}/api/shops/{shop}/training").json()

    def learner(self) -> Page:
        """Somebody new in the shop, at a device of his own."""
        page = self.page
        page.goto(f"{self.server.address}/people")
        page.get_by_role("radio", name="laminator").last.click()
        page.get_by_role("button", name="Make a link").click()
        link = page.get_by_label("Give this to one person").input_value()
        context = self.another_device()
        theirs = context.new_page()
        theirs.on("pageerror", lambda error: self.errors.append(str(error)))
        theirs.goto(link)
        theirs.get_by_label("The name you want").fill("tern")
        theirs.get_by_label("A password").fill("copper-rivet-99")
        theirs.get_by_role("button", name="Join").click()
        expect(theirs.get_by_role("heading", name="Jobs")).to_be_visible()
        return theirs

    def with_a_clock(self, path: str) -> Page:
        """A device of one's own at a place: its clock is moved by hand, and no other test gets it."""
        page = self.another_device(storage_state=self.page.context.storage_state()).new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.goto(self.server.address + path)
        return page

    def go(self, page: Page, name: str) -> None:
        page.get_by_role("navigation", name="Pieces of practice").get_by_role(
            "link", name=re.compile(f"^{name}")
        ).click()

    def hold(self, page: Page, name: str, seconds: float) -> None:
        """A button held for so long by the page's own clock."""
        page.get_by_role("button", name=name).hover()
        page.mouse.down()
        page.clock.run_for(round(1000 * seconds))
        page.mouse.up()

    def pour_well(self, page: Page, told: dict) -> None:
        task = PourTask.model_validate(told)
        first = held_for(task, [], "A", task.wanted_a)
        poured = in_cup(task, [Press(part="A", hold_s=first)])[0]
        second = held_for(task, [Press(part="A", hold_s=first)], "B", poured * task.b_per_a)
        self.hold(page, "Hold to pour resin", first)
        # The scale counts the cup, and what was still in the air.
        expect(page.get_by_text(re.compile(rf"^{round(task.cup + poured)} g$"))).to_be_visible()
        self.hold(page, "Hold to pour hardener", second)
        page.get_by_role("button", name="It is in").click()
        expect(page.get_by_text("This pot may be used.")).to_be_visible()
        # What hangs on it is told a moment later.
        page.clock.run_for(100)

    def test_from_the_first_lesson_to_a_signed_pour(self):
        tern = self.learner()
        tern.get_by_role("link", name="Practice").click()
        expect(tern.get_by_role("heading", name="A first hour with a kit")).to_be_visible()
        # A word of the trade says what it is.
        tern.get_by_title("What is hardener?").first.click()
        expect(tern.get_by_label("What hardener means")).to_contain_text("More of it never makes it faster")
        tern.keyboard.press("Escape")
        # What was not typed is asked for at its field, and what was typed stays.
        tern.get_by_label("A level cup of resin").fill("57.5 g")
        tern.get_by_role("button", name="Work it out").click()
        expect(tern.get_by_text("type what you read").first).to_be_visible()
        expect(tern.get_by_label("A level cup of resin")).to_have_value("57.5 g")
        tern.get_by_label("Parts of resin to 1 of hardener, by volume").fill("2")
        tern.get_by_label("A level cup of hardener").fill("52 g")
        tern.get_by_role("button", name="Work it out").click()
        expect(tern.get_by_text("Your hardener goes 45 to 100 of resin, by weight.")).to_be_visible()
        pieces = tern.get_by_role("navigation", name="Pieces of practice")
        expect(pieces.get_by_role("link", name="First hour")).to_contain_text("1 of 8 lessons")

        self.go(tern, "Your record")
        tern.get_by_role("button", name="I learn here").click()
        epoxy = tern.get_by_role("img", name=re.compile("beginner’s 250 g"))
        expect(epoxy).to_have_accessible_name(re.compile("yours 250 g"))
        expect(tern.get_by_text("3 more pours right in a row")).to_be_visible()

        pours = [each for each in self.training(tern)["pours"] if each["kind"] == "weigh"]
        self.go(tern, "Pouring")
        tern.clock.install(time=_BEGAN)
        tern.clock.pause_at(_BEGAN + 1)
        for nth, told in enumerate(pours, 1):
            self.pour_well(tern, told)
            expect(tern.get_by_role("button", name="Two parts by the scale")).to_contain_text(
                f"{nth} of 3" if nth < 3 else "passed"
            )
            if nth < 3:
                tern.get_by_role("button", name="The next pot").click()
        tern.clock.resume()

        # Whoever is skilled signs it; he cannot himself.
        self.go(tern, "Your record")
        expect(tern.get_by_role("button", name="Sign it")).to_have_count(0)
        page = self.page
        page.goto(f"{self.server.address}/practice/record")
        mine = page.get_by_role("region", name="tern")
        expect(mine).to_contain_text("1 of 8 lessons")
        mine.get_by_role("button", name="Sign it").click()
        expect(mine).to_contain_text("signed by wren")
        tern.reload()
        expect(epoxy).to_have_accessible_name(re.compile("yours 500 g"))
        expect(tern.get_by_text("5 good pots more in a row")).to_be_visible()
        expect(pieces.get_by_role("link", name="Your record")).to_contain_text("pots 2 times a beginner’s")

    def test_a_pot_off_its_ratio_is_lost_and_said_how(self):
        page = self.with_a_clock("/practice/pour")
        page.get_by_role("button", name="Two parts by the scale").click()
        page.clock.install(time=_BEGAN)
        page.clock.pause_at(_BEGAN + 1)
        self.hold(page, "Hold to pour resin", 3)
        self.hold(page, "Hold to pour hardener", 3)
        page.get_by_role("button", name="It is in").click()
        expect(page.get_by_text("This pot is lost.")).to_be_visible()
        expect(page.get_by_text(re.compile(r"\d+ % hardener heavy"))).to_be_visible()
        expect(page.get_by_text(re.compile(r"\d+ g more of resin would have set it right"))).to_be_visible()

    def test_a_hot_pot_sets_in_the_cup(self):
        page = self.with_a_clock("/practice/pour")
        page.get_by_role("button", name="Against the clock").click()
        page.clock.install(time=_BEGAN)
        page.clock.pause_at(_BEGAN + 1)
        self.hold(page, "Hold to pour resin", 8)
        self.hold(page, "Hold to pour hardener", 4)
        page.clock.run_for(120_000)
        expect(page.get_by_text(re.compile(r"It set in the cup after \d+ min"))).to_be_visible()

    def test_sums_by_keyboard_and_without_a_network(self):
        page = self.page
        sums = self.training(page)["sums"]
        page.goto(f"{self.server.address}/practice/sums")
        answer = page.get_by_label(sums[0]["asks"])
        answer.fill("a lot")
        answer.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("type a number")
        expect(answer).to_have_value("a lot")
        answer.fill(str(sums[0]["answer"]))
        answer.press("Enter")
        expect(page.get_by_text("That is right.")).to_be_visible()
        expect(page.get_by_role("region", name="How it is worked out")).to_contain_text("the empty cup")
        pieces = page.get_by_role("navigation", name="Pieces of practice")
        expect(pieces.get_by_role("link", name="Sums")).to_contain_text("1 of 10 in a row")
        # The cursor is on the way on.
        page.keyboard.press("Enter")
        page.context.set_offline(True)
        self.addCleanup(page.context.set_offline, False)
        second = page.get_by_label(sums[1]["asks"])
        second.fill(str(sums[1]["answer"]))
        second.press("Enter")
        expect(page.get_by_text("That is right.")).to_be_visible()
        expect(page.get_by_text("1 answer waits on this device")).to_be_visible()
        page.keyboard.press("Enter")
        third = page.get_by_label(sums[2]["asks"])
        third.fill(str(sums[2]["answer"] + 50))
        third.press("Enter")
        expect(page.get_by_text("That is not it")).to_be_visible()
        expect(page.get_by_text("2 answers wait on this device")).to_be_visible()
        page.context.set_offline(False)
        expect(page.get_by_text("on this device")).to_have_count(0)
        # Both came, in their order: the wrong one ends the row.
        expect(pieces.get_by_role("link", name="Sums")).to_contain_text("0 of 10 in a row")

    def test_a_sample_is_judged(self):
        page = self.page
        sample = self.training(page)["samples"][0]
        page.goto(f"{self.server.address}/practice/samples")
        names = {choice["id"]: choice["name"] for choice in sample["choices"]}
        wrong = next(iter(sample["against"]))
        expect(page.get_by_role("region", name="The sample")).to_contain_text(sample["signs"][0]["shown"])
        page.get_by_role("button", name=names[wrong]).click()
        expect(page.get_by_text(f"It is this: {names[sample['cause']].lower()}.")).to_be_visible()
        expect(page.get_by_role("region", name="Its cause")).to_contain_text(sample["against"][wrong])
        page.get_by_role("button", name="The next one").click()
        expect(page.get_by_role("region", name="The sample")).to_contain_text(
            self.training(page)["samples"][0]["signs"][0]["shown"]
        )

    def test_a_day_with_a_call_taken_costs_a_pot(self):
        page = self.with_a_clock("/practice/day")
        day = self.training(page)["days"][0]
        page.clock.install(time=_BEGAN)
        page.get_by_role("button", name="Begin the day").click()
        page.clock.pause_at(_BEGAN + 2)

        def passes(minutes: float) -> None:
            page.clock.run_for(round(60_000 * minutes / day["pace"]))

        page.get_by_role("button", name="Start the bench").click()
        page.get_by_role("button", name=re.compile("^Cup on the scale")).click()
        passes(0.5)
        for _ in range(2):
            page.get_by_role("button", name=re.compile(r"^It shows \d")).click()
            passes(0.9)
        # Hands that stir do nothing else.
        page.get_by_role("button", name="It is stirred").click()
        expect(page.get_by_text("You stir pot 1")).to_be_visible()
        # Whoever leaves it in its cup until it kicks has lost it.
        for _ in range(60):
            if page.get_by_role("alertdialog").count():
                break
            passes(1)
        while page.get_by_role("button", name="Take it", exact=True).count():
            page.get_by_role("button", name="Take it", exact=True).click()
            passes(8)
        for _ in range(60):
            if page.get_by_text("Pot 1 kicks in its cup").count():
                break
            if page.get_by_role("button", name="Let it ring").count():
                page.get_by_role("button", name="Let it ring").click()
            passes(1)
        expect(page.get_by_role("alertdialog")).to_contain_text("Never water into it")
        page.get_by_role("button", name="It is out of the way").click()
        page.clock.resume()
        if page.get_by_role("button", name="Let it ring").count():
            page.get_by_role("button", name="Let it ring").click()
        page.get_by_role("button", name="End the day").click()
        expect(page.get_by_role("heading", name="This day cost something.")).to_be_visible()
        expect(page.get_by_text(re.compile(r"Pot 1 kicked in its cup after \d+ min"))).to_be_visible()
        expect(page.get_by_text("0 of 2 layers are laid")).to_be_visible()

    def test_any_pot_of_the_shelf_is_tried(self):
        page = self.page
        page.goto(f"{self.server.address}/practice")
        page.get_by_role("link", name="Pot lab").click()
        expect(page.get_by_role("region", name="Pot A")).to_contain_text("min to gel")
        self.pick("Resin", next(resin.name for resin in generic().resins if resin.id == "polyester-general"))
        first = page.get_by_role("region", name="Pot A")
        first.get_by_label("catalyst, % by weight").fill("2")
        first.get_by_label("catalyst, % by weight").blur()
        expect(first).to_contain_text("2 %")
        first.get_by_role("combobox", name="and then").click()
        page.get_by_role("option", name="cast in a form of wood").click()
        first.get_by_label("how deep").fill("60 mm")
        first.get_by_label("how deep").press("Enter")
        expect(first).to_contain_text(re.compile("cast, it gels after .*, 60.0 mm deep"))
        second = page.get_by_role("region", name="Pot B")
        second.get_by_role("combobox", name="and then").click()
        page.get_by_role("option", name="left in its cup").click()
        second.get_by_role("combobox", name="which cup").click()
        page.get_by_role("option").nth(1).click()
        second.get_by_label("A pot of").fill("5 g")
        second.get_by_label("A pot of").press("Enter")
        expect(second.get_by_text(re.compile("10"))).not_to_have_count(0)
