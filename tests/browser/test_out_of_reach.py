"""A tablet of the shop: over TLS, without a network, put off and on again, signed out in the middle of a pot, a new version.

Of `cradle.lan`, `cradle.static_headers`, `web/src/api/reach.ts`, `web/src/bench/Line.ts`, `web/src/newVersion.ts`.
"""

import base64
import hashlib
import re
import shutil
import socket
import ssl
import sys
import urllib.error
import urllib.request

from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from playwright.sync_api import BrowserContext, Page, expect

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import ROOT, DeskTest, Server, launched, playwright
from tests.browser.test_bench import CUP_ON, IT_SHOWS, BenchTest


class TabletTest(BenchTest):
    """A tablet with a browser store of its own, which keeps the pages as it would in a shop."""

    job = "Locker lid"

    def setUp(self):
        # Each begins with a job that is not at the bench yet.
        self.server.begin_again(weather=False)
        super().setUp()

    def tablet(self) -> BrowserContext:
        return self.another_device(self.size, storage_state=DeskTest.signed_in, service_workers="allow")

    def put_on(self, context: BrowserContext, address: str) -> Page:
        """The tablet put on: one page at an address."""
        page = context.new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.goto(address)
        return page

    def at_the_bench(self, context: BrowserContext) -> Page:
        """A run that is open on a tablet whose browser keeps its pages."""
        desk, self.page = self.page, self.put_on(context, self.server.address)
        self.addCleanup(setattr, self, "page", desk)
        self.page.evaluate("() => navigator.serviceWorker.ready.then(() => undefined)")
        self.to_bench()
        self.press_and_wait("opened", "Start the bench")
        self.answered(self.page)
        return self.page

    def answered(self, page: Page) -> None:
        """Waits until the tablet has heard that all it said is written down: till then it waits to say it again."""
        page.wait_for_function(
            """() => Object.keys(localStorage).every((key) =>
                !key.startsWith("inch-cradle.taps.") &&
                (!key.startsWith("inch-cradle.waits.") || localStorage.getItem(key) === "0"))"""
        )

    def kinds(self, since: int) -> list[str]:
        return [kind for kind, _ in self.events()[since:]]

    def waits(self, page: Page, words: str) -> None:
        expect(page.get_by_role("status").filter(has_text=words)).to_be_visible()


class WithoutANetwork(TabletTest):
    def test_taps_outlive_the_network_and_the_tablet_and_go_once_in_their_order(self):
        context = self.tablet()
        before = len(self.events())
        page = self.at_the_bench(context)
        bench = page.url
        context.set_offline(True)
        page.reload()
        self.press(CUP_ON, page=page)
        self.press(IT_SHOWS, page=page)
        self.waits(page, "2 taps wait for the server. Nothing is lost")
        # The tablet is put off, and on again: the pot stands as it was left.
        page.close()
        page = self.put_on(context, bench)
        self.waits(page, "2 taps wait for the server")
        expect(page.get_by_role("heading", name=re.compile("^Pour B"))).to_be_visible()
        self.press(IT_SHOWS, page=page)
        self.waits(page, "3 taps wait for the server")
        # Other places open as they were last seen, and say so.
        page.goto(self.server.address)
        out = page.get_by_role("status").filter(has_text="out of reach since")
        expect(out).to_contain_text("What you see is as it was at")
        page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=self.job).click()
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Ticket").click()
        expect(page.get_by_role("heading", name=re.compile("^Pot 1"))).to_be_visible()
        page.goto(bench)
        self.waits(page, "3 taps wait for the server")
        self.assertEqual(self.kinds(before), ["opened"])
        self.page = page
        context.set_offline(False)
        self.written("B in")
        self.assertEqual(self.kinds(before), ["opened", "cup on", "A in", "B in"])
        happened = "SELECT happened_at, came_at FROM bench_event ORDER BY id DESC LIMIT 3"
        rows = self.server.data().execute(happened).fetchall()
        # With the time of the tap, in the order of the taps, not with the time they came.
        self.assertEqual(sorted(rows, reverse=True), rows)
        self.assertTrue(all(at < came for at, came in rows))

    def test_who_is_signed_out_in_the_middle_of_a_pot_loses_no_tap(self):
        context = self.tablet()
        page = self.at_the_bench(context)
        with self.server.data() as data:
            data.execute("DELETE FROM django_session")
        DeskTest.signed_in = None
        self.press(CUP_ON, page=page)
        page.get_by_label("Name").fill(PERSON)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name=re.compile("^Pour A"))).to_be_visible()
        self.written("cup on")

    def test_a_cleared_store_and_one_that_is_denied_are_told(self):
        context = self.tablet()
        page = self.at_the_bench(context)
        bench = page.url
        context.set_offline(True)
        self.press(CUP_ON, page=page)
        self.waits(page, "1 tap waits for the server")
        page.evaluate(
            "() => new Promise((done) => { indexedDB.deleteDatabase('keyval-store'); setTimeout(done, 500); })"
        )
        page.close()
        context.set_offline(False)
        page = self.put_on(context, bench)
        lost = page.get_by_role("button", name=re.compile("^1 tap that waited here is gone"))
        lost.click()
        expect(lost).to_have_count(0)
        page.close()
        denied = self.tablet()
        denied.add_init_script(
            "IDBFactory.prototype.open = () => { throw new DOMException('denied', 'SecurityError') }"
        )
        page = self.put_on(denied, bench)
        expect(page.get_by_role("alert").filter(has_text="This tablet keeps nothing")).to_be_visible()
        # It works on with the server.
        self.press(CUP_ON, page=page)
        expect(page.get_by_role("heading", name=re.compile("^Pour A"))).to_be_visible()
        self.page = page
        other = self.another_tablet()
        expect(other.get_by_role("heading", name=re.compile("^Pour A"))).to_be_visible()


class OverTls(TabletTest):
    """The server as `make shop` starts it."""

    @classmethod
    def setUpClass(cls):
        cls.server = TlsServer()
        cls.addClassCleanup(cls.server.close)
        # Trusted as a tablet does once it was told, by the certificate's own key: no other certificate is taken.
        certificate = x509.load_pem_x509_certificate((cls.server.folder / "authority" / "server.crt").read_bytes())
        key = certificate.public_key().public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)
        pinned = base64.b64encode(hashlib.sha256(key).digest()).decode()
        cls.browser = launched(playwright(), f"--ignore-certificate-errors-spki-list={pinned}")
        cls.addClassCleanup(cls.browser.close)

    def setUp(self):
        self.errors = []

    def test_from_the_trust_page_to_a_tap_while_the_server_is_down(self):
        # Whoever was told to trust the authority takes the server; whoever was not does not.
        with urllib.request.urlopen(f"{self.server.trust}/trust/authority.crt") as given:
            authority = ssl.DER_cert_to_PEM_cert(given.read())
        health = f"{self.server.address}/api/health"
        with urllib.request.urlopen(health, context=ssl.create_default_context(cadata=authority)) as answer:
            self.assertEqual(answer.status, 200)
        with self.assertRaises(urllib.error.URLError):
            urllib.request.urlopen(health, context=ssl.create_default_context())
        device = self.another_device(service_workers="allow")
        page = self.put_on(device, self.server.trust)
        expect(page.get_by_role("heading", name="Trust this shop's server, once on each tablet")).to_be_visible()
        self.assertEqual(page.get_by_role("img").count(), 4)
        page.goto(self.server.address)
        page.get_by_label("Name").fill(PERSON)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Jobs")).to_be_visible()
        self.assertTrue(all(cookie["secure"] for cookie in page.context.cookies()))
        page.evaluate("() => navigator.serviceWorker.ready.then(() => undefined)")
        page.goto(f"{self.server.address}/shop")
        expect(page.get_by_role("region", name="Tablets and phones")).to_contain_text(
            re.compile(r"certificate “Inch Cradle of this shop|on no network now")
        )
        page.goto(self.server.address)
        self.page = page
        self.to_bench()
        self.press_and_wait("opened", "Start the bench")
        self.answered(self.page)
        bench = page.url
        self.server.kill()
        page.reload()
        self.press(CUP_ON)
        self.waits(page, "1 tap waits for the server")
        page.close()
        self.page = self.put_on(device, bench)
        self.waits(self.page, "1 tap waits for the server")
        self.server.start()
        self.written("cup on")


class NewVersion(TabletTest):
    """A new version of the pages comes at a quiet moment, and never under a live pot."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.addClassCleanup(cls.server.serve_pages_of, None)

    def test_it_waits_for_the_end_of_the_pot(self):
        pages = self.server.folder / "pages"
        shutil.copytree(ROOT / "web" / "dist", pages)
        self.addCleanup(shutil.rmtree, pages)
        self.server.serve_pages_of(pages)
        context = self.tablet()
        page = self.at_the_bench(context)
        self.press_and_wait("B in", CUP_ON, IT_SHOWS, IT_SHOWS, page=page)
        self.server.kill()
        keeper = pages / "sw.js"
        for written in pages.glob("sw.js.*"):
            written.unlink()
        keeper.write_text(f"{keeper.read_text()}\n// the next version\n")
        self.server.serve_pages_of(pages)
        page.reload()
        page.evaluate("() => navigator.serviceWorker.ready.then((kept) => kept.update()).then(() => undefined)")
        newer = page.get_by_role("button", name=re.compile("^A new version of this program is here"))
        page.wait_for_timeout(1500)
        expect(newer).to_have_count(0)
        self.press_and_wait("dumped", "Pot getting hot?", "It is outdoors", page=page)
        expect(newer).to_be_visible()
        with page.expect_navigation():
            newer.click()
        expect(page.get_by_role("navigation", name="Bench")).to_be_visible()
        expect(newer).to_have_count(0)


class TlsServer(Server):
    """`manage.py shop` as a process."""

    def __init__(self):
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.trust_port = free.getsockname()[1]
        self.trust = f"http://127.0.0.1:{self.trust_port}"
        super().__init__()
        self.address = f"https://127.0.0.1:{self.port}"

    def command(self) -> list[str]:
        ports = ["--port", str(self.port), "--trust-port", str(self.trust_port)]
        return [sys.executable, "manage.py", "shop", *ports]

    @property
    def answers_at(self) -> str:
        return f"{self.trust}/trust"
