"""This machine on the site's network: its names, and a certificate for them."""

from __future__ import annotations

import ipaddress
import os
import socket
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

DAYS = 397
"""Browsers take no certificate that is valid for longer."""


def is_this_machine(host: str) -> bool:
    """Whether an address to listen on is reached from this machine alone."""
    if host == "localhost":
        return True
    with suppress(ValueError):
        return ipaddress.ip_address(host).is_loopback
    return False


def names_of(host: str) -> list[str]:
    """The names under which others ask for what listens there, an address before a name."""
    with suppress(ValueError):
        if not ipaddress.ip_address(host).is_unspecified:
            return [host]
        own = socket.gethostname()
        found = [*_outward(":" in host), *_named(own, ":" in host), own, "127.0.0.1"]
        return list(dict.fromkeys(found))
    return [host]


def _named(name: str, six: bool) -> list[str]:
    family = socket.AF_INET6 if six else socket.AF_INET
    with suppress(OSError):
        found = [str(info[4][0]) for info in socket.getaddrinfo(name, None, family)]
        return [one for one in found if not ipaddress.ip_address(one).is_loopback]
    return []


def _outward(six: bool) -> list[str]:
    """The address from which this machine would ask others; nothing is sent to find it."""
    family, far = (socket.AF_INET6, "2001:db8::1") if six else (socket.AF_INET, "192.0.2.1")
    with suppress(OSError), socket.socket(family, socket.SOCK_DGRAM) as probe:
        # A datagram socket that connects only looks up the way (RFC 5737 names that network).
        probe.connect((far, 9))
        return [str(probe.getsockname()[0])]
    return []


def in_address(name: str) -> str:
    """A name as it stands in an address: one of IPv6 in brackets."""
    return f"[{name}]" if ":" in name else name


def certificate(database: Path, names: list[str]) -> tuple[Path, Path]:
    """Files of a certificate for these names and of its key, beside the database.

    One that is there is kept until it ends or a name is missing in it.
    """
    folder = database.with_name(f"{database.stem}-tls")
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    files = folder / "certificate.pem", folder / "key.pem"
    if not (all(file.exists() for file in files) and _still_good(files[0], names)):
        _make(files, names)
    return files


def fingerprint(file: Path) -> str:
    """The SHA-256 fingerprint of a certificate, as browsers show it."""
    digest = _read(file).fingerprint(hashes.SHA256()).hex().upper()
    return ":".join(digest[i : i + 2] for i in range(0, len(digest), 2))


def _read(file: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificate(file.read_bytes())


def _still_good(file: Path, names: list[str]) -> bool:
    with suppress(ValueError):
        made = _read(file)
        held = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        known = {str(one.value) for one in held}
        week = datetime.now(UTC) + timedelta(days=7)
        return made.not_valid_after_utc > week and set(names) <= known
    return False


def _make(files: tuple[Path, Path], names: list[str]) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Calm Basin on this site")])
    start = datetime.now(UTC) - timedelta(hours=1)
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(start)
        .not_valid_after(start + timedelta(days=DAYS))
        .add_extension(x509.SubjectAlternativeName([_general(one) for one in names]), False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), False)
        .sign(key, hashes.SHA256())
    )
    secret = key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )
    for file, text in (
        (files[1], secret),
        (files[0], made.public_bytes(serialization.Encoding.PEM)),
    ):
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(handle, "wb") as out:
            out.write(text)


def _general(name: str) -> x509.GeneralName:
    with suppress(ValueError):
        return x509.IPAddress(ipaddress.ip_address(name))
    return x509.DNSName(name)
