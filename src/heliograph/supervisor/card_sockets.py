"""Art-Net sockets of every network card, opened once and inherited by engine (sending) and receiver (reading).

So nodes see port 6454 on both sides, and input never touches the engine's interpreter lock.
"""

from __future__ import annotations

import contextlib
import json
import socket
from dataclasses import dataclass
from typing import Any

from heliograph.core.errors import HeliographError
from heliograph.engine.sender import open_send_socket
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages import engine as to_engine
from heliograph.ipc.messages import receiver as to_receiver
from heliograph.network.cards import Card, list_cards
from heliograph.wire import artnet

RECEIVE_BUFFER = 4 * 1024 * 1024


@dataclass(slots=True)
class OpenCard:
    card: Card
    fd: int
    broadcast_fd: int


class CardSockets:
    def __init__(self, only: tuple[str, ...], log: Any) -> None:
        self._only, self._log = only, log
        self.open: dict[str, OpenCard] = {}
        self._refused: set[str] = set()

    def look(self) -> list[OpenCard]:
        """Opens sockets of cards that are new and returns them; a card that is gone keeps its sockets."""
        new = []
        for card in list_cards(self._only):
            if card.address in self.open or not card.up:
                continue
            try:
                opened = _open(card)
            except OSError as error:
                if card.address not in self._refused:
                    self._refused.add(card.address)
                    self._log.warning(f"Art-Net cannot be used on {card.name} {card.address}: {error.strerror}")
                continue
            self.open[card.address] = opened
            new.append(opened)
        return new

    def for_engine(self) -> tuple[str, tuple[int, ...]]:
        """HELIOGRAPH_CARDS and the descriptors to pass."""
        cards = {address: one.fd for address, one in self.open.items()}
        return json.dumps(cards), tuple(cards.values())

    def for_receiver(self) -> tuple[str, tuple[int, ...]]:
        rows = [[a, one.card.broadcast, one.fd, one.broadcast_fd] for a, one in self.open.items()]
        return json.dumps(rows), tuple(fd for one in self.open.values() for fd in (one.fd, one.broadcast_fd))

    def hand_on(self, new: list[OpenCard], engine: ControlClient, receiver: ControlClient) -> None:
        """Gives sockets of a card that appeared to the running processes."""
        for one in new:
            self._log.info(f"network card {one.card.name} {one.card.address} found", event_for_people=True)
            with contextlib.suppress(HeliographError):
                engine.ask(to_engine.OfferCard(address=one.card.address), [one.fd])
            with contextlib.suppress(HeliographError):
                receiver.ask(
                    to_receiver.OfferCard(address=one.card.address, broadcast=one.card.broadcast),
                    [one.fd, one.broadcast_fd],
                )


def _open(card: Card) -> OpenCard:
    fd = open_send_socket("artnet", card.address)
    try:
        with socket.socket(fileno=socket.dup(fd)) as own:
            own.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, RECEIVE_BUFFER)
        heard = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        heard.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        heard.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
        heard.bind((card.broadcast, artnet.PORT))
    except OSError:
        socket.close(fd)
        raise
    return OpenCard(card, fd, heard.detach())
