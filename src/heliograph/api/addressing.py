"""Automatic addressing of a show: which fixtures move, in which order, around what keeps its place."""

from __future__ import annotations

from dataclasses import replace

from heliograph.api import schemas
from heliograph.api.choosing import named_groups, selectables
from heliograph.api.views import Modes, placed_fixture
from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import unpack, within
from heliograph.core.matrix.weaving import Weave, squares_of
from heliograph.core.patch.addressing import Move, Ports, ToAddress, in_order, plan_addresses, plan_ranks
from heliograph.core.patch.blocks import places_of, run_mode, runs_of
from heliograph.core.patch.dmx import Address, parse_address
from heliograph.core.patch.places import Occupancy, all_positions
from heliograph.core.rig.selection import select
from heliograph.store.rows import Record

Tables = dict[str, list[Record]]
Ranks = dict[str, tuple[int, int]]

NAMED = 5
"""Fixtures named in a sentence before it says how many more."""


def moves_of(body: schemas.Addressing, tables: Tables) -> list[Move]:
    """Old and new address of every chosen fixture; raises InputError where it cannot be done."""
    wanted, taken = _chosen(body.selection, tables)
    if body.order in ("plan", "strand") or body.scheme == "a universe a row":
        ranks = _ranks(body, tables)
        _check_ranked(wanted, ranks, "the matrix" if body.order == "strand" else "the plan")
        wanted = [replace(one, rank=ranks[one.id][0], row=ranks[one.id][1]) for one in wanted]
    if body.scheme == "a universe a row":
        ordered = sorted(in_order(wanted, body.order), key=lambda one: one.row)
    else:
        ordered = in_order(wanted, body.order)
    ports = Ports(tuple(body.ports.universes), body.ports.every) if body.ports else None
    return plan_addresses(ordered, body.scheme, parse_address(body.start), taken, ports)


def _chosen(selection: str, tables: Tables) -> tuple[list[ToAddress], Occupancy]:
    profiles, fixtures = tables["profile"], tables["fixture"]
    modes = Modes(profiles)
    found = select(selectables(profiles, fixtures), selection, named_groups(tables["group"]))
    chosen = {one.id for one in found.fixtures}
    taken = Occupancy()
    wanted = []
    for fixture in fixtures:
        mode = modes.of(fixture)
        if mode is None:
            continue
        address = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
        placed = placed_fixture(mode, fixture)
        if fixture["id"] not in chosen:
            taken.take(all_positions(placed))
            continue
        runs = runs_of(mode, places_of(mode, fixture["blocks"]))
        moving = set(runs[0])
        # Blocks with an address of their own stay where they are: only what lies at the fixture's address moves.
        taken.take(all_positions(one for n, one in enumerate(placed) if n not in moving))
        if moving:
            part = run_mode(mode, runs[0])
            wanted.append(ToAddress(fixture["id"], fixture["number"], fixture["name"], part, address))
    if not wanted:
        raise InputError("There is no fixture to address.", where="selection", repair="Type 101-118, or all.")
    return wanted, taken


def _ranks(body: schemas.Addressing, tables: Tables) -> Ranks:
    if body.order == "strand":
        return _walked(body.walk, tables["matrix"])
    plans = [one for one in tables["plan"] if body.plan is None or one["id"] == str(body.plan)]
    if not plans:
        raise InputError("There is no such plan.", where="plan", repair="Place the fixtures on one at the Rig first.")
    items = [one for one in plans[0]["items"] if one["kind"] == "fixture"]
    return plan_ranks([(str(one["id"]), float(one["x"]), float(one["y"])) for one in items])


def _walked(walk: schemas.Walk | None, matrices: list[Record]) -> Ranks:
    """The turn of each fixture is that of its first square along the way; its row the line this lies in."""
    matrix = next((one for one in matrices if walk and one["id"] == str(walk.matrix)), None)
    if walk is None or matrix is None:
        raise InputError("There is no such matrix.", where="walk", repair="Choose the matrix whose strand counts.")
    way = squares_of(Weave(matrix["width"], matrix["height"], walk.corner, walk.along, walk.snake))
    turn = {square: n for n, square in enumerate(way)}
    length = matrix["width"] if walk.along == "rows" else matrix["height"]
    ranks: Ranks = {}
    for one in unpack(within(matrix["placements"], matrix["width"], matrix["height"])):
        n = turn[one.square]
        if one.key.fixture not in ranks or n < ranks[one.key.fixture][0]:
            ranks[one.key.fixture] = (n, n // length)
    return ranks


def _check_ranked(wanted: list[ToAddress], ranks: Ranks, where: str) -> None:
    missing = [one.number for one in wanted if one.id not in ranks]
    if missing:
        more = f" and {len(missing) - NAMED} more" if len(missing) > NAMED else ""
        named = ", ".join(map(str, missing[:NAMED]))
        raise InputError(
            f"{named}{more} {'is' if len(missing) == 1 else 'are'} not on {where}.",
            where="order",
            repair="Place them there, choose fewer fixtures, or order by number.",
        )
