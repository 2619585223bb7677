"""Automatic addressing: new addresses for fixtures by a chosen scheme, all of them known before anything is done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import SLOTS, UNIVERSE_MAX, Address, address_at
from heliograph.core.patch.places import Occupancy, PlacedBlock, all_positions, count_on, place_mode
from heliograph.core.profiles.profile import Mode

Scheme = Literal["no split fixture", "no split pixel", "dense", "a universe each", "a universe a row", "node ports"]
SCHEMES: tuple[Scheme, ...] = get_args(Scheme)
Order = Literal["number", "address", "name", "plan", "strand"]

ROW_M = 0.05
"""Fixtures on a plan whose heights differ by less stand in one row, metres."""


@dataclass(frozen=True, slots=True)
class ToAddress:
    """A fixture to be addressed; `address` is where it lies now. `rank` is its turn in plan or strand order, `row` the
    row it stands in there.
    """

    id: str
    number: int
    name: str
    mode: Mode
    address: Address | None
    rank: int = 0
    row: int = 0


@dataclass(frozen=True, slots=True)
class Ports:
    """Ports of a node, by the universes they get, and how many fixtures hang on each (0: spread evenly)."""

    universes: tuple[int, ...]
    every: int = 0


@dataclass(frozen=True, slots=True)
class Move:
    """One fixture's old and new address, and the universes its new place covers."""

    fixture: ToAddress
    to: Address
    end: Address


def in_order(fixtures: Sequence[ToAddress], order: Order) -> list[ToAddress]:
    """By number, by name (numbers in it count as numbers), in the order of their present addresses, or by rank."""
    if order == "number":
        return sorted(fixtures, key=lambda one: one.number)
    if order == "name":
        return sorted(fixtures, key=lambda one: (_natural(one.name), one.number))
    if order in ("plan", "strand"):
        return sorted(fixtures, key=lambda one: (one.rank, one.number))
    last = UNIVERSE_MAX * SLOTS
    return sorted(fixtures, key=lambda one: (one.address.position if one.address else last, one.number))


def plan_ranks(places: Sequence[tuple[str, float, float]]) -> dict[str, tuple[int, int]]:
    """(rank, row) of fixtures at (id, x, y) in metres, y up: row by row from the top, each from the left."""
    ranks: dict[str, tuple[int, int]] = {}
    rows: list[list[tuple[str, float, float]]] = []
    for one in sorted(places, key=lambda place: -place[2]):
        if not rows or rows[-1][0][2] - one[2] > ROW_M:
            rows.append([])
        rows[-1].append(one)
    for row, members in enumerate(rows):
        for key, _, _ in sorted(members, key=lambda place: place[1]):
            ranks[key] = (len(ranks), row)
    return ranks


def plan_addresses(
    fixtures: Sequence[ToAddress], scheme: Scheme, start: Address, taken: Occupancy, ports: Ports | None = None
) -> list[Move]:
    """New addresses in the order given, counting on from `start` and stepping over what is `taken`.

    *No split fixture*: a fixture that would cross its universe begins the next. *Dense*: the same, but what may
    run on does; pixels split where their block says so. *No split pixel*: dense, and where pixels would be split and
    need not, the fixture begins the next universe. *A universe each*: every fixture begins a universe of its own.
    *A universe a row*: every row does. *Node ports*: so many fixtures on each port, which begin its universe.
    Raises InputError past the last universe, or where the ports are too few.
    """
    if scheme not in SCHEMES:
        raise InputError(f"There is no scheme '{scheme}'.", where="scheme", repair=f"Use {', '.join(SCHEMES)}.")
    if scheme == "node ports":
        return _on_ports(fixtures, ports or Ports(()), taken)
    moves: list[Move] = []
    position = start.position
    row = fixtures[0].row if fixtures else 0
    for fixture in fixtures:
        if scheme == "a universe a row" and fixture.row != row:
            row, position = fixture.row, _universe_after(position - 1) if moves else position
        first, last = _take_next(fixture.mode, scheme, position, taken)
        moves.append(Move(fixture, address_at(first), address_at(last)))
        position = last + 1
        if scheme == "a universe each":
            position = _universe_after(position - 1)
    return moves


def _on_ports(fixtures: Sequence[ToAddress], ports: Ports, taken: Occupancy) -> list[Move]:
    if not ports.universes:
        raise InputError(
            "No port is chosen.", where="ports", repair="Choose a node, or type the universes its ports get."
        )
    every = ports.every or -(-len(fixtures) // len(ports.universes))
    if every * len(ports.universes) < len(fixtures):
        raise InputError(
            f"{len(fixtures)} fixtures, {every} on a port, need {-(-len(fixtures) // every)} ports: "
            f"there are {len(ports.universes)}.",
            where="ports",
            repair="Hang more on each port, or choose more ports.",
        )
    moves: list[Move] = []
    for n, universe in enumerate(ports.universes):
        hung = fixtures[n * every : (n + 1) * every]
        position = Address(universe, 1).position
        for fixture in hung:
            first, last = _take_next(fixture.mode, "no split fixture", position, taken)
            if last // SLOTS + 1 != universe:
                raise InputError(
                    f"The {len(hung)} fixtures of port {n + 1} do not fit into U{universe}: "
                    f"{fixture.number} {fixture.name} would end in U{last // SLOTS + 1}.",
                    where="ports",
                    repair="Hang fewer on each port, or free the universe first.",
                )
            moves.append(Move(fixture, address_at(first), address_at(last)))
            position = last + 1
    return moves


def _take_next(mode: Mode, scheme: Scheme, position: int, taken: Occupancy) -> tuple[int, int]:
    """Takes the next place of a mode; its first and last position. What lies in one piece in a free place, as
    nearly everything does, is taken without laying out its channels: 2,000 fixtures took 0.4 s, so 0.05."""
    whole = mode.footprint
    if not mode.runs_on and position % SLOTS + whole <= SLOTS and taken.take_run(position, position + whole):
        return position, position + whole - 1
    positions = all_positions(_next(mode, scheme, position, taken))
    taken.take(positions)
    return int(positions[0]), int(positions.max())


def _next(mode: Mode, scheme: Scheme, position: int, taken: Occupancy) -> tuple[PlacedBlock, ...]:
    """Where the mode comes to lie from `position` on."""
    placed = _place(mode, scheme, position)
    positions = all_positions(placed)
    while not taken.is_free(positions):
        after = int(positions[taken.among(positions)][-1]) + 1
        placed = _place(mode, scheme, _universe_after(after - 1) if scheme == "a universe each" else after)
        positions = all_positions(placed)
    return placed


def _place(mode: Mode, scheme: Scheme, position: int) -> tuple[PlacedBlock, ...]:
    whole = scheme in ("no split fixture", "a universe a row") and mode.footprint <= SLOTS
    if whole and position % SLOTS + mode.footprint > SLOTS:
        position = _universe_after(position)
    if position >= UNIVERSE_MAX * SLOTS:
        raise InputError(f"The addresses would end past universe {UNIVERSE_MAX}, the last there is.", where="start")
    if whole:
        return place_mode(mode, address_at(position))
    placed = count_on(mode, position)
    if scheme == "no split pixel" and _splits_a_cell(placed) and _universe_after(position) < UNIVERSE_MAX * SLOTS:
        later = count_on(mode, _universe_after(position))
        return placed if _splits_a_cell(later) else later
    return placed


def _splits_a_cell(placed: Sequence[PlacedBlock]) -> bool:
    return any(bool((one.cells[:, 0] // SLOTS != one.cells[:, -1] // SLOTS).any()) for one in placed if one.cells.size)


def _universe_after(position: int) -> int:
    return (position // SLOTS + 1) * SLOTS


def _natural(name: str) -> tuple[tuple[int, str], ...]:
    """ "Tower 2" before "Tower 10"."""
    parts: list[tuple[int, str]] = []
    digits = ""
    for letter in f"{name.lower()} ":
        if letter.isdigit():
            digits += letter
            continue
        if digits:
            parts.append((int(digits), ""))
            digits = ""
        parts.append((-1, letter))
    return tuple(parts)
