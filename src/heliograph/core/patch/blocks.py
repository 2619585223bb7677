"""Where the blocks of one fixture lie, each said in one field: `after Base`, `U10.1`, or empty for nowhere.

As it is stored: "after", an address, or "". As it is said, "after" names the block before it that lies somewhere;
the first of those lies at the fixture's address and is said to be `first`.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import Address, parse_address
from heliograph.core.profiles.profile import AFTER, Mode


@dataclass(frozen=True, slots=True)
class BlockPlace:
    """`follows`: after the block before it, or at the fixture's address. Else at `address`; None is nowhere."""

    follows: bool = True
    address: Address | None = None

    @property
    def lies(self) -> bool:
        return self.follows or self.address is not None

    @property
    def stored(self) -> str:
        return AFTER if self.follows else str(self.address or "")


FOLLOWS = BlockPlace()
NOWHERE = BlockPlace(False)

Places = tuple[BlockPlace, ...]


def lying_at(address: Address) -> BlockPlace:
    return BlockPlace(False, address)


def places_of(mode: Mode, stored: Sequence[str]) -> Places:
    """A place for every block of the mode: what the fixture says, else what its mode says.

    The first block lies at the fixture's address, or nowhere.
    """
    places = []
    for index, block in enumerate(mode.blocks):
        place = _place(stored[index]) if index < len(stored) else BlockPlace(block.follows)
        places.append(FOLLOWS if index == 0 and place.address else place)
    return tuple(places)


def _place(stored: str) -> BlockPlace:
    if stored == AFTER:
        return FOLLOWS
    return lying_at(parse_address(stored)) if stored else NOWHERE


def places_after(old: Mode | None, new: Mode, stored: Sequence[str]) -> Places:
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
        places.append(FOLLOWS if index == 0 and place.address else place)
    return tuple(places) if any(place.lies for place in places) else usual


def check_places(mode: Mode, places: Places) -> None:
    """Raises InputError where every block is nowhere."""
    if not any(place.lies for place in places):
        names = ", ".join(block.name for block in mode.blocks)
        raise InputError(
            f"Every block would be nowhere ({names}).", where="lies", repair="At least one lies somewhere."
        )


def runs_of(mode: Mode, places: Places) -> list[tuple[int, ...]]:
    """Indexes of the blocks that lie one after another, a list for each address; those that are nowhere are left out.

    The first run, which may be empty, lies at the fixture's address.
    """
    runs: list[list[int]] = [[]]
    for index, place in enumerate(places[: len(mode.blocks)]):
        if place.address is not None:
            runs.append([])
        if place.lies:
            runs[-1].append(index)
    return [tuple(run) for run in runs]


def run_mode(mode: Mode, run: Sequence[int]) -> Mode:
    """The part of a mode that lies in one run, one block after another."""
    return Mode(mode.name, tuple(replace(mode.blocks[index], follows=True) for index in run))


def stored_places(mode: Mode, places: Places) -> list[str]:
    """As they are stored with a fixture: nothing where they are as the mode has them."""
    return [place.stored for place in places] if places != places_of(mode, ()) else []


def block_before(places: Places, index: int) -> int | None:
    """The block that one lies after: the nearest before it that lies somewhere; None where there is none."""
    return next((n for n in reversed(range(index)) if places[n].lies), None)


def say_lies(mode: Mode, places: Places, index: int) -> str:
    """The one field of a block: `after Base`, `first` (at the fixture's address), `U10.1`, or "" for nowhere."""
    if not places[index].follows:
        return places[index].stored
    before = block_before(places, index)
    return "first" if before is None else f"{AFTER} {mode.blocks[before].name}"


def is_address(text: str) -> bool:
    """Whether the field of a block says an address, right or wrong, rather than `after ...`, `first` or nothing."""
    return bool(text.strip()) and text.split()[0].lower() not in (AFTER, "first")


def read_lies(mode: Mode, places: Places, index: int, text: str) -> BlockPlace:
    """The inverse of `say_lies`, for one block while the others lie as `places` say.

    Bare `after` will do. Raises InputError where another block stands between, or the first would have an address.
    """
    words = text.split(maxsplit=1)
    if not words:
        return NOWHERE
    if is_address(text):
        if index == 0:
            first = mode.blocks[0].name
            raise InputError(
                f"{first} is the first block: it lies at the fixture's address, or nowhere.",
                where="lies",
                repair=f"Give the fixture this address, or write 'without {first}'.",
            )
        return lying_at(parse_address(text))
    before = block_before(places, index)
    right = "first" if before is None else f"{AFTER} {mode.blocks[before].name}"
    named = words[1].lower() if len(words) > 1 else ""
    fits = {mode.blocks[n].name.lower() for n in (before, index - 1) if n is not None and n >= 0}
    if (words[0].lower() == "first" and before is not None) or (named and named not in fits):
        raise InputError(
            f"{mode.blocks[index].name} cannot lie '{text.strip()}'.", where="lies", repair=f"Write '{right}'."
        )
    return FOLLOWS


def say_places(mode: Mode, places: Places) -> str:
    """`without Halo; Ring at U10.1`: what differs from the way the mode has its blocks; "" where nothing does."""
    said = []
    for index, (block, place, usual) in enumerate(zip(mode.blocks, places, places_of(mode, ()), strict=True)):
        if place == usual:
            continue
        where = say_lies(mode, places, index)
        said.append(f"{block.name} {'at ' if place.address else ''}{where}" if where else f"without {block.name}")
    return "; ".join(said)


def read_places(mode: Mode, said: Iterable[str]) -> Places:
    """The inverse of `say_places`, of its parts; raises InputError that names the one which cannot be read."""
    parts = [_part(mode, one.strip()) for one in said if one.strip()]
    places = list(places_of(mode, ()))
    for index, text in parts:
        lies_after = bool(text) and not is_address(text)
        places[index] = FOLLOWS if lies_after else read_lies(mode, tuple(places), index, text)
    for index, text in parts:  # only now it is known what lies before each
        read_lies(mode, tuple(places), index, text)
    check_places(mode, tuple(places))
    return tuple(places)


def _part(mode: Mode, said: str) -> tuple[int, str]:
    """Which block a part is about, and its field."""
    names = [block.name for block in mode.blocks]
    word, _, rest = said.partition(" ")
    if word.lower() == "without":
        index = next((n for n, name in enumerate(names) if name.lower() == rest.strip().lower()), None)
        text = ""
    else:
        index = next((n for n, name in enumerate(names) if said.lower().startswith(f"{name.lower()} ")), None)
        text = said[len(names[index]) :].strip() if index is not None else ""
        if text.lower().startswith("at "):
            text = text[3:].strip()
    if index is None:
        raise InputError(
            f"'{said}' names no block of mode {mode.name}.",
            where="blocks",
            repair=f"It has: {', '.join(names)}. Write '{names[-1]} at U10.1' or 'without {names[-1]}'.",
        )
    if text.lower() in _OLDER:
        raise InputError(
            f"'{said}': where a block lies is one field now.", where="blocks", repair=f"Write {_newer(said)}."
        )
    return index, text


_OLDER = ("off", "follows", "no address", "own")


def newer_part(mode: Mode, said: str) -> str:
    """A part of an older patch sheet in today's writing; what is not of the older kind stays as it is."""
    for name in (block.name for block in mode.blocks):
        if said.lower().startswith(f"{name.lower()} "):
            rest = said[len(name) :].strip()
            return _newer(said) if rest.lower() in _OLDER else said
    return said


def _newer(said: str) -> str:
    """`Halo off` was, `without Halo` is."""
    for word in _OLDER:
        if said.lower().endswith(f" {word}"):
            name = said[: -len(word)].strip()
            return f"{name} {AFTER}" if word == "follows" else f"without {name}"
    return said
