"""DMX addresses and the protocols' numbers for a universe.

Inside the program a channel is an absolute 0-based *position*: (universe - 1) * 512 + channel - 1.
Source: ANSI E1.11 (512 slots), standards 1.4 and 2.1 (established with tshark).
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from heliograph.core.errors import InputError

SLOTS = 512
"""Data slots of one DMX512 packet (ANSI E1.11)."""

UNIVERSE_MAX = 63999
"""Highest universe sACN can carry (ANSI E1.31: 64000 and up are reserved); ours follow it."""

PORT_ADDRESS_MAX = 32767
"""Art-Net 4 Port-Address: 15 bits, Net (7), Sub-Net (4), Universe (4)."""

_ADDRESS = re.compile(r"^\s*[uU]?(\d{1,9})\s*[.:/]\s*(\d{1,9})\s*$")
_STEP = re.compile(r"^\s*([+-])\s*(\d{1,9})\s*$")


@dataclass(frozen=True, slots=True, order=True)
class Address:
    """Universe 1..63999 and channel 1..512, written `U3.201`."""

    universe: int
    channel: int

    def __post_init__(self) -> None:
        if not 1 <= self.channel <= SLOTS:
            raise InputError(
                f"U{self.universe}.{self.channel}: a universe has channels 1 to {SLOTS}.",
                where="address",
                repair=_repair_channel(self.universe, self.channel),
            )
        if not 1 <= self.universe <= UNIVERSE_MAX:
            raise InputError(
                f"Universe {self.universe} is outside 1 to {UNIVERSE_MAX}.",
                where="address",
                repair="Write an address like U3.201.",
            )

    @property
    def position(self) -> int:
        """Absolute 0-based position of the channel."""
        return (self.universe - 1) * SLOTS + self.channel - 1

    def __str__(self) -> str:
        return f"U{self.universe}.{self.channel}"


def _repair_channel(universe: int, channel: int) -> str:
    if channel > SLOTS and 1 <= universe < UNIVERSE_MAX:
        after = Address(*divmod_address(universe, channel))
        return f"Counting on, that channel is {after}."
    return "Write an address like U3.201."


def divmod_address(universe: int, channel: int) -> tuple[int, int]:
    """Carries a channel past 512 over into the following universes."""
    steps, rest = divmod(channel - 1, SLOTS)
    return min(universe + steps, UNIVERSE_MAX), rest + 1


def address_at(position: int) -> Address:
    """The address of an absolute 0-based position."""
    universe, channel = divmod(position, SLOTS)
    return Address(universe + 1, channel + 1)


def parse_address(text: str, here: Address | None = None) -> Address:
    """Reads `U3.201`, `3.201`, or `+1` and `-1` relative to `here`.

    Raises InputError with a sentence for anything else.
    """
    if match := _ADDRESS.match(text):
        return Address(int(match[1]), int(match[2]))
    if match := _STEP.match(text):
        if here is None:
            raise InputError(
                f"'{text.strip()}' counts from an address, and there is none yet.",
                where="address",
                repair="Write an address like U3.201.",
            )
        step = int(match[2]) * (1 if match[1] == "+" else -1)
        position = here.position + step
        if not 0 <= position < UNIVERSE_MAX * SLOTS:
            raise InputError(f"{here} {match[1]} {match[2]} leaves the universes there are.", where="address")
        return address_at(position)
    raise InputError(
        f"'{text.strip()}' is not an address.",
        where="address",
        repair="Write U3.201 or 3.201 for universe 3, channel 201, or +1 for one further.",
    )


@dataclass(frozen=True, slots=True)
class PortAddress:
    """An Art-Net Port-Address in both of its spellings; all parts count from 0 as on the wire."""

    value: int

    def __post_init__(self) -> None:
        if not 0 <= self.value <= PORT_ADDRESS_MAX:
            raise InputError(
                f"Art-Net Port-Address {self.value} is outside 0 to {PORT_ADDRESS_MAX}.",
                where="first_number",
                repair="Use sACN for higher universes, or start the run lower.",
            )

    @property
    def net(self) -> int:
        return self.value >> 8

    @property
    def sub_net(self) -> int:
        return self.value >> 4 & 15

    @property
    def universe(self) -> int:
        return self.value & 15

    def __str__(self) -> str:
        return f"{self.net}:{self.sub_net}:{self.universe}"


def sacn_group(universe: int) -> str:
    """Multicast group of a universe: 239.255.hi.lo (ANSI E1.31, table in standards 3)."""
    return f"239.255.{universe >> 8}.{universe & 255}"


def spell_number(protocol: str, number: int) -> str:
    """One protocol number in every counting a device may use, so that an off-by-one is visible."""
    if protocol == "artnet":
        port = PortAddress(number)
        return (
            f"Net {port.net} Sub-Net {port.sub_net} Universe {port.universe} "
            f"(Port-Address {number}, counted from 1: {number + 1})"
        )
    return f"sACN universe {number}, group {sacn_group(number)} (counted from 1; from 0 it would be {number - 1})"
