"""What was asked for on the command line."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

PORT = 7650


@dataclass(frozen=True, slots=True)
class Options:
    """`cards`: use only these addresses as network cards. `certificate`, `key`: PEM files; with `tls` and without them
    the program makes its own. `unattended`: the machine was switched on: what was chosen for that is done."""

    data: Path
    host: str = "127.0.0.1"
    port: int = PORT
    demo: bool = False
    tls: bool = False
    certificate: Path | None = None
    key: Path | None = None
    cards: tuple[str, ...] = ()
    dist: Path | None = None
    node_address: str = "127.0.0.12"
    node_page_port: int = 7660
    feed_hosts: tuple[str, ...] = ()
    unattended: bool = False
