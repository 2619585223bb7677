"""Single emitters that lines are painted over."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from heliograph.core.colour.extraction import DRIVEN, EMITTER_ATTRIBUTES
from heliograph.core.errors import InputError
from heliograph.core.profiles.attributes import EMITTERS

EMITTER_WORDS: dict[str, int] = {EMITTERS[EMITTER_ATTRIBUTES[plane]]: plane for plane in DRIVEN}
"""Emitters that a line may be painted over by itself, by their words: their planes."""


WHITES = ("white", "warm white", "cool white")


def said_of_plain(cells: Iterable[tuple[str, ...]]) -> str:
    """What becomes of a colour on cells that can only be white, or have no emitter at all; "" where all make colours.
    `cells`: the words of the emitters of each kind of cell there is."""
    kinds = [set(words) for words in cells]
    white = sum(bool(words) and words <= set(WHITES) for words in kinds)
    dark = sum(not words for words in kinds)
    said = []
    if white:
        said.append(
            f"{'All' if white == len(kinds) else 'Some'} of these are white only: they show how bright a colour is."
        )
    if dark:
        said.append(f"{'All' if dark == len(kinds) else 'Some'} of these have no emitters: no colour shows on them.")
    return " ".join(said)


def over_emitter(line: Mapping[str, Any], of_canvas: str) -> dict[str, Any]:
    """A stored line with the emitter that its group or selection is about, where it names none itself. Muted where such
    a line cannot be painted: what it is painted over became an emitter's after it was made."""
    if not of_canvas or line.get("emitter"):
        return dict(line)
    if of_canvas not in EMITTER_WORDS or line["paints"] == "recolour":
        return {**line, "mute": True}
    return {**line, "emitter": of_canvas, "only": ""}


def check_emitter(emitter: str, only: str = "") -> None:
    """Raises InputError for what is no emitter of colours, and where a line writes to one and to a component too."""
    if emitter and emitter not in EMITTER_WORDS:
        raise InputError(
            f"A line is not painted over '{emitter}'.", where="emitter", repair=f"Use {', '.join(EMITTER_WORDS)}."
        )
    if emitter and only:
        raise InputError(
            f"A line over {emitter} alone has no {only}.", where="only", repair="Let it write all of its colour."
        )
