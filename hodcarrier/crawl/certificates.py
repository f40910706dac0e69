"""What a certificate says (RFC 5280), and whether it covers a host (RFC 9525)."""

from __future__ import annotations

import ipaddress

from cryptography import x509
from cryptography.hazmat.primitives.asymmetric import dsa, ec, ed448, ed25519, rsa
from cryptography.x509.oid import NameOID

from hodcarrier.core.facts.probes import CertificateFacts

NAMES_KEPT = 20


def read_certificate(shown: bytes, host: str, why_untrusted: str) -> CertificateFacts | None:
    """The facts of a certificate (DER) that ``host`` has shown; ``None`` when it cannot be read."""
    try:
        certificate = x509.load_der_x509_certificate(shown)
        kind, bits = _key(certificate)
        names = _names(certificate)
        return CertificateFacts(
            host=host,
            names=names[:NAMES_KEPT],
            covers_host=any(covers(name, host) for name in names),
            issuer=_called(certificate.issuer),
            starts=certificate.not_valid_before_utc.isoformat(),
            ends=certificate.not_valid_after_utc.isoformat(),
            key=kind,
            key_bits=bits,
            signature=certificate.signature_hash_algorithm.name if certificate.signature_hash_algorithm else "",
            why_untrusted=why_untrusted,
        )
    except ValueError:
        return None


def _names(certificate: x509.Certificate) -> list[str]:
    try:
        found = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (x509.ExtensionNotFound, ValueError):
        return []
    return [*found.get_values_for_type(x509.DNSName), *map(str, found.get_values_for_type(x509.IPAddress))]


def _called(name: x509.Name) -> str:
    for oid in (NameOID.ORGANIZATION_NAME, NameOID.COMMON_NAME):
        if found := name.get_attributes_for_oid(oid):
            return str(found[0].value)
    return ""


def _key(certificate: x509.Certificate) -> tuple[str, int]:
    key = certificate.public_key()
    if isinstance(key, rsa.RSAPublicKey):
        return "RSA", key.key_size
    if isinstance(key, dsa.DSAPublicKey):
        return "DSA", key.key_size
    if isinstance(key, ec.EllipticCurvePublicKey):
        return "EC", key.key_size
    if isinstance(key, ed25519.Ed25519PublicKey | ed448.Ed448PublicKey):
        return "EdDSA", 256
    return "", 0


def covers(name: str, host: str) -> bool:
    """Whether a name of a certificate stands for a host. A star stands for the whole first label, and only there."""
    name, host = name.lower().rstrip("."), host.lower().rstrip(".")
    try:
        return ipaddress.ip_address(name) == ipaddress.ip_address(host)
    except ValueError:
        pass
    if not name.startswith("*."):
        return name == host
    first, _, rest = host.partition(".")
    return bool(first) and rest == name[2:] and "." in rest
