"""Presets: named values for parts of fixtures."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.lines import KeptValues, Sets
from heliograph.api.schemas.moving import Word
from heliograph.core.look.attributes import KEPT_MAX

PresetKind = Literal["colour", "position", "beam", "laser"]
Folder = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)]


Chosen = Word | Annotated[list[UUID], Field(min_length=1, max_length=KEPT_MAX)]
"""Fixtures: by a typed selection, or by their ids."""


class NewPreset(Strict):
    """Without a name it is called by its kind, and numbered. `take`: fixtures whose values by hand it takes, of the
    attributes that its kind is about."""

    id: UUID
    name: Name | None = None
    kind: PresetKind
    folder: Folder = ""
    sets: Sets = Field(default_factory=dict)
    kept: KeptValues = Field(default_factory=dict)
    take: Chosen | None = None


class PresetPatch(Strict):
    """`sets` are merged, "" takes one away. `take` as of a new one: what was kept of those fixtures is taken anew."""

    name: Name | None = None
    folder: Folder | None = None
    sets: Sets | None = None
    take: Chosen | None = None
    rev: int | None = None


class FilterTable(Strict):
    """A table of colours as CSV, a colour a line: name, red, green, blue, each 0-255 or in percent."""

    csv: Annotated[str, StringConstraints(min_length=1, max_length=200_000)]
    folder: Folder = ""


class PresetView(BaseModel):
    """`fixtures`: ids of those whose values are kept. `says`: what it sets, in words; `words`: for its attributes.
    `rgb`: of a colour, how it looks."""

    id: str
    rev: int
    name: str
    folder: str
    kind: PresetKind
    sets: dict[str, str]
    words: dict[str, str]
    fixtures: list[str]
    says: str
    rgb: tuple[int, int, int] | None = None
    used_by: list[str]


class LookKept(Strict):
    """A look made of everything that is held by hand; or, where some are `chosen`, of what is held of those. Without a
    name it is called Kept, and numbered."""

    id: UUID
    name: Name | None = None
    chosen: Chosen = ""


class AttributeWord(BaseModel):
    """An attribute that can be set of what a line is over. `takes`: in words; `words`: names its profiles have for
    values; `unit`: of a drive that is added to it. `fixtures`: how many have it."""

    attribute: str
    word: str
    takes: str
    words: list[str]
    unit: str
    fixtures: int


class PathView(BaseModel):
    name: str
    says: str


class HeadMotion(BaseModel):
    """One head over a round from now on: where it points `across` and `up`, in degrees or, where its profile has none,
    0 to 255. `pan`, `tilt`: how far it can turn; `speed`: the most asked of it a second; `stopped`: axes that come to
    their end."""

    id: str
    number: int
    across: list[float]
    up: list[float]
    pan: tuple[float, float]
    tilt: tuple[float, float]
    in_degrees: bool
    speed: float
    stopped: list[str]


class Motion(BaseModel):
    """`moves`: whether anything drives pan or tilt; `seconds`: how long a round lasts."""

    heads: list[HeadMotion]
    seconds: float
    moves: bool


class SetPath(Strict):
    """`path`: the name of a ready path."""

    path: Word
    rev: int | None = None


class HoldPreset(Strict):
    """Fixtures that are to stand as a preset says, by hand."""

    chosen: Chosen


class Held(BaseModel):
    """How many channels are held by it."""

    channels: int


class ChosenFixtures(Strict):
    fixtures: list[Annotated[str, StringConstraints(max_length=36)]] = Field(max_length=20_000)


class SaidOfAnimations(BaseModel):
    """None where none of the fixtures makes animations of its own."""

    said: str | None


class Attributes(BaseModel):
    """`missing`: of what the line sets, what nothing takes any more, and why. `said`: why nothing shows of an animation
    of the fixtures' own that is on now."""

    attributes: list[AttributeWord]
    missing: dict[str, str]
    said: str = ""
