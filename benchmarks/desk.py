"""A signed-in page of a real server in headless Chromium."""

from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Page, sync_playwright

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import Server, launched

SKIFF = "Estuary skiff"


@contextmanager
def signed_in() -> Iterator[Page]:
    server = Server()
    try:
        with sync_playwright() as play:
            browser = launched(play)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=server.address)
            page.goto("/")
            page.get_by_label("Name").fill(PERSON)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("heading", name="Jobs").wait_for()
            yield page
            browser.close()
    finally:
        server.close()


def open_step(page: Page, step: str, job: str = SKIFF) -> None:
    page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=job).click()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name=step).click()
    page.wait_for_load_state("networkidle")
