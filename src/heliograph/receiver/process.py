"""The receiver process: `python -m heliograph.receiver.process --data DIR`.

HELIOGRAPH_CARDS_IN is JSON [[card address, broadcast, descriptor of its 6454 socket, of the broadcast one]].
"""

from __future__ import annotations

import argparse
import contextlib
import os
import selectors
import signal
import socket
import threading
import time
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

import orjson

from heliograph.core.errors import InputError
from heliograph.ipc.control import ControlServer
from heliograph.ipc.heartbeat import Heartbeat
from heliograph.ipc.incoming import IncomingWriter
from heliograph.ipc.log import start_log
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.receiver import AskReceiver, Listen, OfferCard, ReceiverRequest
from heliograph.ipc.places import fast_folder
from heliograph.ipc.service_user import drop_rights
from heliograph.receiver.groups import SacnGroups, drop_cid
from heliograph.receiver.intake import Intake
from heliograph.wire import artnet, sacn

RECEIVE_BUFFER = 4 * 1024 * 1024
LOOK_S = 0.1
"""How often silence is looked for, however many packets arrive."""

READ_AT_ONCE = 512
"""Datagrams read from one socket before the others have their turn."""


@dataclass(slots=True)
class CardIn:
    """A card's sockets: unicast and directed broadcast on 6454, unicast and groups on 5568."""

    address: str
    broadcast: str
    artnet: socket.socket
    groups: SacnGroups
    sacn: socket.socket | None


class Receiver:
    def __init__(self, log: Any, heart: Heartbeat) -> None:
        self._log, self._heart = log, heart
        self.intake = Intake()
        self._lock = threading.Lock()
        self._cards: dict[str, CardIn] = {}
        self._selector = selectors.DefaultSelector()
        self._wake, self._waker = socket.socketpair()
        self._selector.register(self._wake, selectors.EVENT_READ, ("wake", ""))
        self._new: list[tuple[str, str, int, int]] = []
        self.stopping = False
        self._poll_due = self._look_due = 0.0
        self._wanted: set[int] = set()
        self._joined: set[int] = set()

    def add_card(self, address: str, broadcast: str, fd: int, broadcast_fd: int) -> None:
        """From any thread; the loop takes it up."""
        with self._lock:
            self._new.append((address, broadcast, fd, broadcast_fd))
        self._waker.send(b"x")

    def stop(self) -> None:
        self.stopping = True
        with contextlib.suppress(OSError):
            self._waker.send(b"x")

    def answer(self, request: ReceiverRequest, fds: list[int]) -> Answer | None:
        match request:
            case AskReceiver():
                with self._lock:
                    return self.intake.status(time.monotonic())
            case OfferCard():
                if len(fds) != 2:
                    raise InputError(f"A card comes with two sockets, not {len(fds)}.", where="card")
                self.add_card(request.address, request.broadcast, fds[0], fds[1])
            case Listen():
                with self._lock:
                    self.intake.cid = bytes.fromhex(request.cid)
                    self._wanted = {one for one in request.sacn if 1 <= one <= sacn.UNIVERSE_MAX}
        return None

    def run(self) -> None:
        while not self.stopping:
            for key, _ in self._selector.select(0.25):
                kind, card = key.data
                if kind == "wake":
                    self._wake.recv(64)
                    self._take_cards()
                else:
                    self._read(key.fileobj, kind, card)  # type: ignore[arg-type]
            self._look(time.monotonic())
            self._heart.beat()

    def _take_cards(self) -> None:
        with self._lock:
            new, self._new = self._new, []
        for address, broadcast, fd, broadcast_fd in new:
            own, heard = socket.socket(fileno=fd), socket.socket(fileno=broadcast_fd)
            for one in (own, heard):
                one.setblocking(False)
                self._selector.register(one, selectors.EVENT_READ, ("artnet", address))
            groups = SacnGroups(address, partial(self._watch, address), self._selector.unregister)
            self._cards[address] = CardIn(address, broadcast, own, groups, self._open_sacn(address))
            self.intake.own.add(address)
            self._poll_due = 0.0
            self._joined = set()

    def _watch(self, card: str, incoming: socket.socket) -> None:
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, RECEIVE_BUFFER)
        self._selector.register(incoming, selectors.EVENT_READ, ("sacn", card))

    def _follow(self) -> None:
        """Joins the groups of universes we send, others announce, or somebody asked for."""
        with self._lock:
            wanted, cid = self._wanted | self.intake.announced.universes | {sacn.UNIVERSE_DISCOVERY}, self.intake.cid
        if wanted == self._joined or not self._cards:
            return
        self._joined = wanted
        failed: set[int] = set()
        for card in self._cards.values():
            if card.sacn is not None:
                drop_cid(card.sacn, cid)
            card.groups.follow(wanted, cid)
            failed |= card.groups.failed
        if failed:
            self._log.warning(f"{len(failed)} sACN groups could not be joined, the first is {min(failed)}")

    def _open_sacn(self, address: str) -> socket.socket | None:
        incoming = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        incoming.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, RECEIVE_BUFFER)
        try:
            incoming.bind((address, sacn.PORT))
        except OSError as error:
            incoming.close()
            self._log.warning(f"sACN cannot be received on {address}: {error.strerror}")
            return None
        incoming.setblocking(False)
        self._selector.register(incoming, selectors.EVENT_READ, ("sacn", address))
        return incoming

    def _read(self, incoming: socket.socket, kind: str, card: str) -> None:
        for _ in range(READ_AT_ONCE):
            try:
                packet, (source, port) = incoming.recvfrom(2048)
            except BlockingIOError:
                return
            except OSError:
                return  # an answer to something we sent to nobody; the socket goes on
            with self._lock:
                now = time.monotonic()
                if kind == "sacn":
                    self.intake.sacn(packet, source, now)
                    continue
                poll = self.intake.artnet(packet, source, card, now)
            if poll is not None and not poll.flags & 0x20:
                self._reply(card, source, port)

    def _reply(self, card: str, source: str, port: int) -> None:
        reply = artnet.PollReply(
            ip=card,
            short_name="Heliograph",
            long_name="Heliograph, pixel mapping",
            report="#0001 [0000] sending",
            style=artnet.STYLE_CONTROLLER,
            bind_ip=card,
        )
        with contextlib.suppress(OSError):
            self._cards[card].artnet.sendto(artnet.encode_poll_reply(reply), (source, artnet.PORT))

    def _look(self, now_s: float) -> None:
        if now_s >= self._poll_due:
            self._poll_due = now_s + artnet.POLL_INTERVAL_S
            for card in self._cards.values():
                with contextlib.suppress(OSError):
                    card.artnet.sendto(artnet.encode_poll(), (card.broadcast, artnet.PORT))
        if now_s < self._look_due:
            return
        self._look_due = now_s + LOOK_S
        with self._lock:
            self.intake.look(now_s)
            news = self.intake.news(now_s)
        self._follow()
        for sentence in news:
            self._log.info(sentence, event_for_people=True)


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's receiver")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    log = start_log("receiver", data / "log")
    drop_rights(data)
    receiver = Receiver(log, Heartbeat(data, "receiver"))
    receiver.intake.incoming = IncomingWriter(fast_folder(data) / "incoming.frames")
    for address, broadcast, fd, broadcast_fd in orjson.loads(os.environ.get("HELIOGRAPH_CARDS_IN", "[]")):
        receiver.add_card(address, broadcast, fd, broadcast_fd)
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: receiver.stop())
    server = ControlServer(str(data / "run" / "receiver.sock"), ReceiverRequest, receiver.answer)
    server.start()
    receiver.run()
    server.close()


if __name__ == "__main__":
    main()
