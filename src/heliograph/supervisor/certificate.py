"""A certificate of our own for HTTPS, made at the first start; by its fingerprint one tells that it is ours."""

from __future__ import annotations

import datetime
import hashlib
import ipaddress
import ssl
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from heliograph.ipc.durable import write_durably
from heliograph.supervisor.say import StartError

VALID_DAYS = 825
"""Longer ones are refused by some systems for certificates of one's own."""


@dataclass(frozen=True, slots=True)
class Certificate:
    certificate: Path
    key: Path

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the certificate, as browsers show it."""
        der = ssl.PEM_cert_to_DER_cert(self.certificate.read_text())
        digest = hashlib.sha256(der).hexdigest().upper()
        return ":".join(digest[at : at + 2] for at in range(0, len(digest), 2))


def given(certificate: Path | None, key: Path | None) -> Certificate:
    """Somebody's own files, tried out; StartError where they are no pair."""
    if certificate is None or key is None:
        raise StartError("HTTPS needs both: --certificate FILE and --key FILE.")
    try:
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(certificate, key)
    except (OSError, ssl.SSLError) as error:
        raise StartError(f"{certificate} and {key} are no certificate with its key: {error}.") from error
    return Certificate(certificate, key)


def own(folder: Path, names: Iterable[str]) -> Certificate:
    """The certificate of this data folder; made where there is none, or it runs out within a week."""
    made = Certificate(folder / "certificate.pem", folder / "key.pem")
    try:
        known = x509.load_pem_x509_certificate(made.certificate.read_bytes())
        left = known.not_valid_after_utc - datetime.datetime.now(datetime.UTC)
        if left > datetime.timedelta(days=7) and made.key.exists():
            return made
    except (OSError, ValueError):
        pass
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Heliograph")])
    now = datetime.datetime.now(datetime.UTC)
    built = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - datetime.timedelta(days=1))
        .not_valid_after(now + datetime.timedelta(days=VALID_DAYS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.SubjectAlternativeName(_alternatives(names)), critical=False)
        .sign(key, hashes.SHA256())
    )
    private = key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    write_durably(made.key, private, 0o600)
    write_durably(made.certificate, built.public_bytes(serialization.Encoding.PEM))
    return made


def _alternatives(names: Iterable[str]) -> list[x509.GeneralName]:
    found: list[x509.GeneralName] = [x509.DNSName("localhost")]
    for name in dict.fromkeys(["127.0.0.1", *names]):
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return found


def copied(theirs: Certificate, folder: Path) -> Certificate:
    """Somebody's files beside our own, where the web process may read them whoever it runs as."""
    ours = Certificate(folder / "given-certificate.pem", folder / "given-key.pem")
    write_durably(ours.certificate, theirs.certificate.read_bytes())
    write_durably(ours.key, theirs.key.read_bytes(), 0o600)
    return ours
