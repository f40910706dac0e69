"""What is read from a certificate, and which hosts its names cover."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import rsa
from cryptography.hazmat.primitives.serialization import Encoding

from hodcarrier.crawl.certificates import covers, read_certificate


@pytest.mark.parametrize(
    ("name", "host", "fits"),
    [
        ("shop.example", "shop.example", True),
        ("Shop.Example.", "shop.example", True),
        ("shop.example", "www.shop.example", False),
        ("*.shop.example", "www.shop.example", True),
        ("*.shop.example", "shop.example", False),
        ("*.shop.example", "a.b.shop.example", False),
        ("*.example", "shop.example", False),
        ("w*.shop.example", "www.shop.example", False),
        ("192.0.2.7", "192.0.2.7", True),
        ("2001:db8::1", "2001:db8:0::1", True),
        ("192.0.2.7", "192.0.2.8", False),
    ],
)
def test_names_of_a_certificate_and_hosts(name: str, host: str, fits: bool) -> None:
    assert covers(name, host) is fits


def test_a_short_key_and_a_certificate_without_names_are_read() -> None:
    key = rsa.generate_private_key(65537, 1024)
    name = x509.Name([x509.NameAttribute(x509.oid.NameOID.COMMON_NAME, "shop.example")])
    moment = datetime(2026, 1, 2, tzinfo=UTC)
    made = x509.CertificateBuilder(name, name, key.public_key(), 7, moment, datetime(2027, 1, 2, tzinfo=UTC))
    found = read_certificate(made.sign(key, hashes.SHA256()).public_bytes(Encoding.DER), "shop.example", "self-signed")
    assert found is not None
    assert (found.key, found.key_bits, found.names, found.covers_host) == ("RSA", 1024, [], False)
    assert (found.issuer, found.starts, found.why_untrusted) == ("shop.example", "2026-01-02T00:00:00+00:00", "self-signed")


def test_bytes_that_are_no_certificate_give_none() -> None:
    assert read_certificate(b"no certificate", "shop.example", "") is None
