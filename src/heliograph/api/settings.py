"""What the web process is told when it starts."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Settings:
    """`data`: the data folder. `host`, `port`: where it listens. `asks_pass`: everybody gives a pass code; False
    only on loopback. `own_token`: the session of the program that started it. `certificate`, `key`: PEM
    files, for HTTPS.

    `cards`: addresses to use as network cards besides the machine's own (further loopback addresses).
    `feed_hosts`: those whose live pictures are let in beside this machine's own.
    """

    data: Path
    host: str = "127.0.0.1"
    port: int = 7650
    asks_pass: bool = False
    own_token: str = ""
    certificate: Path | None = None
    key: Path | None = None
    cards: tuple[str, ...] = ()
    dist: Path | None = None
    feed_hosts: tuple[str, ...] = ()
    allowed_hosts: tuple[str, ...] = field(default=())

    @property
    def tls(self) -> bool:
        return self.certificate is not None

    def socket(self, process: str) -> str:
        return str(self.data / "run" / f"{process}.sock")
