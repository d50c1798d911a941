"""A newcomer from a program that nobody belongs to yet to his first ticket: presses, his time by hand, and what he waits."""

from tests.browser.desk import launched, new_context, playwright
from tests.browser.test_installed import InstalledServer
from tests.first_hour import MOST_MIN, MOST_PRESSES, Newcomer, begins, comes_to_a_ticket


def main() -> None:
    server = InstalledServer()
    browser = launched(playwright())
    try:
        page = new_context(browser, (1280, 800), locale="en-GB").new_page()
        page.goto(server.address)
        who = Newcomer(page)
        begins(who)
        comes_to_a_ticket(who)
    finally:
        browser.close()
        server.close()
    minutes = (who.by_hand_s + who.waited_s) / 60
    print(
        f"To the first ticket: {who.presses} presses and {who.letters} letters (asked: {MOST_PRESSES} presses), "
        f"{who.by_hand_s:.0f} s by hand and {who.waited_s:.1f} s of waiting: {minutes:.1f} min (asked: {MOST_MIN:g})"
    )


if __name__ == "__main__":
    main()
