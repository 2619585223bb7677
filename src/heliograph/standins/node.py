"""A simulated node: `./heliograph standin node --address 127.0.0.12 --hang FILE`.

A program of its own that speaks Art-Net 4 and sACN on its own loopback address, answers ArtPoll, and
shows its lamps on a small page. It shares the packet code with the product, nothing else; that code
is checked against golden packets, tshark and the sacn library.
"""

from __future__ import annotations

import argparse
import contextlib
import selectors
import signal
import socket
import struct
import sys
import threading
import time
from pathlib import Path
from typing import Any

from heliograph.core.errors import HeliographError
from heliograph.core.patch.dmx import sacn_group
from heliograph.standins.faults import with_faults
from heliograph.standins.hang_list import HangList, hang_list_of, load_hang_list
from heliograph.standins.node_inputs import NodeInputs
from heliograph.standins.node_page import start_page
from heliograph.wire import artnet, sacn

LOOPBACK_BROADCAST = "127.255.255.255"
GROUPS_A_SOCKET = 20
"""One socket joins at most 20 multicast groups on Linux; the 21st join fails (measured)."""

IP_MULTICAST_ALL = 49
SO_TIMESTAMPNS = 35
RECEIVE_BUFFER = 4 * 1024 * 1024
READ_AT_ONCE = 1024


class SimulatedNode:
    """Sockets and the loop; what packets mean is in `NodeInputs`."""

    def __init__(self, address: str, hang: HangList) -> None:
        self.address, self.hang = address, hang
        self.inputs = NodeInputs(set(hang.listens))
        self.lock = threading.Lock()
        self.replies = 0
        self.faults: list[dict[str, Any]] = []
        self._hung = hang
        self.stopping = False
        self._synchronised: set[int] = set()
        self._selector = selectors.DefaultSelector()
        self._sender = self._listen("artnet", address, artnet.PORT)
        self._listen("artnet", LOOPBACK_BROADCAST, artnet.PORT)
        self._listen("sacn", address, sacn.PORT)
        self._joined: set[int] = set()
        self._join_all(hang)

    def set_faults(self, faults: list[dict[str, Any]]) -> None:
        """Hangs its lamps anew with these faults, none to mend them all. InputError where one cannot be."""
        hang = hang_list_of(with_faults(self._hung.read_from, faults))
        with self.lock:
            self.hang, self.faults = hang, faults
            self.inputs.listens = set(hang.listens)
            self._join_all(hang)

    def _join_all(self, hang: HangList) -> None:
        universes = sorted({n for protocol, n in hang.listens if protocol == "sacn"} - self._joined)
        self._joined.update(universes)
        for start in range(0, len(universes), GROUPS_A_SOCKET):
            self._join(universes[start : start + GROUPS_A_SOCKET])

    def _listen(self, protocol: str, address: str, port: int) -> socket.socket:
        incoming = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, RECEIVE_BUFFER)
        incoming.setsockopt(socket.SOL_SOCKET, SO_TIMESTAMPNS, 1)
        incoming.setsockopt(socket.IPPROTO_IP, IP_MULTICAST_ALL, 0)
        incoming.bind((address, port))
        incoming.setblocking(False)
        self._selector.register(incoming, selectors.EVENT_READ, protocol)
        return incoming

    def _join(self, universes: list[int]) -> None:
        incoming = self._listen("sacn", "", sacn.PORT)
        for universe in universes:
            request = socket.inet_aton(sacn_group(universe)) + socket.inet_aton(self.address)
            incoming.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, request)

    def run(self) -> None:
        while not self.stopping:
            for key, _ in self._selector.select(0.2):
                self._read(key.fileobj, key.data)  # type: ignore[arg-type]

    def _read(self, incoming: socket.socket, protocol: str) -> None:
        for _ in range(READ_AT_ONCE):
            try:
                packet, ancillary, _, (source, _) = incoming.recvmsg(2048, 64)
            except (BlockingIOError, ConnectionError):
                return
            with self.lock:
                poll = self.inputs.take(protocol, packet, source, _received_s(ancillary))
                groups = self.inputs.sync_groups - self._synchronised
            if groups:
                self._synchronised |= groups
                self._join(sorted(groups))
            if poll is not None:
                self._reply(source, poll)

    def _reply(self, to: str, poll: artnet.Poll) -> None:
        self.replies += 1
        for reply in poll_replies(self.address, self.hang, self.replies):
            outputs = reply.outputs()
            if not outputs or any(poll.asks(number) for number in outputs):
                with contextlib.suppress(OSError):
                    self._sender.sendto(artnet.encode_poll_reply(reply), (to, artnet.PORT))


def poll_replies(address: str, hang: HangList, count: int) -> list[artnet.PollReply]:
    """One reply for up to four ports that share Net and Sub-Net; ports fed by sACN are marked so."""
    pages: dict[tuple[str, int], list[int]] = {}
    for protocol, number in sorted(hang.listens):
        if number <= 0x7FFF:
            pages.setdefault((protocol, number >> 4), []).append(number & 15)
    chunks = [
        (protocol, base, ports[i : i + 4])
        for (protocol, base), ports in sorted(pages.items())
        for i in range(0, len(ports), 4)
    ] or [("artnet", 0, [])]
    return [
        artnet.PollReply(
            ip=address,
            short_name=hang.name[:17],
            long_name=f"{hang.name}, simulated node",
            report=f"#0001 [{count % 10000:04}] ready",
            net=base >> 4,
            sub_net=base & 15,
            num_ports=len(ports),
            port_types=_four([0x80] * len(ports)),
            good_output=_four([0x81 if protocol == "sacn" else 0x80] * len(ports)),
            sw_out=_four(ports),
            bind_ip=address,
            bind_index=index,
            status2=0x18,
        )
        for index, (protocol, base, ports) in enumerate(chunks, start=1)
    ]


def _four(values: list[int]) -> tuple[int, int, int, int]:
    padded = [*values, 0, 0, 0, 0]
    return padded[0], padded[1], padded[2], padded[3]


def _received_s(ancillary: list[tuple[int, int, bytes]]) -> float:
    for level, kind, data in ancillary:
        if level == socket.SOL_SOCKET and kind == SO_TIMESTAMPNS and len(data) >= 16:
            seconds, nanoseconds = struct.unpack("qq", data[:16])
            return float(seconds + nanoseconds / 1e9)
    return time.time()


def main() -> None:
    parser = argparse.ArgumentParser(prog="heliograph standin node", description="A simulated lighting node.")
    parser.add_argument("--address", default="127.0.0.12", help="its own loopback address")
    parser.add_argument("--hang", type=Path, required=True, help="hang list (JSON)")
    parser.add_argument("--page-port", type=int, default=7660, help="port of its page (0: any free one)")
    options = parser.parse_args()
    try:
        node = SimulatedNode(options.address, load_hang_list(options.hang))
        port = start_page(node, options.page_port)
    except HeliographError as error:
        sys.exit(str(error))
    except OSError as error:
        sys.exit(f"The node cannot listen on {options.address}: {error.strerror}. Is another one running there?")
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: setattr(node, "stopping", True))
    print(f"{node.hang.name} listens on {node.address}, its lamps: http://{node.address}:{port}/", flush=True)
    node.run()


if __name__ == "__main__":
    main()
