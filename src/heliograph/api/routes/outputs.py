"""Outputs: runs of universes by Art-Net or sACN."""

from __future__ import annotations

import socket
from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import PORT_ADDRESS_MAX, UNIVERSE_MAX, PortAddress
from heliograph.core.patch.wire import first_same
from heliograph.edits.deleting import delete
from heliograph.network.cards import Card
from heliograph.network.resolve import resolve
from heliograph.store import rows

router = APIRouter(prefix="/api", tags=["outputs"])

_LABELS: dict[tuple[str, object], str] = {
    ("on", True): "Switched an output on",
    ("on", False): "Switched an output off",
    ("mute", True): "Muted an output",
    ("mute", False): "Let a muted output light again",
}

DESTINATIONS_MAX = 16
"""Each destination is sent every universe: more of them would better be served by multicast."""

PLAIN_FIELDS = {"on", "name", "priority", "rate_hz", "mute", "when_ends"}
"""Fields that touch no other: changing one asks neither the name server nor the network cards."""


@router.get("/cards")
def list_cards(context: ContextOf) -> list[schemas.CardView]:
    """The network cards there are at this moment."""
    return [schemas.CardView(**card.as_json()) for card in context.cards()]


@router.post("/outputs", status_code=201)
def add_output(body: schemas.NewOutput, context: ContextOf, author: AuthorOf) -> schemas.Done:
    columns = _complete(context, body.model_dump(exclude={"id"}))
    with editing(context, author, f"Added output {body.name}") as work:
        show = str(work.show.id)
        _check_twice(columns, rows.all_of("output", show), "")
        work.insert("output", [(str(body.id), {**columns, "place": rows.next_place("output", show)})])
        return schemas.Done(revision=work.revision)


@router.patch("/outputs/{output_id}")
def change_output(output_id: str, body: schemas.OutputPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    given = only_given(body.model_dump())
    label = _LABELS.get(next(iter(given.items())), "Changed an output") if len(given) == 1 else "Changed an output"
    with editing(context, author, label) as work:
        now = rows.record_of(work.get("output", output_id))
        wanted = {**{k: v for k, v in now.items() if k not in ("id", "rev", "place")}, **given}
        if given.get("protocol", now["protocol"]) != now["protocol"]:
            wanted["sync"] = given.get("sync", 0)  # the numbers of one protocol mean nothing in the other
        if set(given) - PLAIN_FIELDS:
            wanted = _complete(context, wanted)
        _check_twice(wanted, rows.all_of("output", str(work.show.id)), output_id)
        work.update("output", output_id, wanted, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/outputs/{output_id}")
def delete_output(output_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted an output") as work:
        delete(work, "output", [output_id])
        return schemas.Done(revision=work.revision)


def _complete(context: Context, output: dict[str, Any]) -> dict[str, Any]:
    """Checks what depends on other fields; resolves the destinations, chooses a card where none is given."""
    _check_numbers(output)
    _check_sync(output)
    cards = context.cards()
    address = ""
    if output["mode"] == "unicast":
        address = ", ".join(_resolved(output["destination"]))
    card = _card(cards, output["card"], address.split(", ")[0])
    if output["mode"] == "broadcast":
        address = card.broadcast
    return {**output, "card": card.address, "card_broadcast": card.broadcast, "address": address}


def _resolved(typed: str) -> list[str]:
    """The addresses of destinations separated by commas, each once."""
    parts = [part.strip() for part in typed.split(",")]
    if len(parts) > DESTINATIONS_MAX:
        raise InputError(
            f"These are {len(parts)} destinations: an output sends to {DESTINATIONS_MAX} at most.",
            where="destination",
            repair="Use another output for the others, broadcast, or multicast by sACN.",
        )
    addresses = [resolve(part) for part in parts]
    twice = next((one for one in addresses if addresses.count(one) > 1), None)
    if twice is not None:
        raise InputError(f"{twice} is among the destinations twice.", where="destination", repair="Leave one of them.")
    return addresses


def _check_sync(output: dict[str, Any]) -> None:
    if output["protocol"] == "artnet" and output["sync"] > 1:
        raise InputError(
            "ArtSync has no number.", where="sync", repair="0 sends none, 1 sends an ArtSync after every frame."
        )
    first = output["first_number"]
    if output["protocol"] == "sacn" and first <= output["sync"] < first + output["count"]:
        raise InputError(
            f"sACN {output['sync']} carries values of this output.",
            where="sync",
            repair="Choose a universe for the synchronisation that carries nothing else.",
        )


def _check_numbers(output: dict[str, Any]) -> None:
    last = output["first_number"] + output["count"] - 1
    if output["first_universe"] + output["count"] - 1 > UNIVERSE_MAX:
        raise InputError(
            f"The run would end at universe {output['first_universe'] + output['count'] - 1}: "
            f"{UNIVERSE_MAX} is the last.",
            where="count",
        )
    if output["protocol"] == "artnet":
        if output["mode"] == "multicast":
            raise InputError(
                "Art-Net has no multicast.", where="mode", repair="Choose unicast or broadcast, or send by sACN."
            )
        PortAddress(output["first_number"])
        if last > PORT_ADDRESS_MAX:
            raise InputError(
                f"The run would end at Port-Address {last}: {PORT_ADDRESS_MAX} is the last.", where="count"
            )
        return
    if output["mode"] == "broadcast":
        raise InputError(
            "sACN has no broadcast.", where="mode", repair="Choose multicast or unicast, or send by Art-Net."
        )
    if output["first_number"] < 1 or last > UNIVERSE_MAX:
        raise InputError(
            f"sACN universes {output['first_number']} to {last} are outside 1 to {UNIVERSE_MAX}.",
            where="first_number",
            repair="sACN counts from 1.",
        )


def _card(cards: list[Card], wanted: str, address: str) -> Card:
    """The card that is named by its address or name, or the one that suits best where none is."""
    there = ", ".join(f"{card.name} {card.address}" for card in cards)
    for card in cards:
        if wanted and wanted in (card.address, card.name):
            return card
    if wanted or not cards:
        raise InputError(f"There is no network card '{wanted}'.", where="card", repair=f"There are: {there}.")
    if not address:
        return next((card for card in cards if card.name != "lo"), cards[0])
    route = _route_to(address)
    suits = [card for card in cards if card.address == route] + [card for card in cards if card.reaches(address)]
    return (suits or cards)[0]


def _route_to(address: str) -> str:
    """The own address from which the system would reach `address`; nothing is sent."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect((address, 9))
        except OSError:
            return "127.0.0.1"
        return str(probe.getsockname()[0])


def _check_twice(output: dict[str, Any], others: list[dict[str, Any]], own: str) -> None:
    """One protocol number to one destination has one sequence, so it may be sent once only."""
    for other in others:
        same = None if other["id"] == own else first_same(output, other)
        if same is not None:
            raise InputError(
                f"Output '{other['name']}' already sends {same}.",
                where="first_number",
                repair="Change one of the two runs, or delete the other output.",
            )
