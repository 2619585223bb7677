"""Selecting by typing: `401-414`, `405:2-7`, `405:0`, `401-414 every 2nd`, `Tower & odd`, `all - 405`, `Bars : red`.

Parts are joined by commas. `every 2nd` takes every second of what stands before it (of all where nothing does),
`every 2nd from 2` every second from the second; `&` keeps what both sides have, ` - ` takes away; `: red` is about one
emitter of all. Names of groups, of profiles and of kinds (`all strips`) stand for their fixtures.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey
from heliograph.core.profiles.attributes import EMITTERS

KINDS = ("lamp", "strip", "bar", "head", "laser", "other")

_NUMBERS = re.compile(r"^(?:all|(\d+)(?:-(\d+))?)(?::(\d+)(?:-(\d+))?)?$")
_NAMED = re.compile(r"^(.*?)(?::(\d+)(?:-(\d+))?)?$")
_EVERY = re.compile(r"^(.*?)\s*\bevery\s+(\d+)(?:st|nd|rd|th)?(?:\s+from\s+(\d+))?$", re.IGNORECASE)
_EMITTER = re.compile(r"^(.*\S)\s*:\s*([A-Za-z][A-Za-z ]*)$")
_OPERATOR = re.compile(r"(\s*&\s*|\s+-\s+)")
_DEPTH = 8
"""How deeply groups by rule may name each other."""

Atom = tuple[str, int]
"""A fixture's id and a cell's number; 0 is its shared part."""


@dataclass(frozen=True, slots=True)
class Selectable:
    """A fixture as far as selecting goes."""

    id: str
    number: int
    cells: int
    kind: str = "other"
    profile: str = ""
    emitters: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class NamedGroup:
    """A group by its name: by `rule`, or by hand its fixtures, or some cells ("<id>:<cell>", 0 the shared part)."""

    name: str
    fixtures: tuple[str, ...] = ()
    cells: tuple[str, ...] = ()
    emitter: str = ""
    rule: str = ""


@dataclass(frozen=True, slots=True)
class Selection:
    """What was typed: fixtures in order, their cells and shared parts in order, and the emitter it is about.

    `parts`: "<id>:<cell>" of fixtures that are not chosen whole; empty where all are.
    """

    fixtures: tuple[Selectable, ...]
    atoms: tuple[Atom, ...] = ()
    emitter: str = ""
    parts: tuple[str, ...] = ()

    @property
    def cells(self) -> tuple[CellKey, ...]:
        """The cells in order; none for `405:0`."""
        return tuple(CellKey(name, str(cell)) for name, cell in self.atoms if cell)

    @property
    def cell_count(self) -> int:
        return sum(cell > 0 for _, cell in self.atoms)


@dataclass(slots=True)
class _Chosen:
    atoms: dict[Atom, None]
    by_cells: bool = False
    emitter: str = ""


def select(fixtures: Iterable[Selectable], text: str, groups: Sequence[NamedGroup] = ()) -> Selection:
    """Reads a typed selection; raises InputError that names the part which cannot be read."""
    reader = _Reader(fixtures, groups)
    return reader.selection(reader.union(text, _DEPTH))


class _Reader:
    def __init__(self, fixtures: Iterable[Selectable], groups: Sequence[NamedGroup]) -> None:
        self._by_number = {one.number: one for one in sorted(fixtures, key=lambda one: one.number)}
        self._by_id = {one.id: one for one in self._by_number.values()}
        self._groups = {group.name.lower(): group for group in groups}

    def selection(self, chosen: _Chosen) -> Selection:
        fixtures = {name: self._by_id[name] for name in dict.fromkeys(name for name, _ in chosen.atoms)}
        parts: tuple[str, ...] = ()
        if len(chosen.atoms) < sum(one.cells + 1 for one in fixtures.values()):
            parts = tuple(f"{name}:{cell}" for name, cell in chosen.atoms)
        return Selection(tuple(fixtures.values()), tuple(chosen.atoms), chosen.emitter, parts)

    def union(self, text: str, depth: int) -> _Chosen:
        found = _Chosen({})
        emitters = set()
        for part in (p.strip() for p in text.split(",")):
            if part:
                one = self._part(part, depth)
                found.atoms.update(one.atoms)
                found.by_cells = found.by_cells or one.by_cells
                emitters.add(one.emitter)
        if len(emitters) > 1:
            raise InputError(f"'{text}' is about several emitters at once.", where="selection", repair="Name one.")
        found.emitter = emitters.pop() if emitters else ""
        return found

    def _part(self, part: str, depth: int) -> _Chosen:
        if part.lower() in self._groups:
            return self._group(part, depth)
        match = _EMITTER.match(part)
        if match is not None:
            word = match[2].strip()
            if word not in EMITTERS.values():
                raise InputError(
                    f"There is no emitter '{word}'.", where="selection", repair="Write red, green, blue, white ..."
                )
            chosen = self._part(match[1], depth)
            has = {one.id for one in self._by_id.values() if word in one.emitters}
            return _Chosen({atom: None for atom in chosen.atoms if atom[0] in has}, chosen.by_cells, word)
        factors = _OPERATOR.split(part)
        chosen = self._factor(factors[0].strip(), depth)
        for operator, text in zip(factors[1::2], factors[2::2], strict=True):
            keep = operator.strip() == "&"
            other = self._odd_or_even(text.strip(), chosen) or self._factor(text.strip(), depth)
            by_cells = chosen.by_cells or other.by_cells
            chosen = _Chosen({a: None for a in chosen.atoms if (a in other.atoms) == keep}, by_cells, chosen.emitter)
        return chosen

    def _odd_or_even(self, word: str, chosen: _Chosen) -> _Chosen | None:
        """Odd fixtures, or odd cells of cells that were named."""
        if word.lower() not in ("odd", "even"):
            return None
        odd = int(word.lower() == "odd")
        number = {name: one.number for name, one in self._by_id.items()}
        kept = [a for a in chosen.atoms if (a[1] if chosen.by_cells else number[a[0]]) % 2 == odd]
        return _Chosen(dict.fromkeys(kept))

    def _factor(self, text: str, depth: int) -> _Chosen:
        if text.lower() in self._groups:
            return self._group(text, depth)
        every = _EVERY.match(text)
        if every is None:
            return self._named(text, depth)
        if every[2] == "0" or every[3] == "0":
            raise InputError(
                f"'{text}': every 0th is nothing, and counting begins at 1.",
                where="selection",
                repair="Write every 2nd, or every 2nd from 2.",
            )
        chosen = self._named(every[1].strip() or "all", depth)
        step, first = int(every[2]), int(every[3] or 1) - 1
        if chosen.by_cells:
            return _Chosen(dict.fromkeys(list(chosen.atoms)[first::step]), True, chosen.emitter)
        names = set(list(dict.fromkeys(name for name, _ in chosen.atoms))[first::step])
        return _Chosen({atom: None for atom in chosen.atoms if atom[0] in names}, False, chosen.emitter)

    def _named(self, text: str, depth: int) -> _Chosen:
        numbers = _NUMBERS.match(text)
        if numbers is not None:
            return self._cells(self._numbered(numbers, text), numbers[3], numbers[4])
        if text.lower() in ("odd", "even"):
            everything = self._whole(self._by_number.values())
            return self._odd_or_even(text, everything) or everything
        if text.lower() in self._groups:
            return self._group(text, depth)
        named = _NAMED.match(text)
        assert named is not None  # it matches anything
        name = named[1].strip().lower()
        if name in self._groups and named[2]:
            members = dict.fromkeys(key for key, _ in self._group(name, depth).atoms)
            return self._cells([self._by_id[key] for key in members], named[2], named[3])
        name = name.removeprefix("all ")
        found = [one for one in self._by_number.values() if name in (f"{one.kind}s", one.profile.lower())]
        if not found:
            if name.removesuffix("s") in KINDS:
                return _Chosen({})
            raise InputError(
                f"'{text}' is not a selection.",
                where="selection",
                repair="Write 401-414, 405:2-7, 401-414 every 2nd, the name of a group, all strips, or all.",
            )
        return self._cells(found, named[2], named[3])

    def _numbered(self, match: re.Match[str], text: str) -> list[Selectable]:
        if match[1] is None:
            return list(self._by_number.values())
        first = int(match[1])
        last = int(match[2] or first)
        chosen = [one for n, one in self._by_number.items() if min(first, last) <= n <= max(first, last)]
        if not chosen:
            raise InputError(f"There is no fixture {text}.", where="selection")
        return chosen if first <= last else chosen[::-1]

    def _group(self, name: str, depth: int) -> _Chosen:
        return self.members(self._groups[name.lower()], depth)

    def members(self, group: NamedGroup, depth: int = _DEPTH) -> _Chosen:
        """Who is in a group."""
        if group.rule:
            if depth <= 0:
                raise InputError(
                    f"The rules of groups name each other in a circle, '{group.name}' among them.", where="selection"
                )
            return self.union(group.rule, depth - 1)
        if group.cells:
            atoms = [(key, int(cell)) for key, _, cell in (one.partition(":") for one in group.cells)]
            known = {key: one.cells for key, one in self._by_id.items()}
            return _Chosen(dict.fromkeys(a for a in atoms if a[1] <= known.get(a[0], -1)), True, group.emitter)
        whole = self._whole(self._by_id[key] for key in group.fixtures if key in self._by_id)
        whole.emitter = group.emitter
        return whole

    def _cells(self, fixtures: Sequence[Selectable], first: str | None, last: str | None) -> _Chosen:
        if first is None:
            return self._whole(fixtures)
        return _Chosen(
            {(one.id, cell): None for one in fixtures for cell in _cell_run(one, int(first), int(last or first))}, True
        )

    def _whole(self, fixtures: Iterable[Selectable]) -> _Chosen:
        return _Chosen({(one.id, cell): None for one in fixtures for cell in range(one.cells + 1)})


def _cell_run(fixture: Selectable, first: int, last: int) -> range:
    if first == last == 0:
        return range(1)
    if not 1 <= min(first, last) <= max(first, last) <= max(fixture.cells, 1):
        raise InputError(
            f"Fixture {fixture.number} has cells 1 to {fixture.cells}, not {max(first, last)}.", where="selection"
        )
    step = 1 if first <= last else -1
    return range(first, last + step, step) if fixture.cells else range(0)


def all_members(fixtures: Iterable[Selectable], groups: Sequence[NamedGroup]) -> list[Selection]:
    """Who is in each group now; nobody where its rule cannot be read any more."""
    reader = _Reader(fixtures, groups)
    found = []
    for group in groups:
        try:
            found.append(reader.selection(reader.members(group)))
        except InputError:
            found.append(Selection(()))
    return found
