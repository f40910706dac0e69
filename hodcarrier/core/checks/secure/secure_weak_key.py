"""The key of the certificate is shorter than the limit, or on a curve of fewer than 224 bits, or it is signed with MD5 or SHA-1."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    certificate,
    doc,
    fails,
    page,
    passes,
)

CURVE_BITS_MIN = 224
BROKEN = frozenset({"md5", "sha1"})


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Weak key or signature",
    terms=("TLS", "SSL", "RSA", "SHA-1", "certificate"),
    why="Keys of this size and signatures of this kind can be broken with effort that attackers can pay for. Browsers begin to refuse them.",
    fix="Have the certificate issued anew with an RSA key of 2,048 bits or more, or a key on an elliptic curve, signed with SHA-256.",
    effort=Effort.SMALL,
    standard="NIST SP 800-57 part 1; RFC 9155",
    messages={
        "key": "The {kind} key has {bits} bits; at least {limit} are needed",
        "signature": "The certificate is signed with {digest}",
    },
    cause="site",
    limits={"rsa_bits_min": Limit(2048, "bits", "shortest RSA key that is in order")},
    examples=(
        fails("key")(page(doc()), plan=certificate(key_bits=2047)),
        fails("key")(page(doc()), plan=certificate(key="EC", key_bits=192)),
        fails("signature")(page(doc()), plan=certificate(signature="sha1")),
        passes(page(doc()), plan=certificate(key_bits=2048)),
        passes(page(doc()), plan=certificate(key_bits=1024) | {"thresholds": {"rsa_bits_min": 1024}}),
        passes(page(doc())),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    shown = site.probes.certificate
    if shown is None:
        return
    limit = int(limits["rsa_bits_min"]) if shown.key in ("RSA", "DSA") else CURVE_BITS_MIN
    if shown.key_bits and shown.key_bits < limit:
        yield Fail("key", "", {"kind": shown.key, "bits": shown.key_bits, "limit": limit})
    elif shown.signature in BROKEN:
        yield Fail("signature", "", {"digest": shown.signature.upper()})
