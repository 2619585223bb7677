"""Why a channel has its value, and why a lamp is dark."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel


class WhyStep(BaseModel):
    """One link of the chain: a sentence, and numbers enough to do it again. Colours are [r, g, b], 0..1. `value`: the
    channel's after it, 0..255, where that can be said."""

    kind: str
    says: str
    numbers: dict[str, Any]
    value: float | None


class WhyChannel(BaseModel):
    """`value` as sent in `frame`; `made` is what the steps come to. `exact`: both are of the same show and moment,
    so that they must be equal; not while it is frozen. `ways`: each output that carries it."""

    universe: int
    channel: int
    frame: int
    sent: bool
    value: int
    made: int
    exact: bool
    frozen: bool
    steps: list[WhyStep]
    ways: list[str]


class DarkRepair(BaseModel):
    """One click: a PATCH of `change` on an object, a command to the engine, what is no longer parked, or
    the end of the test walk."""

    label: str
    table: Literal["output", "line", "engine", "parked", "walk"]
    id: str
    parent: str
    change: dict[str, Any]


class WhyDark(BaseModel):
    """The first broken link, "" where none is: then `sentence` says with which value the cell leaves. `checked`:
    what was looked at before, each a sentence that holds."""

    kind: str
    sentence: str
    repair: DarkRepair | None
    checked: list[str]


class KeptFrames(BaseModel):
    """Sent frames that can be looked back at: the oldest and newest number, how many `seconds` ago the oldest is."""

    frames: int
    bytes: int
    first: int
    last: int
    seconds: float


class KeptPicture(BaseModel):
    """Rows of RGB bytes, base64."""

    columns: int
    rows: int
    rgb: str


class KeptMoment(BaseModel):
    """`exact`: its state and show are known, so that it can be asked why."""

    frame: int
    ago_s: float
    show_s: float
    exact: bool
    picture: KeptPicture | None
    levels: list[int] | None


class BeforeDesk(BaseModel):
    """`frozen`: the output is held; these are the values of the moment in which they would go on."""

    frame: int
    levels: list[int]
    frozen: bool
