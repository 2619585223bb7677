"""What the web process is told when it starts."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Settings:
    """`data`: the data folder. `host`, `port`: where it listens. `pass_code`: "" only on loopback.

    `cards`: addresses to use as network cards besides the machine's own (further loopback addresses).
    """

    data: Path
    host: str = "127.0.0.1"
    port: int = 7650
    pass_code: str = ""
    cards: tuple[str, ...] = ()
    dist: Path | None = None
    allowed_hosts: tuple[str, ...] = field(default=())

    def socket(self, process: str) -> str:
        return str(self.data / "run" / f"{process}.sock")
