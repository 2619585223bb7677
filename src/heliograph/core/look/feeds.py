"""Addresses of live pictures: what may be opened, and how."""

from __future__ import annotations

import ipaddress
import re
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal, get_args
from urllib.parse import urlsplit

from heliograph.core.errors import InputError

Lost = Literal["hold", "black", "clear"]
LOST: tuple[str, ...] = get_args(Lost)
"""What is shown once nothing came for `LOST_S`: the last picture, black, or what lies beneath."""

LOST_S = 3.0
SCHEMES = ("udp", "rtp", "rtsp", "http")
FORMATS = {"http": "mpjpeg", "udp": "mpegts"}
"""Told to the decoder where it would look for it in what arrives: a list of other addresses is no live picture."""

EXAMPLES = (
    "udp://127.0.0.1:7010, rtp://..., rtsp://..., http://... (MJPEG), v4l2:/dev/video0, clip:3 (in a loop), "
    "or artnet:0 or sacn:101 (incoming universes from that number on)"
)
ADDRESS_MAX = 200
_DEVICE = re.compile(r"v4l2:(/dev/video\d{1,3})")


_CLIP = re.compile(r"clip:(\d{1,5})")
_UNIVERSES = re.compile(r"(artnet|sacn):(\d{1,5})")
NUMBERS = {"artnet": (0, 32_767), "sacn": (1, 63_999)}
"""Of universes: a Port-Address has 15 bits (Art-Net 4), sACN has 1 to 63999 (ANSI E1.31-2018, 6.2.7)."""


@dataclass(frozen=True, slots=True)
class Feed:
    """An address as the decoder opens it: `opens`, with the format it is told ("": found by itself). `clip`: the number
    of the one it shows in a loop."""

    opens: str
    format: str = ""
    clip: int = 0


@dataclass(frozen=True, slots=True)
class Universes:
    """Incoming universes as a picture, from the number `first` on."""

    protocol: str
    first: int


def universes_from(address: str) -> Universes | None:
    """What an address of incoming universes says; None for any other. InputError for a number there is not."""
    found = _UNIVERSES.fullmatch(address.strip())
    if found is None:
        return None
    protocol, number = found.group(1), int(found.group(2))
    low, high = NUMBERS[protocol]
    if not low <= number <= high:
        raise InputError(f"{protocol}:{number} is outside {low} to {high}.", where="address")
    return Universes(protocol, number)


def feed_from(address: str, hosts: Collection[str] = ()) -> Feed:
    """Reads an address; InputError where it is none, or its host is neither loopback nor among `hosts`."""
    address = address.strip()
    if device := _DEVICE.fullmatch(address):
        return Feed(device.group(1), "v4l2")
    if clip := _CLIP.fullmatch(address):
        return Feed("", clip=int(clip.group(1)))
    if universes_from(address) is not None:
        return Feed("")
    try:
        parts = urlsplit(address)
        host, port = parts.hostname or "", parts.port
    except ValueError:
        host, port, parts = "", None, urlsplit("")
    if parts.scheme not in SCHEMES or not host or len(address) > ADDRESS_MAX:
        raise InputError(
            f"'{address[:80]}' is no address of a live picture.", where="address", repair=f"Use {EXAMPLES}."
        )
    if parts.username or parts.password:
        raise InputError("An address says no name and no pass code.", where="address", repair="Leave them out.")
    if port is None and parts.scheme in ("udp", "rtp"):
        raise InputError(f"'{address[:80]}' names no port.", where="address", repair="Type udp://127.0.0.1:7010.")
    if not (_is_loopback(host) or host in hosts):
        raise InputError(
            f"Pictures from {host} are not let in.",
            where="address",
            repair=f"Start Heliograph with --feed-host {host}, or use an address of this machine.",
        )
    return Feed(address, FORMATS.get(parts.scheme, ""))


def _is_loopback(host: str) -> bool:
    if host == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False
