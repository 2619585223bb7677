"""Where the blocks of one fixture lie: following on, at an address of their own, or off."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from heliograph.core.dmx import Address, parse_address
from heliograph.core.errors import InputError
from heliograph.core.profile import BlockState, Mode


@dataclass(frozen=True, slots=True)
class BlockPlace:
    """`address` counts only for one that has its *own*; None there is a block without an address."""

    state: BlockState = "follows"
    address: Address | None = None


Places = tuple[BlockPlace, ...]


def places_of(mode: Mode, stored: Sequence[Mapping[str, Any]]) -> Places:
    """A place for every block of the mode: what the fixture says, else what its mode says.

    The first block lies at the fixture's address, or is off.
    """
    places = []
    for index, block in enumerate(mode.blocks):
        place = place_from_json(stored[index]) if index < len(stored) else BlockPlace(block.state)
        if index == 0 and place.state == "own":
            place = BlockPlace()
        places.append(place)
    return tuple(places)


def places_after(old: Mode | None, new: Mode, stored: Sequence[Mapping[str, Any]]) -> Places:
    """Where the blocks lie once a fixture's mode is another: a block keeps its place by its name, one that was only
    renamed by its position; all others lie as the new mode has them."""
    usual = places_of(new, ())
    if old is None or not stored:
        return usual
    names, kept = [block.name for block in old.blocks], {block.name for block in new.blocks}
    before = places_of(old, stored)
    places = []
    for index, block in enumerate(new.blocks):
        renamed = index < len(names) and names[index] not in kept
        source = names.index(block.name) if block.name in names else index if renamed else None
        place = usual[index] if source is None else before[source]
        places.append(BlockPlace() if index == 0 and place.state == "own" else place)
    return tuple(places) if any(place.state != "off" for place in places) else usual


def check_places(mode: Mode, places: Places) -> None:
    """Raises InputError where all blocks are off."""
    if all(place.state == "off" for place in places):
        names = ", ".join(block.name for block in mode.blocks)
        raise InputError(f"All blocks would be off ({names}).", where="state", repair="At least one stays on.")


def place_from_json(data: Mapping[str, Any]) -> BlockPlace:
    address = Address(data["universe"], data["channel"]) if data.get("universe") else None
    return BlockPlace(data.get("state") or "follows", address)


def place_to_json(place: BlockPlace) -> dict[str, Any]:
    at = place.address
    return {"state": place.state, "universe": at.universe if at else None, "channel": at.channel if at else None}


def runs_of(mode: Mode, places: Places) -> list[tuple[int, ...]]:
    """Indexes of the blocks that lie one after another, a list for each address; those that are off are left out.

    The first run, which may be empty, lies at the fixture's address.
    """
    runs: list[list[int]] = [[]]
    for index, place in enumerate(places[: len(mode.blocks)]):
        if place.state == "own":
            runs.append([])
        if place.state != "off":
            runs[-1].append(index)
    return [tuple(run) for run in runs]


def run_mode(mode: Mode, run: Sequence[int]) -> Mode:
    """The part of a mode that lies in one run."""
    return Mode(mode.name, tuple(mode.blocks[index] for index in run))


def stored_places(mode: Mode, places: Places) -> list[dict[str, Any]]:
    """As they are stored with a fixture: nothing where they are as the mode has them."""
    return [place_to_json(place) for place in places] if say_places(mode, places) else []


def say_places(mode: Mode, places: Places) -> str:
    """`Animation off; Ring U10.1`: what differs from the way the mode has its blocks; "" where nothing does."""
    said = []
    for block, place, usual in zip(mode.blocks, places, places_of(mode, ()), strict=True):
        if place.state == "own" and place.address is not None:
            said.append(f"{block.name} {place.address}")
        elif place.state != usual.state:
            said.append(f"{block.name} {'no address' if place.state == 'own' else place.state}")
    return "; ".join(said)


def read_places(mode: Mode, text: str) -> Places:
    """The inverse of `say_places`; raises InputError that names the part which cannot be read."""
    places = list(places_of(mode, ()))
    names = [block.name for block in mode.blocks]
    for part in (p.strip() for p in text.split(";")):
        if not part:
            continue
        index = next((n for n, name in enumerate(names) if part.lower().startswith(f"{name.lower()} ")), None)
        if index is None:
            raise InputError(
                f"'{part}' names no block of mode {mode.name}.",
                where="blocks",
                repair=f"It has: {', '.join(names)}. Write '{names[-1]} U10.1', '{names[-1]} follows' or 'off'.",
            )
        places[index] = read_place(part[len(names[index]) :], index)
    check_places(mode, tuple(places))
    return tuple(places)


def read_place(text: str, index: int) -> BlockPlace:
    """`off`, `follows`, `no address`, or an address; the first block (index 0) has none of its own."""
    word = text.strip().lower()
    if word in ("off", "follows"):
        return BlockPlace("off" if word == "off" else "follows")
    if index == 0:
        raise InputError("The first block lies at the fixture's address, or is off.", where="blocks")
    return BlockPlace("own", None if word == "no address" else parse_address(text))
