"""A certificate for this machine's names on the site's network, made here."""

from __future__ import annotations

import ipaddress
import os
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

DAYS = 397
"""Browsers take no certificate that is valid for longer."""


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
