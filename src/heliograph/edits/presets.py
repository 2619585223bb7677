"""What makes and changes presets; and looks made of what is held by hand."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from typing import Any
from uuid import uuid4

from heliograph.core.errors import InputError
from heliograph.core.hand.values import channels_of
from heliograph.core.look.attributes import check_sets
from heliograph.core.look.line import AttributeLine
from heliograph.core.look.presets import PresetKind, check_kind, is_about
from heliograph.core.matrix.woven import numbers_as_selection
from heliograph.core.profiles.profile import Mode
from heliograph.edits.looks import add_look
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

Modes = Mapping[str, tuple[Mode, bool]]
"""By fixture: its mode, and whether it is a laser."""

Held = Mapping[str, int]
"""Bytes on the wire by "<fixture>/<channel of its mode, from 1>", as hands hold them."""


SELECTION_MAX = 120

AS_IT_BEGINS: Record = {
    "saved_ramp": "",
    "opacity": 1.0,
    "blend": "over",
    "only": "",
    "emitter": "",
    "mute": False,
    "solo": False,
    "stencil": False,
    "through": None,
    "region": None,
    "shift": 0.0,
    "params": {},
    "presets": [],
}
"""What a line has that nobody said anything of."""


def kept_of(held: Held, modes: Modes, among: Collection[str] | None = None, kind: PresetKind | None = None) -> Record:
    """What is held by hand as it is kept: of the fixtures `among`, of the attributes of a `kind` of preset."""
    found: dict[str, dict[str, Any]] = {}
    for key, value in held.items():
        fixture, _, channel = key.partition("/")
        if fixture not in modes or (among is not None and fixture not in among):
            continue
        mode, laser = modes[fixture]
        channels = channels_of(mode).channels
        number = int(channel)
        if number > len(channels) or (kind is not None and not is_about(kind, channels[number - 1], laser)):
            continue
        one = found.setdefault(fixture, {"mode": mode.name, "values": {}})
        one["values"][str(number)] = value
    return found


def add_preset(work: Work, key: str, given: Mapping[str, Any]) -> None:
    """InputError where it would hold nothing."""
    check_kind(given["kind"], given["sets"])
    check_sets(given["sets"])
    if not given["sets"] and not given["kept"]:
        raise InputError(
            f"Nothing of {given['kind']} is held by hand.",
            where="take",
            repair="Choose fixtures and set them by hand first, or type values.",
        )
    place = rows.next_place("preset", str(work.show.id))
    work.insert("preset", [(key, {**given, "place": place})])


def change_preset(work: Work, key: str, given: Mapping[str, Any], taken: Record | None, seen: int | None) -> None:
    """`sets` are merged, "" takes one away; `taken` is kept over what was kept of those fixtures."""
    one = rows.record_of(work.get("preset", key))
    values = dict(given)
    if "sets" in values:
        values["sets"] = {name: text for name, text in {**one["sets"], **values["sets"]}.items() if text}
        check_kind(one["kind"], values["sets"])
        check_sets(values["sets"])
    if taken is not None:
        if not taken:
            raise InputError(f"Nothing of {one['kind']} is held by hand there.", where="take")
        values["kept"] = {**one["kept"], **taken}
    work.update("preset", key, values, seen)


def add_colours(work: Work, colours: Sequence[tuple[str, Mapping[str, str]]], folder: str) -> None:
    """A preset of each colour: its name, and what is typed for its emitters."""
    place = rows.next_place("preset", str(work.show.id))
    made = [
        (
            str(uuid4()),
            {"name": name, "folder": folder, "kind": "colour", "sets": sets, "kept": {}, "place": place + n},
        )
        for n, (name, sets) in enumerate(colours)
    ]
    work.insert("preset", made)


def keep_as_look(work: Work, key: str, name: str, kept: Record, numbers: Sequence[int]) -> None:
    """A look of one line that sets what was held by hand. `numbers`: of the fixtures."""
    if not kept:
        raise InputError("Nothing is held by hand.", where="by hand", repair="Set fixtures by hand first.")
    said = numbers_as_selection(numbers)
    line = {
        **AS_IT_BEGINS,
        "id": str(uuid4()),
        "paints": AttributeLine.paints,
        "selection": said if len(said) <= SELECTION_MAX else "all",  # only what was kept is set in any case
        "kept": kept,
    }
    add_look(work, key, {"name": name, "folder": "", "note": "", "fade_in": 0.0, "fade_out": 0.0}, [line])
