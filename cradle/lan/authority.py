"""The shop's own certificate authority, made at the first start, and the certificate of its server, renewed by itself.

What it vouches for is limited to addresses of local networks: whoever trusts it on a tablet trusts it for nothing outside.
"""

import os
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import IPv4Address, IPv4Network, ip_address, ip_network
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

# As the net's own standards keep them for local use: RFC 1918, 3927, 6598; RFC 6762, 8375 and names many routers give.
LOCAL_NETWORKS = ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "100.64.0.0/10", "127.0.0.0/8")
LOCAL_NAMES = ("local", "localhost", "lan", "home.arpa", "internal")
# Tablets take a server's certificate for 398 days at most; it is renewed long before it ends, at a start or while it runs.
_LASTS, _RENEWED_BEFORE = timedelta(days=180), timedelta(days=60)
_AUTHORITY_LASTS = timedelta(days=20 * 365)
# A clock that stood wrong at the first start does not make an authority of tomorrow.
_FROM_EVER = datetime(2020, 1, 1, tzinfo=UTC)
# Tablets whose clock is behind by a day or so still take it.
_BACKDATED = timedelta(days=2)


class Unusable(Exception):
    """What is kept of the authority cannot be read or used."""


@dataclass(frozen=True)
class Papers:
    """Where the server's certificate and its key are, which it is, and until when it holds."""

    certificate: Path
    key: Path
    number: int
    until: datetime


class Authority:
    """The authority of one data folder. Its key is readable by its owner alone, and never leaves the folder.

    Raises Unusable where what is kept of it cannot be read.
    """

    def __init__(self, folder: Path, networks: Sequence[IPv4Network] = ()):
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        self._certificate, self._key = folder / "authority.crt", folder / "authority.key"
        if not self._certificate.exists() or not self._key.exists():
            self._make(networks)
        try:
            self.certificate = x509.load_pem_x509_certificate(self._certificate.read_bytes())
            key = serialization.load_pem_private_key(self._key.read_bytes(), password=None)
        except (OSError, ValueError) as error:
            words = "delete the folder, and a new one is made; each tablet has to trust it anew"
            raise Unusable(f"the certificate authority in {folder} cannot be read: {words}") from error
        self._signs: ec.EllipticCurvePrivateKey = key

    @property
    def der(self) -> bytes:
        """What a tablet is given to trust."""
        return self.certificate.public_bytes(serialization.Encoding.DER)

    @property
    def name(self) -> str:
        """What it is called, as tablets list it."""
        return str(self.certificate.subject.get_attributes_for_oid(NameOID.COMMON_NAME)[0].value)

    @property
    def fingerprint(self) -> str:
        """Its SHA-256, in pairs, as tablets show it."""
        return self.certificate.fingerprint(hashes.SHA256()).hex(":").upper()

    def papers(self, hosts: Sequence[str], now: datetime) -> Papers:
        """The server's certificate for its addresses: the one that is kept, where it names them all and holds for a while,
        else a new one.
        """
        vouched = [host for host in hosts if self.vouches_for(host)]
        kept = self._kept(vouched, now)
        return kept or self._issue(vouched, now)

    def vouches_for(self, host: str) -> bool:
        """Whether an address, by number or by name, is one it may vouch for."""
        limits = (
            self.certificate.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or ()
        )
        try:
            number = ip_address(host)
        except ValueError:
            ends = [limit.value for limit in limits if isinstance(limit, x509.DNSName)]
            return any(host == end or host.endswith(f".{end}") for end in ends)
        return any(isinstance(limit, x509.IPAddress) and number in limit.value for limit in limits)

    def _kept(self, hosts: Sequence[str], now: datetime) -> Papers | None:
        papers = self._places()
        try:
            leaf = x509.load_pem_x509_certificate(papers[0].read_bytes())
            leaf.verify_directly_issued_by(self.certificate)
            key = serialization.load_pem_private_key(papers[1].read_bytes(), password=None)
            names = leaf.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        except Exception:
            # Whatever is wrong with it, a new one is made.
            return None
        named = {str(name.value) for name in names}
        holds = leaf.not_valid_before_utc <= now <= leaf.not_valid_after_utc - _RENEWED_BEFORE
        if not holds or not set(hosts) <= named or key.public_key() != leaf.public_key():
            return None
        return Papers(*papers, leaf.serial_number, leaf.not_valid_after_utc)

    def _places(self) -> tuple[Path, Path]:
        return self.folder / "server.crt", self.folder / "server.key"

    def _issue(self, hosts: Sequence[str], now: datetime) -> Papers:
        key = ec.generate_private_key(ec.SECP256R1())
        until = min(now + _LASTS, self.certificate.not_valid_after_utc)
        alternatives = [_general_name(host) for host in hosts]
        leaf = (
            _begun(key, _name("Inch Cradle"), self.certificate.subject)
            .not_valid_before(now - _BACKDATED)
            .not_valid_after(until)
            .add_extension(x509.SubjectAlternativeName(alternatives), critical=False)
            .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
            .add_extension(_uses(digital_signature=True), critical=True)
            .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
            .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(self._signs.public_key()), critical=False)
            .sign(self._signs, hashes.SHA256())
        )
        certificate_at, key_at = self._places()
        _write(key_at, _pem(key))
        _write(certificate_at, leaf.public_bytes(serialization.Encoding.PEM))
        return Papers(certificate_at, key_at, leaf.serial_number, until)

    def _make(self, networks: Sequence[IPv4Network]) -> None:
        key = ec.generate_private_key(ec.SECP256R1())
        serial = x509.random_serial_number()
        # Two shops on one tablet are told apart by it.
        name = _name(f"Inch Cradle of this shop, {serial % 0x10000:04X}")
        permitted = [x509.DNSName(each) for each in LOCAL_NAMES]
        permitted += [x509.IPAddress(each) for each in dict.fromkeys([*map(ip_network, LOCAL_NETWORKS), *networks])]
        made = (
            _begun(key, name, name, serial)
            .not_valid_before(_FROM_EVER)
            .not_valid_after(max(datetime.now(UTC), _FROM_EVER) + _AUTHORITY_LASTS)
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
            .add_extension(_uses(key_cert_sign=True, crl_sign=True), critical=True)
            .add_extension(x509.NameConstraints(permitted_subtrees=permitted, excluded_subtrees=None), critical=True)
            .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
            .sign(key, hashes.SHA256())
        )
        _write(self._key, _pem(key))
        _write(self._certificate, made.public_bytes(serialization.Encoding.PEM))


def _begun(
    key: ec.EllipticCurvePrivateKey, subject: x509.Name, issuer: x509.Name, serial: int | None = None
) -> x509.CertificateBuilder:
    builder = x509.CertificateBuilder().subject_name(subject).issuer_name(issuer).public_key(key.public_key())
    return builder.serial_number(serial or x509.random_serial_number())


def _uses(**uses: bool) -> x509.KeyUsage:
    none = dict.fromkeys(
        (
            "digital_signature",
            "content_commitment",
            "key_encipherment",
            "data_encipherment",
            "key_agreement",
            "key_cert_sign",
            "crl_sign",
            "encipher_only",
            "decipher_only",
        ),
        False,
    )
    return x509.KeyUsage(**none | uses)


def _name(words: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, words)])


def _general_name(host: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(IPv4Address(host))
    except ValueError:
        return x509.DNSName(host)


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(place: Path, content: bytes) -> None:
    """Whole or not at all, and its owner's alone."""
    half = place.with_suffix(f"{place.suffix}.half")
    half.unlink(missing_ok=True)
    with os.fdopen(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)
    half.replace(place)
