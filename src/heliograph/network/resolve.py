"""Names of hosts to IPv4 addresses, with a limit on how long a name server may take."""

from __future__ import annotations

import concurrent.futures
import ipaddress
import socket

from heliograph.core.errors import InputError

RESOLVE_WAIT_S = 3.0

_pool = concurrent.futures.ThreadPoolExecutor(max_workers=4, thread_name_prefix="resolve")


def resolve(name: str) -> str:
    """The IPv4 address of a host; InputError where the name does not resolve in three seconds."""
    text = name.strip()
    try:
        return str(ipaddress.IPv4Address(text))
    except ValueError:
        pass
    if not text or len(text) > 253 or any(c.isspace() or ord(c) < 33 for c in text):
        raise InputError(f"'{text[:60]}' is not an address.", where="destination", repair="Write one like 192.0.2.17.")
    look_up = _pool.submit(socket.getaddrinfo, text, None, socket.AF_INET, socket.SOCK_DGRAM)
    try:
        return str(look_up.result(RESOLVE_WAIT_S)[0][4][0])
    except (OSError, UnicodeError, concurrent.futures.TimeoutError) as error:
        raise InputError(
            f"The name '{text}' does not resolve to an address.",
            where="destination",
            repair="Check its spelling, or write the node's IP address like 192.0.2.17.",
        ) from error
