"""The server on the shop's own network: its authority, its certificate, the page that says how to trust it.

Of `cradle.lan`. What a certificate is worth is judged by OpenSSL and by the library's own verifier, not by the code that made it.
"""

import asyncio
import hashlib
import shutil
import ssl
import tempfile
from datetime import UTC, datetime, timedelta
from html import unescape
from ipaddress import IPv4Address, IPv4Network
from pathlib import Path
from unittest import TestCase, mock

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.verification import PolicyBuilder, Store, VerificationError
from django.test import RequestFactory
from django.test import TestCase as DatabaseTest

from cradle.lan import standing as standing_module
from cradle.lan.addresses import Reached, reached
from cradle.lan.authority import Authority, Unusable
from cradle.lan.standing import Standing, stand
from cradle.lan.trust import trust_only
from cradle.lan.trust_steps import KINDS, kind_of
from tests.server.people import shop_with_person

NOW = datetime(2026, 11, 30, 9, tzinfo=UTC)
BENCH = Reached((IPv4Address("192.168.7.20"),), (IPv4Network("192.168.7.0/24"),), ("slip.local",))


class Folder(TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)


def verified(authority: Authority, leaf: x509.Certificate, host: str, at: datetime = NOW) -> bool:
    """Whether a tablet that trusts the authority would take a certificate for a host."""
    try:
        number = x509.IPAddress(IPv4Address(host))
    except ValueError:
        number = None
    policy = PolicyBuilder().store(Store([authority.certificate])).time(at)
    verifier = policy.build_server_verifier(number or x509.DNSName(host))
    try:
        verifier.verify(leaf, [])
    except VerificationError:
        return False
    return True


def leaf_of(papers) -> x509.Certificate:
    return x509.load_pem_x509_certificate(papers.certificate.read_bytes())


class Certificates(Folder):
    def test_a_tablet_that_trusts_it_takes_the_server_by_number_and_by_name_and_no_other(self):
        authority = Authority(self.folder)
        leaf = leaf_of(authority.papers(BENCH.hosts, NOW))
        for host in ("192.168.7.20", "slip.local", "localhost", "127.0.0.1"):
            self.assertTrue(verified(authority, leaf, host), host)
        for host in ("192.168.7.21", "other.local", "bank.example"):
            self.assertFalse(verified(authority, leaf, host), host)

    def test_it_cannot_vouch_for_anything_outside(self):
        """Source: RFC 5280, 4.2.1.10: who holds its key makes no certificate for a bank that a tablet takes."""
        authority = Authority(self.folder)
        for host in ("bank.example", "8.8.8.8"):
            self.assertFalse(authority.vouches_for(host))
            # What the code would never do, done by a thief of the key.
            forged = leaf_of(self._forged(authority, host))
            self.assertFalse(verified(authority, forged, host), host)
        self.assertTrue(verified(authority, leaf_of(self._forged(authority, "10.1.2.3")), "10.1.2.3"))

    def _forged(self, authority: Authority, host: str):
        with mock.patch.object(Authority, "vouches_for", return_value=True):
            return authority.papers([host], NOW)

    def test_a_network_of_its_own_first_start_is_vouched_for(self):
        campus = IPv4Network("203.0.113.0/24")
        self.assertFalse(Authority(self.folder / "a").vouches_for("203.0.113.9"))
        self.assertTrue(Authority(self.folder / "b", [campus]).vouches_for("203.0.113.9"))

    def test_it_is_kept_and_renewed_in_time_by_itself(self):
        authority = Authority(self.folder)
        first = authority.papers(BENCH.hosts, NOW)
        self.assertEqual(Authority(self.folder).fingerprint, authority.fingerprint)
        self.assertEqual(authority.papers(BENCH.hosts, NOW + timedelta(days=100)).until, first.until)
        later = authority.papers(BENCH.hosts, NOW + timedelta(days=130))
        self.assertGreater(later.until, first.until + timedelta(days=100))
        # Tablets take no server's certificate that holds for longer than 398 days (published: the browsers' baseline rules).
        leaf = leaf_of(later)
        self.assertLess(leaf.not_valid_after_utc - leaf.not_valid_before_utc, timedelta(days=398))

    def test_a_certificate_of_yesterday_of_another_address_broken_or_of_another_authority_is_made_anew(self):
        authority = Authority(self.folder)
        for spoil in ("past", "address", "broken", "foreign", "key"):
            with self.subTest(spoil):
                at, hosts = NOW, BENCH.hosts
                papers = authority.papers(hosts, NOW)
                if spoil == "past":
                    at = papers.until + timedelta(days=1)
                elif spoil == "address":
                    hosts = (*hosts, "192.168.7.99")
                elif spoil == "broken":
                    papers.certificate.write_bytes(b"noise")
                elif spoil == "key":
                    other = ec.generate_private_key(ec.SECP256R1())
                    pem = serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
                    papers.key.write_bytes(other.private_bytes(serialization.Encoding.PEM, *pem))
                else:
                    other = Authority(self.folder / "other").papers(hosts, NOW)
                    shutil.copy(other.certificate, papers.certificate)
                    shutil.copy(other.key, papers.key)
                before = papers.certificate.read_bytes()
                anew = leaf_of(authority.papers(hosts, at))
                self.assertNotEqual(papers.certificate.read_bytes(), before)
                self.assertTrue(all(verified(authority, anew, host, at) for host in hosts))

    def test_a_clock_that_stood_wrong_spoils_nothing(self):
        """The authority holds whatever the clock said at the first start; a tablet a day behind takes the server."""
        authority = Authority(self.folder)
        ahead = authority.papers(BENCH.hosts, NOW + timedelta(days=3650))
        self.assertTrue(verified(authority, leaf_of(ahead), "slip.local", NOW + timedelta(days=3649)))
        back = authority.papers(BENCH.hosts, NOW)
        for day in (-1, 0):
            self.assertTrue(verified(authority, leaf_of(back), "slip.local", NOW + timedelta(days=day)))

    def test_keys_are_their_owners_alone(self):
        Authority(self.folder).papers(BENCH.hosts, NOW)
        for place in self.folder.iterdir():
            self.assertEqual(place.stat().st_mode & 0o077, 0, place.name)
        self.assertEqual(
            sorted(place.name for place in self.folder.iterdir()),
            ["authority.crt", "authority.key", "server.crt", "server.key"],
        )

    def test_an_authority_that_cannot_be_read_is_told_and_not_replaced(self):
        Authority(self.folder)
        (self.folder / "authority.key").write_bytes(b"noise")
        with self.assertRaisesRegex(Unusable, "each tablet has to trust it anew"):
            Authority(self.folder)

    def test_the_fingerprint_is_openssls(self):
        """Source: the library of the interpreter, which is OpenSSL's."""
        authority = Authority(self.folder)
        digest = hashlib.sha256(authority.der).hexdigest().upper()
        self.assertEqual(authority.fingerprint.replace(":", ""), digest)
        self.assertEqual(authority.certificate.signature_hash_algorithm.name, hashes.SHA256.name)


class OnTheNetwork(Folder):
    """What changes while it runs is followed."""

    def setUp(self):
        super().setUp()
        told = mock.patch.object(standing_module.Announced, "tell", return_value="inch-cradle.local")
        self.tell = told.start()
        self.addCleanup(told.stop)
        self.hosts = ["127.0.0.1"]
        self.at, self.now = BENCH, NOW
        self.standing = Standing(Authority(self.folder), self.hosts, 8443, 8080, lambda: self.now, look=lambda: self.at)

    def test_its_addresses_are_the_hosts_it_answers_to(self):
        found = self.standing.addresses
        self.assertEqual(found.by_number, "https://192.168.7.20:8443")
        self.assertEqual(found.by_name, "https://inch-cradle.local:8443")
        self.assertEqual(found.trust, "http://192.168.7.20:8080/trust")
        expected = {"192.168.7.20", "slip.local", "inch-cradle.local", "127.0.0.1", "localhost"}
        self.assertEqual(set(self.hosts), expected)

    def test_another_number_is_followed_with_its_name_and_its_certificate(self):
        self.standing.tls = mock.create_autospec(ssl.SSLContext, instance=True)
        self.standing.look()
        self.standing.tls.load_cert_chain.assert_not_called()
        self.at = Reached((IPv4Address("10.0.0.5"),), (IPv4Network("10.0.0.0/24"),), BENCH.names)
        self.standing.look()
        self.assertIn("10.0.0.5", self.hosts)
        self.assertNotIn("192.168.7.20", self.hosts)
        self.assertEqual(self.tell.call_args.args[0], self.at.numbers)
        self.standing.tls.load_cert_chain.assert_called_once_with(
            self.standing.papers.certificate, self.standing.papers.key
        )
        self.assertTrue(verified(self.standing.authority, leaf_of(self.standing.papers), "10.0.0.5"))
        self.at = Reached((), (), BENCH.names)
        self.standing.look()
        self.assertIsNone(self.standing.addresses)

    def test_a_certificate_that_ends_is_renewed_while_it_runs(self):
        self.standing.tls = mock.create_autospec(ssl.SSLContext, instance=True)
        self.now = self.standing.papers.until - timedelta(days=3)
        self.standing.look()
        self.standing.tls.load_cert_chain.assert_called_once()
        self.assertGreater(self.standing.papers.until, self.now + timedelta(days=100))

    def test_this_machines_own_numbers_are_found(self):
        found = reached()
        self.assertFalse(any(number.is_loopback for number in found.numbers))
        for number, network in zip(found.numbers, found.networks, strict=True):
            self.assertIn(number, network)


class Told(DatabaseTest):
    def tearDown(self):
        standing_module._here.clear()

    def stands(self) -> Standing:
        folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, folder, ignore_errors=True)
        with mock.patch.object(standing_module.Announced, "tell", return_value=""):
            here = Standing(Authority(folder), [], 8443, 8080, lambda: NOW, look=lambda: BENCH)
        stand(here)
        return here

    def test_alone_on_its_machine_there_is_nothing_to_trust(self):
        _, wren = shop_with_person("Slip", "wren")
        self.client.force_login(wren)
        self.assertEqual(self.client.get("/api/lan").json()["on_the_network"], False)
        for path in ("/trust", "/trust/authority.crt"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_the_page_says_in_four_pictures_how_for_the_device_that_asks(self):
        here = self.stands()
        for agent, key in (
            ("(iPad; x)", "general"),
            ("(Linux; Android 15)", "security"),
            ("Windows NT", "start"),
            ("?", "browser"),
        ):
            page = unescape(self.client.get("/trust", headers={"user-agent": agent}).content.decode())
            self.assertEqual(kind_of(agent).key, key)
            self.assertEqual(page.count("<svg"), 4)
            for step in kind_of(agent).steps:
                self.assertIn(step.words, page)
            for words in (here.authority.name, here.authority.fingerprint, "https://192.168.7.20:8443"):
                self.assertIn(words, page)
        chosen = self.client.get("/trust?kind=keychain", headers={"user-agent": "(iPad)"}).content.decode()
        self.assertIn(kind_of("", "keychain").steps[3].words, chosen)
        # Every other kind is offered, each once.
        self.assertEqual(chosen.count("/trust?kind="), len(KINDS) - 1)

    def test_what_is_given_to_trust_is_the_authority_and_no_key(self):
        here = self.stands()
        answer = self.client.get("/trust/authority.crt")
        given = x509.load_der_x509_certificate(answer.content)
        self.assertEqual(given, here.authority.certificate)
        self.assertEqual(answer["Content-Type"], "application/x-x509-ca-cert")

    def test_a_code_on_paper_carries_an_address_that_any_tablet_reaches(self):
        asked = RequestFactory().get("/", headers={"host": "localhost"})
        self.assertEqual(standing_module.address_for_all(asked), "http://localhost")
        self.stands()
        self.assertEqual(standing_module.address_for_all(asked), "https://192.168.7.20:8443")

    def test_who_comes_by_an_old_address_is_told_the_present_one(self):
        self.stands()
        answer = self.client.get("/", headers={"host": "192.168.7.99"})
        self.assertEqual(answer.status_code, 400)
        self.assertIn("It is at https://192.168.7.20:8443 now.", answer.content.decode())


class WithoutTls(TestCase):
    """The one door without TLS shows the trust page, and lets nothing else through."""

    def test_all_else_is_sent_to_the_trust_page(self):
        asked = []

        async def application(scope, receive, send):
            asked.append((scope["method"], scope["path"]))

        def ask(method: str, path: str) -> list[dict]:
            sent = []

            async def send(message):
                sent.append(message)

            scope = {"type": "http", "method": method, "path": path, "headers": []}
            asyncio.run(trust_only(application)(scope, None, send))
            return sent

        for method, path in (
            ("GET", "/"),
            ("GET", "/api/session"),
            ("POST", "/trust"),
            ("GET", "/trusted"),
            ("POST", "/api/readings"),
        ):
            sent = ask(method, path)
            self.assertEqual((sent[0]["status"], dict(sent[0]["headers"])[b"location"]), (302, b"/trust"))
        self.assertEqual(asked, [])
        ask("GET", "/trust")
        ask("HEAD", "/trust/authority.crt")
        self.assertEqual(asked, [("GET", "/trust"), ("HEAD", "/trust/authority.crt")])
