"""From what a person marked on a walk to what is wrong, with the repairs that would put it right."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from heliograph.core.patch.dmx import SLOTS, address_at
from heliograph.core.patch.places import channel_positions
from heliograph.core.profiles.attributes import EMITTERS, word_of
from heliograph.core.profiles.profile import Mode
from heliograph.core.profiles.seen_colours import modes_that_explain, orders_that_explain
from heliograph.core.rig.arrays import Rig, RigFixture

MarkKind = Literal["good", "dark", "wrong place", "wrong colour"]
RepairKind = Literal["number", "addresses", "squares", "reverse", "mode", "order", "forget"]


@dataclass(frozen=True, slots=True)
class Mark:
    """`cell` 0: the whole fixture. `seen`: for a wrong place {"fixture", "cell"} of the lamp that lit instead, for a
    wrong colour {emitter lit: [emitters seen]}."""

    id: str
    fixture: str
    cell: int
    kind: MarkKind
    seen: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class WalkRepair:
    """`change` is what the repair needs to know; it is done by the store's side."""

    kind: RepairKind
    label: str
    change: Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Finding:
    """`marks`: what it explains, which goes when it is repaired."""

    key: str
    kind: MarkKind
    sentence: str
    marks: tuple[str, ...]
    repairs: tuple[WalkRepair, ...]


def findings_of(
    rig: Rig, marks: Sequence[Mark], outputs: Sequence[Mapping[str, Any]], modes: Mapping[str, Sequence[Mode]]
) -> list[Finding]:
    """What is wrong, the widest cause first. `modes`: those of each fixture's profile, by the fixture's id."""
    known = [one for one in marks if one.fixture in rig.fixtures]
    moved = [one for one in known if one.kind == "wrong place" and one.seen.get("fixture") in rig.fixtures]
    dark = [one for one in known if one.kind == "dark"]
    found: list[Finding] = []
    told: set[str] = set()
    for finding in (*_numbers(rig, moved, dark, outputs), *_places(rig, moved, told)):
        if not told.issuperset(finding.marks):
            told.update(finding.marks)
            found.append(finding)
    lost = [one for one in known if one.kind == "wrong place" and one not in moved]
    found.extend(_lost(rig, one) for one in lost)
    found.extend(_colours(rig, [one for one in known if one.kind == "wrong colour"], modes))
    found.extend(_dark(rig, [one for one in dark if one.id not in told]))
    return found


def _numbers(
    rig: Rig, moved: Sequence[Mark], dark: Sequence[Mark], outputs: Sequence[Mapping[str, Any]]
) -> Iterator[Finding]:
    """A whole output that is one or two universes off: at least two fixtures, and half of all that lit elsewhere,
    lit the same whole universes away. Everything that was seen of it is seen anew once it is put right."""
    for output in outputs:
        first, count = int(output["first_universe"]), int(output["count"])
        here = [one for one in moved if first <= _universe(rig, one.fixture, one.cell) < first + count]
        shift, often = Counter(_shift(rig, one) for one in here).most_common(1)[0] if here else (0, 0)
        alike = {one.fixture for one in here if _shift(rig, one) == shift}
        if shift % SLOTS or not 0 < abs(shift) <= 2 * SLOTS or len(alike) < 2 or 2 * often < len(here):
            continue
        by = shift // SLOTS
        number = int(output["first_number"]) - by
        if number < (1 if output["protocol"] == "sacn" else 0):
            continue
        beside = [one.id for one in dark if first <= _universe(rig, one.fixture, one.cell) < first + count]
        unheard = f"; {len(beside)} more stayed dark" if beside else ""
        named = "sACN universe" if output["protocol"] == "sacn" else "Port-Address"
        yield Finding(
            f"number {output['id']}",
            "wrong place",
            f"{output['name']} is off by {abs(by)}: {_many(rig, here)} lit in lamps that are patched "
            f"{'a universe' if abs(by) == 1 else f'{abs(by)} universes'} {'on' if by > 0 else 'before'}{unheard}.",
            (*(one.id for one in here), *beside),
            (
                WalkRepair(
                    "number",
                    f"Send from {named} {number} on",
                    {"output": output["id"], "first_number": number},
                ),
            ),
        )


def _places(rig: Rig, moved: Sequence[Mark], told: set[str]) -> Iterator[Finding]:
    for one in moved:
        if one.id in told:
            continue
        fixture, other = rig.fixtures[one.fixture], rig.fixtures[one.seen["fixture"]]
        at = int(one.seen.get("cell") or 0)
        written, seen = _written(fixture, one.cell), _written(other, at)
        if fixture is other and one.cell and at == fixture.mode.cell_count + 1 - one.cell:
            same = [m for m in moved if m.fixture == one.fixture and m.seen.get("fixture") == one.fixture]
            yield Finding(
                f"reverse {one.fixture}",
                "wrong place",
                f"{fixture.number} runs the other way round: {written} lit at {seen}.",
                tuple(m.id for m in same),
                (
                    WalkRepair("reverse", f"Turn {fixture.number} round on every matrix", {"fixture": one.fixture}),
                    _squares(one, at, written, seen),
                ),
            )
            continue
        back = [m for m in moved if m.fixture == other.id and m.seen.get("fixture") == fixture.id]
        repairs = [_squares(one, at, written, seen)]
        if fixture is not other and fixture.mode.footprint == other.mode.footprint:
            repairs.insert(
                0,
                WalkRepair(
                    "addresses",
                    f"Exchange the addresses of {fixture.number} and {other.number}",
                    {"a": fixture.id, "b": other.id},
                ),
            )
            same = [m for m in moved if m.fixture == fixture.id and m.seen.get("fixture") == other.id]
            said = f"{fixture.number} and {other.number} are exchanged" if back else f"{written} lit at {seen}"
            yield Finding(
                f"exchange {one.fixture} {other.id}",
                "wrong place",
                f"{said}.",
                tuple(dict.fromkeys(m.id for m in (*same, *back))),
                tuple(repairs),
            )
            continue
        yield Finding(f"place {one.id}", "wrong place", f"{written} lit at {seen}.", (one.id,), tuple(repairs))


def _squares(one: Mark, at: int, written: str, seen: str) -> WalkRepair:
    change = {"a": [one.fixture, one.cell], "b": [one.seen["fixture"], at]}
    return WalkRepair("squares", f"Exchange {written} and {seen} on every matrix", change)


def _lost(rig: Rig, one: Mark) -> Finding:
    written = _written(rig.fixtures[one.fixture], one.cell)
    return Finding(
        f"lost {one.id}",
        "wrong place",
        f"{written} is in the wrong place; nobody said where it lit.",
        (one.id,),
        (WalkRepair("forget", "Forget it", {}),),
    )


def _colours(rig: Rig, marks: Sequence[Mark], modes: Mapping[str, Sequence[Mode]]) -> Iterator[Finding]:
    alike: dict[tuple[int, str], list[Mark]] = {}
    for one in marks:
        mode = rig.fixtures[one.fixture].mode
        answers = repr(sorted((k, sorted(v)) for k, v in one.seen.items()))
        alike.setdefault((id(mode), answers), []).append(one)
    for same in alike.values():
        one = same[0]
        fixture = rig.fixtures[one.fixture]
        ids = list(dict.fromkeys(m.fixture for m in same))
        repairs: list[WalkRepair] = []
        for name in modes_that_explain(fixture.mode, modes.get(one.fixture, ()), one.seen, one.cell):
            repairs.append(WalkRepair("mode", f"It is set to {name}: patch it so", {"fixtures": ids, "mode": name}))
        for order in orders_that_explain(fixture.mode, one.seen, one.cell):
            said = ", ".join(word_of(name) for name in order)
            repairs.append(WalkRepair("order", f"Its order is {said}", {"fixtures": ids, "order": list(order)}))
        answers = "; ".join(
            f"{word_of(lit)} shows {' and '.join(word_of(name) for name in seen) or 'nothing'}"
            for lit, seen in sorted(one.seen.items(), key=lambda pair: list(EMITTERS).index(pair[0]))
        )
        none = "" if repairs or not one.seen else " No mode of its profile explains it."
        yield Finding(
            f"colour {one.id}",
            "wrong colour",
            f"{_many(rig, same)}: {answers or 'the colour is wrong'}.{none}",
            tuple(m.id for m in same),
            tuple(repairs) or (WalkRepair("forget", "Forget it", {}),),
        )


def _dark(rig: Rig, marks: Sequence[Mark]) -> Iterator[Finding]:
    by_fixture: dict[str, list[Mark]] = {}
    for one in marks:
        by_fixture.setdefault(one.fixture, []).append(one)
    for key, same in by_fixture.items():
        fixture = rig.fixtures[key]
        cells = sorted(one.cell for one in same)
        ids = tuple(one.id for one in same)
        mended = WalkRepair("forget", "It is mended", {})
        if 0 in cells or len(cells) >= fixture.mode.cell_count > 1:
            said = f"{fixture.number} {fixture.name} is dark as a whole: its power, its data line or its address."
        elif len(cells) > 1 and cells == list(range(cells[0], fixture.mode.cell_count + 1)):
            said = (
                f"{fixture.number} is dark from {_written(fixture, cells[0])} on: the data line ends there. Look at "
                f"{f'{_written(fixture, cells[0] - 1)} and ' if cells[0] > 1 else ''}{_written(fixture, cells[0])}."
            )
        else:
            said = f"{', '.join(_written(fixture, cell) for cell in cells)} {'is' if len(cells) == 1 else 'are'} dark."
        yield Finding(f"dark {key}", "dark", said, ids, (mended,))


def _shift(rig: Rig, one: Mark) -> int:
    """How many channels on the lamp is patched that lit."""
    there = _position(rig.fixtures[one.seen["fixture"]], int(one.seen.get("cell") or 0))
    here = _position(rig.fixtures[one.fixture], one.cell)
    return there - here if here >= 0 and there >= 0 else 0


def _universe(rig: Rig, fixture: str, cell: int) -> int:
    position = _position(rig.fixtures[fixture], cell)
    return address_at(position).universe if position >= 0 else 0


def _position(fixture: RigFixture, cell: int) -> int:
    if not fixture.placed:
        return -1
    if not cell:
        return int(channel_positions(fixture.placed)[0])
    for placed in fixture.placed:
        if cell <= placed.block.cell_count:
            return int(placed.cells[cell - 1][0]) if placed.cells.size else -1
        cell -= placed.block.cell_count
    return -1


def _written(fixture: RigFixture, cell: int) -> str:
    return f"{fixture.number}:{cell}" if cell else str(fixture.number)


def _many(rig: Rig, marks: Sequence[Mark]) -> str:
    written = [_written(rig.fixtures[one.fixture], one.cell) for one in marks]
    return ", ".join(written) if len(written) <= 4 else f"{', '.join(written[:3])} and {len(written) - 3} more"
