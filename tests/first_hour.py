"""A newcomer's first hour, as far as his first ticket: on a program that nobody belongs to yet. Each press is counted."""

from dataclasses import dataclass
from time import monotonic

from playwright.sync_api import Page, expect

MOST_PRESSES, MOST_MIN = 60, 3.0


@dataclass
class Newcomer:
    """Somebody at a page. A press is a button, a choice or a field that is typed into; `letters` are those he types."""

    page: Page
    presses: int = 0
    letters: int = 0
    waited_s: float = 0.0

    def button(self, name: str) -> None:
        self.presses += 1
        self.page.get_by_role("button", name=name, exact=True).first.click()

    def step(self, name: str) -> None:
        self.presses += 1
        self.page.get_by_role("navigation", name="Steps").get_by_role("link", name=name).click()

    def types(self, label: str, words: str) -> None:
        self.presses += 1
        self.letters += len(words)
        field = self.page.get_by_label(label, exact=True).first
        field.fill(words)
        field.press("Tab")

    def picks(self, label: str, option: str) -> None:
        self.presses += 2
        self.page.get_by_role("combobox", name=label, exact=True).first.click()
        self.page.get_by_role("option", name=option, exact=True).click()

    def sees(self, name: str, role: str = "heading") -> None:
        """Waits for the program, on his time."""
        begun = monotonic()
        expect(self.page.get_by_role(role, name=name).first).to_be_visible()
        self.waited_s += monotonic() - begun

    @property
    def by_hand_s(self) -> float:
        """What the presses and the typing take: published, the keystroke-level model of Card, Moran and Newell, 1980: 1.1 s to
        point, 0.2 s to press, 0.28 s a letter of an average typist, 1.35 s to think before each press."""
        return self.presses * (1.1 + 0.2 + 1.35) + self.letters * 0.28


def begins(who: Newcomer) -> None:
    """From the first page to a shop with a room, a tin and a job."""
    who.sees("Inch Cradle")
    who.types("Your name", "tern")
    who.types("A password", "mudflat-and-oar")
    who.types("The name of your shop", "Samphire Boats")
    who.button("Begin")
    who.sees("Before the first pot")
    who.types("Room air", "18")
    who.types("Humidity, %", "60")
    who.picks("It is most like", "Laminating epoxy, 2 to 1")
    who.types("Its name, as on the tin", "Mudlark 40")
    who.types("Resin to hardener", "100:44")
    who.types("The hardener's name", "slow")
    who.types("A pot can be worked for, minutes", "30")
    who.button("Put it on the shelf")
    who.sees("Mudlark 40", "link")


def comes_to_a_ticket(who: Newcomer) -> None:
    """From the named job to what the scale must show of its first pot."""
    who.types("New job", "Hatch")
    who.button("Start")
    who.sees("Hatch")
    who.button("Add a part")
    who.types("Width", "600 mm")
    who.types("Length", "900 mm")
    who.step("Stack")
    who.types("Write the stack, surface first", "2x 300 cloth")
    who.step("Chemistry")
    who.picks("Resin", "Mudlark 40")
    who.step("Ticket")
    who.sees("Pot 1 of")
