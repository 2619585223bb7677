"""What who starts, serves and visits Heliograph agree on: where no pass code is asked, and what carries a session."""

from __future__ import annotations

import ipaddress

COOKIE = "heliograph_session"


def is_loopback(host: str) -> bool:
    """Whether a host, by name or address, is this machine alone: there no pass code is asked."""
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"
