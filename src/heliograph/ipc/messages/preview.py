"""Requests to the preview: pictures, why, frames to look back at."""

from __future__ import annotations

from typing import Any

import msgspec

from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.messages.show import ShowRequest


class Pictures(Answer, frozen=True):
    """The message for the browser as it is (base64 in JSON); empty where nothing was sent yet."""

    pictures: bytes


class AskPictures(Request[Pictures], frozen=True, tag="pictures"):
    answers = Pictures
    look: str
    looks: list[str]


class WhyStep(msgspec.Struct, frozen=True):
    kind: str
    says: str
    numbers: dict[str, Any]


class WhyChannel(msgspec.Struct, frozen=True):
    """`value` as the frame carried it; `made`: what the steps come to."""

    value: int
    sent: bool
    made: int
    steps: list[WhyStep]


class WhyAnswer(Answer, frozen=True):
    """`frame` None: nothing was sent yet. `exact`: frame, state and show are of one moment."""

    frame: int | None = None
    exact: bool = False
    frozen: bool = False
    channels: list[WhyChannel] = msgspec.field(default_factory=list)


class AskWhy(Request[WhyAnswer], frozen=True, tag="why"):
    """`positions` absolute, from 0; `names` of looks and groups; `at`: a frame that is still kept, 0 for now."""

    answers = WhyAnswer
    positions: list[int]
    names: dict[str, str]
    at: int | None = None


class KeptFrames(Answer, frozen=True):
    """How far back frames are kept. `spool_behind`: frames by which a restart would go on from behind what was sent."""

    frames: int
    bytes: int
    first: int
    last: int
    seconds: float
    spool_behind: int | None = None


class AskKept(Request[KeptFrames], frozen=True, tag="kept"):
    answers = KeptFrames


class KeptPicture(msgspec.Struct, frozen=True):
    columns: int
    rows: int
    rgb: str


class KeptMoment(Answer, frozen=True):
    frame: int
    ago_s: float
    show_s: float
    exact: bool
    picture: KeptPicture | None = None
    levels: list[int] | None = None


class AskMoment(Request[KeptMoment], frozen=True, tag="moment"):
    """A kept frame by its number (the nearest before it, or `after` it) or by its age."""

    answers = KeptMoment
    frame: int | None = None
    after: bool = False
    ago_s: float = 0.0
    matrix: str = ""
    universe: int = 0


class BeforeHand(Answer, frozen=True):
    frame: int
    levels: list[int]
    frozen: bool


class AskBefore(Request[BeforeHand], frozen=True, tag="before"):
    answers = BeforeHand
    universe: int


PreviewRequest = AskPictures | AskWhy | AskKept | AskMoment | AskBefore | ShowRequest
