"""sACN multicast: sockets that join the groups of universes, without what we send ourselves.

A socket filter in the kernel drops packets with our own CID: on a large rig they are the most of what our groups
carry, and reading them would cost more than all the rest.
"""

from __future__ import annotations

import contextlib
import ctypes
import socket
import struct
from collections.abc import Callable, Iterable

from heliograph.core.patch.dmx import sacn_group
from heliograph.wire import sacn

GROUPS_A_SOCKET = 20
"""One socket joins at most 20 multicast groups on Linux by default; the 21st join fails (measured)."""

GROUPS_MAX = 512

IP_MULTICAST_ALL = 49
SO_ATTACH_FILTER = 26
_UDP_HEADER = 8
_CID_AT = _UDP_HEADER + 22
_LOAD_WORD, _LOAD_LENGTH, _JUMP_IF_EQUAL, _JUMP_IF_NOT_LESS, _RETURN = 0x20, 0x80, 0x15, 0x35, 0x06


class SacnGroups:
    """The groups joined on one card. `opened` gets each new socket, `closed` each that is given up."""

    def __init__(
        self,
        card: str,
        opened: Callable[[socket.socket], None],
        closed: Callable[[socket.socket], object],
    ) -> None:
        self._card, self._opened, self._closed = card, opened, closed
        self._sockets: list[tuple[socket.socket, set[int]]] = []
        self._cid = b""
        self.failed: set[int] = set()

    @property
    def joined(self) -> set[int]:
        return {number for _, numbers in self._sockets for number in numbers}

    def follow(self, numbers: Iterable[int], cid: bytes) -> None:
        """Joins the groups of these universes and leaves all others; packets with `cid` are never read."""
        wanted = set(sorted(set(numbers))[:GROUPS_MAX])
        if cid != self._cid:
            self._cid = cid
            for one, _ in self._sockets:
                drop_cid(one, cid)
        for one, numbers_of in list(self._sockets):
            for number in numbers_of - wanted:
                with contextlib.suppress(OSError):
                    one.setsockopt(socket.IPPROTO_IP, socket.IP_DROP_MEMBERSHIP, self._membership(number))
                numbers_of.discard(number)
            if not numbers_of:
                self._sockets.remove((one, numbers_of))
                self._closed(one)
                one.close()
        self.failed = {number for number in wanted - self.joined if not self._join(number)}

    def _join(self, number: int) -> bool:
        room = next((pair for pair in self._sockets if len(pair[1]) < GROUPS_A_SOCKET), None)
        if room is None:
            room = (self._open(), set())
            self._sockets.append(room)
        one, numbers = room
        try:
            one.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, self._membership(number))
        except OSError:
            return False
        numbers.add(number)
        return True

    def _membership(self, number: int) -> bytes:
        return socket.inet_aton(sacn_group(number)) + socket.inet_aton(self._card)

    def _open(self) -> socket.socket:
        incoming = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        incoming.setsockopt(socket.IPPROTO_IP, IP_MULTICAST_ALL, 0)
        drop_cid(incoming, self._cid)
        incoming.bind(("", sacn.PORT))
        incoming.setblocking(False)
        self._opened(incoming)
        return incoming


def drop_cid(incoming: socket.socket, cid: bytes) -> None:
    """Lets the kernel drop packets whose CID (16 bytes) is this one; none where `cid` is empty."""
    if len(cid) != 16:
        return
    program = [(_LOAD_LENGTH, 0, 0, 0), (_JUMP_IF_NOT_LESS, 0, 9, _CID_AT + 16)]  # shorter ones are read and counted
    for n in range(4):
        word = struct.unpack_from(">I", cid, 4 * n)[0]
        program.append((_LOAD_WORD, 0, 0, _CID_AT + 4 * n))
        # Not the same: over the rest to "keep". The last word the same: on to "drop".
        program.append((_JUMP_IF_EQUAL, 0, 2 * (3 - n) + 1, word))
    program += [(_RETURN, 0, 0, 0), (_RETURN, 0, 0, 0xFFFF)]
    code = b"".join(struct.pack("=HBBI", *line) for line in program)
    kept = ctypes.create_string_buffer(code)
    incoming.setsockopt(socket.SOL_SOCKET, SO_ATTACH_FILTER, struct.pack("HL", len(program), ctypes.addressof(kept)))
