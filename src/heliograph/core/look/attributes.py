"""What lines and presets say of attributes beside colours: what was typed for them, and bytes that were kept.

What is kept of a fixture is kept with its mode: in another one it would mean something else.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.look.parameter import TEXT_MAX, Parameter
from heliograph.core.profiles.attributes import DEGREES

TURN_DEG = 720.0
SETS_MAX = 64
KEPT_MAX = 20_000


@dataclass(frozen=True, slots=True)
class Kept:
    """Bytes on the wire of one fixture by channel of its `mode` (its name), from 1."""

    mode: str
    values: Mapping[int, int]


@dataclass(frozen=True, slots=True)
class Values:
    """`sets`: what was typed, by attribute; `kept`: bytes, by the fixture's id."""

    sets: Mapping[str, str] = field(default_factory=dict)
    kept: Mapping[str, Kept] = field(default_factory=dict)


def values_from_json(data: Mapping[str, Any]) -> Values:
    kept = {
        fixture: Kept(str(one["mode"]), {int(number): int(value) for number, value in one["values"].items()})
        for fixture, one in (data.get("kept") or {}).items()
    }
    for one in kept.values():
        for number, value in one.values.items():
            if number < 1 or not 0 <= value <= 255:
                raise InputError(f"Channel {number} cannot be kept at {value}.", where="kept", repair="Keep 0 to 255.")
    return Values(data.get("sets") or {}, kept)


def values_to_json(values: Values) -> dict[str, Any]:
    kept = {
        fixture: {"mode": one.mode, "values": {str(number): value for number, value in one.values.items()}}
        for fixture, one in values.kept.items()
    }
    return {"sets": dict(values.sets), "kept": kept}


def driven_attribute(attribute: str) -> Parameter:
    """What a drive adds to an attribute: degrees for pan and tilt, else percent of all it has."""
    if attribute in DEGREES:
        return Parameter(attribute, "number", 0.0, -TURN_DEG, TURN_DEG, "°", each=True)
    return Parameter(attribute, "number", 0.0, -100.0, 100.0, "%", each=True)


def check_sets(sets: Mapping[str, str]) -> None:
    if len(sets) > SETS_MAX:
        raise InputError(f"A line sets at most {SETS_MAX} attributes.", where="params")
    for attribute, text in sets.items():
        if not isinstance(text, str) or len(text) > TEXT_MAX:
            raise InputError(f"{attribute} takes what is typed: at most {TEXT_MAX} characters.", where="params")
