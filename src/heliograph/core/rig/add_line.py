"""The typed line that adds fixtures: `18 x Fulmar Strip 50, from 101, Tower {n}, at U1.1`.

Parts after the first may stand in any order: `mode ...`, `from N`, `at ADDRESS` (or `unpatched`), for a block of the
mode `block NAME at ADDRESS` or `without NAME`, else the name. Said without commas it is read too (see `plain_line`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import Places, read_places
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.plain_line import names_of, singular, with_commas
from heliograph.core.rig.suggesting import FIRST, exact_mode, nearest

COUNT_MAX = 2000
"""Fixtures one line can add."""


@dataclass(frozen=True, slots=True)
class AddLine:
    """What the line says; None where it leaves a choice to the program. `address` is not parsed yet."""

    count: int
    profile: str
    mode: str
    first_number: int | None
    name: str
    address: str | None
    patched: bool
    blocks: tuple[str, ...] = ()

    def places(self, mode: Mode) -> Places:
        """Where the mode's blocks lie by the line; InputError where a block is not of the mode."""
        return read_places(mode, self.blocks)


def read_add_line(text: str, profiles: Sequence[dict[str, Any]]) -> AddLine:
    """Reads a line against the profiles there are ({name, maker, modes}); raises InputError with a sentence."""
    parts = [part.strip() for part in with_commas(text, names_of(profiles)).split(",") if part.strip()]
    if not parts:
        raise InputError("Type what to add.", where="text", repair="For example: 21 x RGB lamp, from 201, Lamp {n}.")
    first = FIRST.match(parts[0])
    assert first is not None  # it matches anything
    count = int(first[1]) if first[1] else 1
    if not 1 <= count <= COUNT_MAX:
        raise InputError(f"{count} fixtures at once: 1 to {COUNT_MAX} are possible.", where="text")
    profile = _profile(first[2], profiles)
    mode, number, name, address, patched = "", None, "", None, True
    blocks: list[str] = []
    modes = [str(one["name"]) for one in profile["modes"]]
    taken = 1
    for at, part in enumerate(parts):
        if at < taken:
            continue
        taken = at + 1
        word, _, rest = part.partition(" ")
        match word.lower():
            case "mode" if rest:
                exact = exact_mode(parts, at, modes)
                if exact is None:
                    raise _no_mode(profile, rest.strip())
                mode, taken = exact[0], at + exact[1]
            case "from":
                number = _number(rest)
            case "at":
                address = rest.strip()
            case "unpatched" if not rest:
                patched = False
            case "block" if rest:
                blocks.append(rest.strip())
            case "without" if rest:
                blocks.append(part)
            case _:
                name = part
    if not mode:
        mode = profile["modes"][0]["name"]
    called = name or _short(profile["name"])
    return AddLine(count, profile["id"], mode, number, called, address, patched, tuple(blocks))


def name_at(pattern: str, index: int, number: int) -> str:
    """`{n}` counts from 1, `{number}` is the fixture's number; without either the count is appended."""
    if "{n}" not in pattern and "{number}" not in pattern:
        pattern += " {n}"
    return pattern.replace("{n}", str(index + 1)).replace("{number}", str(number))


def _profile(wanted: str, profiles: Sequence[dict[str, Any]]) -> dict[str, Any]:
    """The profile of exactly that name, with or without its maker; what is only like it is asked, never taken."""
    words = wanted.lower()
    exact = _called(words, profiles) or _called(singular(words), profiles)
    if len(exact) == 1:
        return exact[0]
    if exact:
        makers = ", ".join(f"{p['maker']} {p['name']}" for p in exact[:5])
        raise InputError(f"'{wanted}' may be {makers}.", where="text", repair="Say whose it is.")
    holds = [p["name"] for p in profiles if all(w in f"{p['maker']} {p['name']}".lower() for w in words.split())]
    near = holds[:5] if words and holds else nearest(wanted, [p["name"] for p in profiles])
    repair = f"Nearest: {', '.join(near)}." if near else "Choose one from the library, or make it at Profiles."
    raise InputError(f"There is no profile '{wanted}'.", where="text", repair=repair)


def _called(words: str, profiles: Sequence[dict[str, Any]]) -> list[dict[str, Any]]:
    return [p for p in profiles if words in (p["name"].lower(), f"{p['maker']} {p['name']}".lower())]


def _no_mode(profile: dict[str, Any], wanted: str) -> InputError:
    names = [str(mode["name"]) for mode in profile["modes"]]
    near = nearest(wanted, names)
    repair = f"Nearest: {'; '.join(near)}." if near else f"It has: {'; '.join(names)}."
    return InputError(f"{profile['name']} has no mode '{wanted}'.", where="text", repair=repair)


def _number(text: str) -> int:
    if not text.strip().isdigit() or not 1 <= int(text) <= 999_999:
        raise InputError(f"'{text.strip()}' is not a fixture number.", where="text", repair="Numbers are 1 to 999999.")
    return int(text)


def _short(name: str) -> str:
    return f"{name} {{n}}"
