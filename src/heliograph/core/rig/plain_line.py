"""The typed line as people say it: "21 RGB lamps", "7 bars of nine RGBA cells from 401 at U6.21".

It is brought into the form with commas first; what words describe and no profile is called is never taken for one: what
fits is offered, and what would be made of the words.
"""

from __future__ import annotations

import re
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

NUMBERS = {
    "one": 1,
    "two": 2,
    "three": 3,
    "four": 4,
    "five": 5,
    "six": 6,
    "seven": 7,
    "eight": 8,
    "nine": 9,
    "ten": 10,
    "eleven": 11,
    "twelve": 12,
    "thirteen": 13,
    "fourteen": 14,
    "fifteen": 15,
    "sixteen": 16,
    "seventeen": 17,
    "eighteen": 18,
    "nineteen": 19,
    "twenty": 20,
}
KINDS = {"bar": "bar", "strip": "strip", "lamp": "lamp", "tube": "bar", "board": "other", "panel": "other"}
"""Words for things -> kinds of profiles."""

LETTERS = {
    "R": "ColorAdd_R",
    "G": "ColorAdd_G",
    "B": "ColorAdd_B",
    "W": "ColorAdd_W",
    "A": "ColorAdd_RY",
    "U": "ColorAdd_UV",
    "L": "ColorAdd_GY",
    "C": "ColorAdd_C",
    "D": "Dimmer",
    "S": "Shutter1Strobe",
}
"""Letters of a channel list -> GDTF attributes; amber is ColorAdd_RY, lime ColorAdd_GY (standards 5)."""

CELLS_MOST = 512
_CLAUSE = re.compile(r"\s+(?=(?:from\s+\d|at\s+u?\d|called\s|named\s|mode\s|unpatched\b))", re.IGNORECASE)
_COUNT = re.compile(r"^\s*(\d+)(\s*[x×*])?\s+(.*)$")
_FILLING = {"of", "with", "a", "an", "each", "and", "cell", "cells", "pixel", "pixels", "px"}


@dataclass(frozen=True, slots=True)
class Described:
    """A kind of fixture in words: `thing` ("bar"), how many cells, and the letters of a cell's channels in order."""

    thing: str
    cells: int
    order: str

    @property
    def name(self) -> str:
        return f"{self.order} {self.thing}" + (f" {self.cells}" if self.cells > 1 else "")

    @property
    def says(self) -> str:
        channels = self.cells * len(self.order)
        cells = f" of {self.cells} {self.order} cells" if self.cells > 1 else f" of {self.order}"
        return f"{self.thing}{cells}, {channels} ch"

    def mode(self) -> dict[str, Any]:
        """The mode that would be made: its cells alone."""
        channels = [{"attribute": LETTERS[letter]} for letter in self.order]
        name = f"{self.cells} {self.order}" if self.cells > 1 else self.order
        block = {"name": "Cells", "shared": [], "cell_count": self.cells, "cell_channels": channels}
        return {"name": name, "blocks": [block]}

    def fits(self, mode: Mapping[str, Any]) -> bool:
        """Whether a mode as it is shown has such cells, whatever stands before them."""
        wanted = [LETTERS[letter] for letter in self.order]
        return any(
            block["cells"] == self.cells and [one["attribute"] for one in block["each"]] == wanted
            for block in mode["blocks"]
        )


def with_commas(text: str, names: Container[str] = ()) -> str:
    """The line in the form with commas: numbers in words as digits, what follows without a comma as parts. `names`:
    profiles in lower case; a line that names one stays as it is, whatever words are in the name."""
    first, *rest = text.split(",")
    called = split_count(first)[1].lower()
    if called in names or singular(called) in names:
        return text
    first = re.sub(r"[A-Za-z]+", lambda found: _digits(found[0]), first)
    parts = [re.sub(r"^(?:called|named)\s+", "", part, flags=re.IGNORECASE) for part in _CLAUSE.split(first)]
    return ",".join([", ".join(part.strip() for part in parts), *rest]) if len(parts) > 1 else ",".join([first, *rest])


def names_of(profiles: Sequence[Mapping[str, Any]]) -> frozenset[str]:
    """What profiles are called, with and without their maker, in lower case."""
    return frozenset(name.lower() for one in profiles for name in (str(one["name"]), f"{one['maker']} {one['name']}"))


def singular(words: str) -> str:
    """ "RGB lamps" -> "RGB lamp"."""
    return words[:-1] if words.lower().endswith("s") and not words.lower().endswith("ss") else words


def described(words: str) -> Described | None:
    """What the words describe; None where there is no thing, no letters, or a word that says something else."""
    thing = order = ""
    cells = 0
    tokens = words.replace("-", " ").split()
    for at, token in enumerate(tokens):
        word = singular(token.lower())
        if word in KINDS and not thing:
            thing = word
        elif token.isdigit() and not cells:
            cells = int(token)
        elif not order and len(token) <= 8 and set(token.upper()) <= set(LETTERS) and set(token.upper()) & set("RGBWA"):
            order = token.upper()
        elif token.lower() not in _FILLING:
            return None
        if token.isdigit() and at + 1 < len(tokens) and tokens[at + 1].isdigit():
            return None
    if not thing or not order or not 0 <= cells <= CELLS_MOST:
        return None
    return Described(thing, cells or 1, order) if cells or thing == "lamp" else None


def fitting(wanted: Described, profiles: Sequence[Mapping[str, Any]]) -> list[tuple[str, str]]:
    """(profile, mode) by name of what fits, in the order of the profiles."""
    return [
        (str(profile["name"]), str(mode["name"]))
        for profile in profiles
        if profile["kind"] == KINDS[wanted.thing]
        for mode in profile["modes"]
        if wanted.fits(mode)
    ]


def split_count(first: str) -> tuple[str, str]:
    """("7", "bars of 9 RGBA cells") of the first part."""
    found = _COUNT.match(first)
    return (found[1], found[3].strip()) if found else ("1", first.strip())


def _digits(word: str) -> str:
    lower = word.lower()
    return str(NUMBERS[lower]) if lower in NUMBERS else word
