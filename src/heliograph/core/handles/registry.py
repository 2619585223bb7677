"""All handles of a show: found by address or by words, read, moved, let go of. There is no other road to them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from typing import Any

from heliograph.core.errors import AccessError, InputError
from heliograph.core.handles import of_line
from heliograph.core.handles.handle import Family, Ground, Handle, Move
from heliograph.core.handles.of_favourite import OfFavourite
from heliograph.core.handles.of_group import OfGroup
from heliograph.core.handles.of_list import OfList
from heliograph.core.handles.of_look import OfLook
from heliograph.core.handles.of_score import OfScore
from heliograph.core.handles.of_show import OfShow
from heliograph.core.playing.state import HeldLine, PlaybackState
from heliograph.core.roles import may, refusal

SHOW: Family = OfShow()
FAMILIES: dict[str, Family] = {"group": OfGroup(), "list": OfList(), "look": OfLook(), "score": OfScore()}
"""By the first part of an address; the show's own stand without one."""


def fades(ground: Ground, address: str) -> bool:
    """Whether the handle at an address can be moved within a time."""
    return find(ground, address).fades


def handles_of(ground: Ground) -> Iterator[Handle]:
    """Every handle, the show's first."""
    for family in (SHOW, *FAMILIES.values()):
        yield from family.every(ground)


def search(ground: Ground, words: str, most: int) -> list[Handle]:
    """Those whose words or path hold every one of the words typed, at most so many."""
    wanted = words.lower().split()
    found: list[Handle] = []
    for handle in handles_of(ground):
        if all(word in f"{handle.words} {handle.path}".lower() for word in wanted):
            found.append(handle)
            if len(found) == most:
                break
    return found


def find(ground: Ground, address: str) -> Handle:
    """The handle at an address; InputError where the running show has none there."""
    family, parts = _family(address)
    handle = family.find(ground, parts)
    if handle is not None:
        return handle
    kind = address.partition("/")[0]
    every: dict[str, Mapping[str, Any]] = {"look": ground.looks, "group": ground.groups, "list": ground.lists}
    known = (every | {"score": ground.scores, "favourite": ground.favourites}).get(kind)
    if known is not None and parts and parts[0] not in known:
        raise InputError(f"That {kind} is not in the running show.", where=kind)
    raise InputError(
        f"There is no handle '{address}' in the running show.", where="handle", repair="GET /api/handles lists all."
    )


def read(state: PlaybackState, ground: Ground, handle: Handle, time_ns: int) -> Any:
    """Its value at a show time; None of a trigger."""
    family, parts = _family(handle.address)
    return family.read(state, ground, parts, time_ns)


def check(ground: Ground, move: Move) -> Handle:
    """The handle of a move; InputError where there is none, or it takes no such value, AccessError where it is not for
    that role."""
    handle = find(ground, move.handle)
    if not may(move.role, handle.needs):
        raise AccessError(refusal(move.role, handle.needs), where="access")
    if move.over_s and not handle.fades:
        raise InputError(f"{handle.words} moves at once.", where="over_s", repair="Leave the time out.")
    if handle.kind != "switch" or move.value is not None:
        handle.check(move.value)
    return handle


def move(state: PlaybackState, ground: Ground, move: Move) -> PlaybackState:
    """The state after one move; errors as of `check`."""
    handle = check(ground, move)
    family, parts = _family(move.handle)
    value = move.value
    if handle.kind == "switch" and value is None:  # turned over, as it stands now
        value = not family.read(state, ground, parts, move.time_ns)
    return family.move(state, ground, parts, replace(move, value=handle.check(value)))


FAMILIES["favourite"] = OfFavourite(move, fades)


def is_held(address: str) -> bool:
    """Whether a move of this handle lies over something stored until it is let go of: those of lines."""
    return address.count("/") == 3


def let_go(state: PlaybackState, by: str, addresses: Iterable[str] | None = None) -> PlaybackState:
    """Without what this hand holds: at some addresses, or everywhere. What another hand holds stays; what nobody holds
    is no error."""
    if addresses is None:
        return _kept(state, {key: set(held.by) for key, held in state.held.items()}, by)
    chosen: dict[str, set[str]] = {}
    for address in addresses:
        if is_held(address):
            line, field = of_line.field_of(tuple(address.split("/")[2:]))
            chosen.setdefault(line, set()).add(field)
    return _kept(state, chosen, by)


def _kept(state: PlaybackState, chosen: dict[str, set[str]], by: str) -> PlaybackState:
    held = dict(state.held)
    for line, fields in chosen.items():
        one = held.get(line)
        if one is None:
            continue
        left = {name: value for name, value in one.values.items() if name not in fields or one.by.get(name) != by}
        if left:
            held[line] = HeldLine(left, {name: one.by[name] for name in left})
        else:
            del held[line]
    return replace(state, held=held) if held != state.held else state


def _family(address: str) -> tuple[Family, tuple[str, ...]]:
    parts = tuple(address.split("/"))
    return (FAMILIES[parts[0]], parts[1:]) if parts[0] in FAMILIES else (SHOW, parts)
