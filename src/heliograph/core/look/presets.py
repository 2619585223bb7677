"""Presets by what they are about, which attributes that is, and what they say in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal, get_args

from heliograph.core.errors import InputError
from heliograph.core.hand.levels import parts_of
from heliograph.core.profiles.attributes import BRIGHTNESS, DIMMER, EMITTERS, HUE, SATURATION, rank_of, word_of
from heliograph.core.profiles.channel import Channel

PresetKind = Literal["colour", "position", "beam", "laser"]
KINDS: tuple[PresetKind, ...] = get_args(PresetKind)

POSITION = ("Pan", "Tilt", "PanRotate", "TiltRotate", "XYZ_X", "XYZ_Y")
COLOUR = (*EMITTERS, HUE, SATURATION, BRIGHTNESS, "CIE_X", "CIE_Y", "CTO", "CTC", "CTB", "Tint")
COLOUR_BEGINS = ("ColorSub_", "Color")
_RGB = ("ColorAdd_R", "ColorAdd_G", "ColorAdd_B")


def kind_of(attribute: str) -> PresetKind:
    """What kind of preset an attribute belongs to where its fixture is no laser."""
    if attribute in POSITION:
        return "position"
    if attribute in COLOUR or attribute.startswith(COLOUR_BEGINS):
        return "colour"
    return "beam"


def is_about(kind: PresetKind, channel: Channel, laser: bool) -> bool:
    """Whether a preset of that kind holds a channel. A laser's presets hold all of it but its brightness; a dimmer is
    nobody's: masters and looks have it."""
    if channel.attribute == DIMMER and not parts_of(channel):
        return False
    return kind == "laser" if laser else kind == kind_of(channel.attribute)


def check_kind(kind: str, sets: Mapping[str, str]) -> None:
    """Raises InputError for an attribute that a preset of that kind is not about."""
    for attribute in sets:
        if kind != "laser" and kind_of(attribute) != kind:
            raise InputError(
                f"A preset of {kind} does not hold {word_of(attribute)}.",
                where="sets",
                repair=f"Make one of {kind_of(attribute)} for it.",
            )


def says(sets: Mapping[str, str], kept: Mapping[str, Any]) -> str:
    """`204 red, 91 green; kept of 4 fixtures`."""
    typed = ", ".join(f"{word_of(attribute)} {sets[attribute]}" for attribute in sorted(sets, key=rank_of))
    count = len(kept)
    held = f"kept of {count} fixture{'s' if count > 1 else ''}" if count else ""
    return "; ".join(part for part in (typed, held) if part)


def rgb_of_sets(sets: Mapping[str, str]) -> tuple[int, int, int] | None:
    """How a colour looks whose red, green and blue are typed as plain numbers or percent; None where they are not."""
    found = []
    for attribute in _RGB:
        text = sets.get(attribute, "0").strip()
        try:
            level = float(text.rstrip("%")) * (2.55 if text.endswith("%") else 1.0)
        except ValueError:
            return None
        found.append(min(max(round(level), 0), 255))
    return (found[0], found[1], found[2]) if any(one in sets for one in _RGB) else None
