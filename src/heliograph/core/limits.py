"""How large a show may be: beyond this the engine could not keep up whatever it played, so the edit is refused.

Measured on two shared cores: 512 universes with two lines take 7.5 ms of a frame's 22.7, 2,048 take 26 ms, 4,096 take
35 ms; a packet costs 4.2 us to send, so 5,400 fill a frame.
"""

from __future__ import annotations

from heliograph.core.errors import InputError

CELLS_MAX = 1_000_000
PACKETS_MAX = 8_192
"""Packets of one frame: universes times destinations, of all outputs that are on."""

UNIVERSES_MAX = 32_768


def check_totals(cells: int, universes: int, packets: int) -> None:
    """Raises InputError where a show would be larger than an engine can play. `universes`: of all outputs together."""
    if cells > CELLS_MAX:
        raise InputError(
            f"The show would have {cells:,} cells: {CELLS_MAX:,} are the most.",
            where="cells",
            repair="About 350,000 play at 44 frames a second on two cores; part it over two machines.",
        )
    if universes > UNIVERSES_MAX:
        raise InputError(
            f"The outputs would send {universes:,} universes: {UNIVERSES_MAX:,} are the most.",
            where="count",
            repair="About 2,000 play at 44 frames a second on two cores; part them over two machines.",
        )
    if packets > PACKETS_MAX:
        raise InputError(
            f"Each frame would be {packets:,} packets, universes times destinations: {PACKETS_MAX:,} are the most.",
            where="count",
            repair="About 5,000 leave 44 times a second on two cores; use multicast, broadcast or fewer destinations.",
        )
