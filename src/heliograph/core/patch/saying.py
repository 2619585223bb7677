"""An output in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.core.patch.dmx import PortAddress, sacn_group


def sentences_of(output: Mapping[str, Any]) -> list[str]:
    """An output in a few short sentences: its universes and protocol, its numbers in every counting, how it is sent."""
    first, last = output["first_number"], output["first_number"] + output["count"] - 1
    many = output["count"] > 1
    end = output["first_universe"] + output["count"] - 1
    run = f"U{output['first_universe']} to U{end}" if many else f"U{end}"
    to = {"unicast": f"to {output.get('destination') or output['address']}", "broadcast": "to everybody"}
    if output["protocol"] == "sacn":
        counted = f"universe {first}{f' to {last}' if many else ''}, counted from 1; priority {output['priority']}"
        synced = f", synchronised by {output['sync']}" if output.get("sync") else ""
        if output["mode"] == "multicast":
            groups = f"{sacn_group(first)}{f' to {_last_group(first, last)}' if many else ''}"
            return [f"{run} by sACN multicast", f"{groups}, {counted}", f"{_sent(output)}{synced}"]
        return [f"{run} by sACN {to[output['mode']]}", counted, f"{_sent(output)}{synced}"]
    a, b = PortAddress(first), PortAddress(last)
    port = f"Net {a.net} Sub-Net {a.sub_net} Universe {a.universe}"
    if many:
        port += f" to {b.universe}" if (a.net, a.sub_net) == (b.net, b.sub_net) else f" to {b}"
    counted = f"Port-Address {first}{f' to {last}' if many else ''}, counted from 1: {first + 1}"
    counted += f" to {last + 1}" if many else ""
    synced = ", with ArtSync" if output.get("sync") else ""
    return [f"{run} by Art-Net {to[output['mode']]}", f"{port} ({counted})", f"{_sent(output)}{synced}"]


def _last_group(first: int, last: int) -> str:
    """The last multicast group, short where it differs in its last part alone."""
    return f".{last & 255}" if first >> 8 == last >> 8 else sacn_group(last)


def _sent(output: Mapping[str, Any]) -> str:
    ends = "" if output.get("when_ends", "dark") == "dark" else ", stays lit when it ends"
    return f"card {output['card']}, {output.get('rate_hz', 44)} frames a second{ends}"
