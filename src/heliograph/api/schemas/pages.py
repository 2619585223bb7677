"""Pages of pads and faders, as they are laid out and as they are shown."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict
from heliograph.core.pages import COLUMNS, HANDLES_MAX, ITEMS_MAX, ROWS, Does, Hue, ItemKind
from heliograph.core.playing.favourites import VALUES_MAX

Id = Annotated[str, StringConstraints(max_length=36)]
Words = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
Slug = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
Address = Annotated[str, StringConstraints(max_length=200)]
Square = Annotated[int, Field(ge=0, le=COLUMNS)]


class NewPage(Strict):
    id: UUID
    name: Name


class PagePatch(Strict):
    name: Name | None = None
    slug: Slug | None = None
    rev: int | None = None


class PageCopy(Strict):
    id: UUID


class HalfBody(Strict):
    """What a half of a pad does: on touch, or on lifting. `value` of "value", `beats` of "beats"."""

    do: Does
    value: Any = None
    beats: float = 0.0


class ItemHandle(Strict):
    """A handle an item moves; `words`, kind and range as it had them when it was chosen."""

    handle: str = Field(min_length=1, max_length=200)
    words: str = Field("", max_length=300)
    kind: str = Field("", max_length=20)
    minimum: float = 0.0
    maximum: float = 1.0


class ItemPatch(Strict):
    kind: ItemKind | None = None
    x: Square | None = None
    y: Square | None = None
    w: Square | None = None
    h: Square | None = None
    words: Words | None = None
    mark: Annotated[str, StringConstraints(max_length=20)] | None = None
    hue: Hue | None = None
    handles: list[Address] | None = Field(None, max_length=HANDLES_MAX)
    touch: HalfBody | None = None
    lift: HalfBody | None = None


class NewItem(ItemPatch):
    """`handles`: addresses. Without a place it goes where there is room; without words it is called as its handle."""

    id: UUID
    kind: ItemKind


class ChosenItems(Strict):
    items: list[Id] = Field(min_length=1, max_length=ITEMS_MAX)


class StoredItem(Strict):
    id: Id
    kind: ItemKind
    x: Annotated[int, Field(ge=0, le=COLUMNS)]
    y: Annotated[int, Field(ge=0, le=ROWS)]
    w: Annotated[int, Field(ge=1, le=COLUMNS)]
    h: Annotated[int, Field(ge=1, le=ROWS)]
    words: Words = ""
    mark: str = Field("", max_length=20)
    hue: Hue = "bone"
    handles: list[ItemHandle] = Field(default_factory=list, max_length=HANDLES_MAX)
    touch: HalfBody
    lift: HalfBody


class ItemView(StoredItem):
    """As it is stored, with nothing left out."""

    words: Words
    mark: str
    hue: Hue
    handles: list[ItemHandle]


class NewFavourite(Strict):
    """`handles`: addresses; kept as they are now."""

    id: UUID
    name: Name
    handles: list[Address] = Field(min_length=1, max_length=VALUES_MAX)


class FavouritePatch(Strict):
    name: Name | None = None
    handles: list[Address] | None = Field(None, max_length=VALUES_MAX)
    again: bool = False


class KeptValue(ItemHandle):
    value: Any = None


class FavouriteView(BaseModel):
    id: str
    rev: int
    name: str
    values: list[KeptValue]


class PageView(BaseModel):
    """`columns` x `rows` squares; `address` of its own, as /page/<slug>."""

    id: str
    rev: int
    name: str
    slug: str
    columns: int
    rows: int
    items: list[ItemView]
