"""The whole job with the keyboard alone: no pointer, no script that sets a field."""

import re

from playwright.sync_api import Locator, expect

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import DeskTest

MOST_TABS = 90
OUTSIDE_FIELDS = "() => !document.activeElement.closest('input, textarea, select, [role=combobox]')"


class ByKeyboard(DeskTest):
    def sign_in(self):
        self.page.goto(self.server.address)
        self.press("Tab")
        self.type(PERSON)
        self.press("Tab")
        self.type(PASSWORD)
        self.press("Enter")
        expect(self.page.get_by_role("heading", name="Jobs")).to_be_visible()

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def type(self, words: str) -> None:
        self.page.keyboard.type(words)

    def tab_to(self, target: Locator) -> None:
        """Tab on, and round, until the target has the focus, which must show."""
        expect(target).to_be_visible()
        for _ in range(MOST_TABS):
            if target.evaluate("element => element === document.activeElement"):
                ring = target.evaluate("element => getComputedStyle(element).outlineStyle")
                self.assertNotEqual(ring, "none", "the focus must be seen")
                return
            self.press("Tab")
        self.fail(f"{target} is not reached by Tab")

    def leave_fields(self) -> None:
        while not self.page.evaluate(OUTSIDE_FIELDS):
            self.press("Tab")

    def go(self, *keys: str) -> None:
        self.leave_fields()
        self.press(*keys)

    def write(self, label: str, words: str) -> None:
        self.tab_to(self.page.get_by_label(label, exact=True))
        self.type(words)
        self.press("Enter")

    def button(self, name) -> Locator:
        return self.page.get_by_role("button", name=name)

    def push(self, name: str) -> None:
        self.tab_to(self.button(name))
        self.press("Enter")

    def choose(self, label: str, option: str) -> None:
        self.tab_to(self.page.get_by_role("combobox", name=label))
        self.press("Enter")
        expect(self.page.get_by_role("option", name=option, exact=True)).to_be_visible()
        self.type(option[:6])
        expect(self.page.get_by_role("option", name=option, exact=True)).to_be_focused()
        self.press("Enter")

    def test_from_the_surface_to_the_log(self):
        page = self.page
        self.tab_to(page.get_by_label("New job"))
        self.type("Keyed transom")
        self.press("Enter")
        expect(page.get_by_role("navigation", name="Steps")).to_be_visible()

        self.push("Add a part")
        self.write("Width", "2 ft 6 in")
        expect(page.get_by_text("2 ft 6 in = 0.762 m")).to_be_visible()
        self.write("Length", "1.4 m")
        self.push("Add a joint")
        self.saved()

        self.go("q")
        expect(page.get_by_label("Write the stack")).to_be_focused()
        self.type("2x 300 cloth, 300 cloth +50")
        expect(page.get_by_text("3 plies read")).to_be_visible()

        self.go("g", "5")
        self.choose("Resin", "Laminating epoxy, 2 to 1")
        verdict = page.get_by_role("heading", level=1)
        expect(verdict).to_contain_text("Medium hardener")
        self.leave_fields()
        self.press(*["]"] * 5)
        expect(verdict).to_contain_text("at 24 °C")
        expect(verdict).to_contain_text("Slow hardener")
        self.press("[")
        expect(verdict).to_contain_text("at 23 °C")
        self.press("Escape")
        expect(verdict).to_contain_text("Medium hardener")

        self.go("g", "6")
        self.write("Length", "1400 mm")
        self.write("Radius", "15 mm")
        self.choose("Filler", "Wood flour")
        expect(page.get_by_role("link", name="Joints")).to_contain_text("74 ml")

        self.go("g", "7")
        expect(verdict).to_contain_text("laid by")
        self.saved()

        self.go("g", "8")
        expect(verdict).to_contain_text("Pot 1 of")
        self.write("Why go on all the same", "only a trial")
        self.push("Begin all the same")
        self.push("Take it to the bench")
        self.write("A poured, g", "120")
        self.write("B poured, g", "54")
        self.push("Poured")
        expect(self.button(re.compile("Poured .*:"))).to_be_disabled()
        self.tab_to(page.get_by_label("Note"))
        self.type("ran a little")
        self.push("Gelled")
        expect(self.button(re.compile("Gelled .*:"))).to_be_disabled()

        self.go("g", "9")
        expect(page.get_by_text("“ran a little”")).to_be_visible()
        self.go("g", "0")
        expect(page.get_by_role("list", name="Jobs").get_by_text("Keyed transom")).to_be_visible()

    def test_the_list_of_keys_and_single_keys_turned_off(self):
        page = self.page
        self.open("Estuary skiff")
        self.press("?")
        panel = page.get_by_role("dialog", name="Keyboard shortcuts")
        expect(panel).to_contain_text("one degree warmer")
        self.tab_to(panel.get_by_role("radio", name="on"))
        self.press("ArrowRight")
        expect(panel.get_by_role("radio", name="off")).to_be_focused()
        self.press(" ")  # An arrow let go at once moves without choosing, where the page is slow.
        expect(panel.get_by_role("radio", name="off")).to_be_checked()
        self.press("Escape")
        expect(panel).to_have_count(0)
        self.press("]", "g", "2", "?")
        expect(page.get_by_text("Trying")).to_have_count(0)
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.button(re.compile("wren:")).focus()
        self.press("Enter")
        page.get_by_role("menuitem", name="Keyboard shortcuts").focus()
        self.press("Enter")
        self.tab_to(panel.get_by_role("radio", name="off"))
        self.press("ArrowLeft")
        expect(panel.get_by_role("radio", name="on")).to_be_focused()
        self.press(" ")  # An arrow let go at once moves without choosing, where the page is slow.
        expect(panel.get_by_role("radio", name="on")).to_be_checked()
        self.press("Escape", "g", "2")
        expect(page).to_have_url(re.compile("/stack$"))

    def test_keys_are_letters_inside_a_field(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Measure")
        self.tab_to(page.get_by_label("Job", exact=True))
        self.press("End")
        self.type(" g2]?p")
        expect(page.get_by_label("Job", exact=True)).to_have_value("Estuary skiff g2]?p")
        expect(page).to_have_url(re.compile("/measure$"))
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.reload()
