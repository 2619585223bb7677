"""Requests to the preview: pictures, why, frames to look back at."""

from __future__ import annotations

from typing import Any

import msgspec

from heliograph.core.playing.tempo import PhaseUnit
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
    """`value`: the channel's after this step, 0..255, where that can be said."""

    kind: str
    says: str
    numbers: dict[str, Any]
    value: float | None = None


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


class MarksFound(Answer, frozen=True):
    """Channels of a universe by who writes them over what looks make; `frame` 0: nothing was sent yet."""

    frame: int = 0
    channels: dict[str, list[int]] = msgspec.field(default_factory=dict)


class AskMarks(Request[MarksFound], frozen=True, tag="marks"):
    """`at`: a frame that is still kept, None for now."""

    answers = MarksFound
    universe: int
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


class FlashesFound(Answer, frozen=True):
    """Of a look painted ahead; `known` False while it is looked for. `rate`: flashes in the worst second that more than
    a quarter of a `matrix` has; `cells` of `of` have more than are allowed then; `line`: the one that makes it, from 1,
    0 for several together; `seconds`: so many were looked at."""

    known: bool = False
    rate: int = 0
    cells: int = 0
    of: int = 0
    red: bool = False
    matrix: str = ""
    name: str = ""
    line: int = 0
    seconds: float = 0.0


class AskFlashes(Request[FlashesFound], frozen=True, tag="flashes"):
    """`hash`: of the look as it is stored; where another one is known yet, nothing is."""

    answers = FlashesFound
    look: str
    hash: str = ""


class HeadMotion(msgspec.Struct, frozen=True):
    """One head from now on over a round: where it points `across` and `up`, in degrees or, where its profile has none,
    0 to 255. `pan`, `tilt`: how far it can turn. `speed`: the most that is asked of it, a second; `stopped`: axes that
    come to their end."""

    id: str
    number: int
    across: list[float]
    up: list[float]
    pan: tuple[float, float]
    tilt: tuple[float, float]
    in_degrees: bool
    speed: float
    stopped: list[str]


class MotionFound(Answer, frozen=True):
    """`moves`: whether anything drives pan or tilt; `seconds`: how long the round lasts."""

    heads: list[HeadMotion]
    seconds: float
    moves: bool


class AskMotion(Request[MotionFound], frozen=True, tag="motion"):
    """Of the heads of one line; without one, of every head as it is sent."""

    answers = MotionFound
    look: str = ""
    line: str = ""


class CueCells(Answer, frozen=True):
    """Red, green and blue of every cell of the rig, in its order, 0..255."""

    frame: int
    rgb: bytes


class AskCue(Request[CueCells], frozen=True, tag="cue"):
    """What would be sent now if a cue of a list stood alone at the end of its fade; with all that runs beside it."""

    answers = CueCells
    of: str
    cue: str


class UnrolledFrames(Answer, frozen=True):
    """`offered`: the line's own number of pictures a cycle, 0 where it has none. `length` of a cycle in `unit`;
    `pictures` in their stored form, on `matrix` (its id; `over` its name) of `columns` x `rows`."""

    offered: int
    length: float
    unit: PhaseUnit
    matrix: str
    over: str
    columns: int
    rows: int
    pictures: list[str] = msgspec.field(default_factory=list)


class AskUnrolled(Request[UnrolledFrames], frozen=True, tag="unrolled"):
    """A line of a look (all of it: "") painted `count` times over one cycle, each time in the middle of its part; none
    for 0. `hash`: of the look as it is stored; InputError where the preview has not got that one yet."""

    answers = UnrolledFrames
    look: str
    hash: str
    line: str = ""
    count: int = 0


class StrokeFound(Answer, frozen=True):
    """A look over `beats` as `rows` of `columns` moments, red, green and blue; nothing of one that is not there."""

    columns: int = 0
    rows: int = 0
    beats: float = 0.0
    rgb: bytes = b""


class AskStroke(Request[StrokeFound], frozen=True, tag="stroke"):
    answers = StrokeFound
    look: str
    group: str = ""


PreviewRequest = (
    AskStroke
    | AskCue
    | AskMotion
    | AskUnrolled
    | AskPictures
    | AskFlashes
    | AskWhy
    | AskMarks
    | AskKept
    | AskMoment
    | AskBefore
    | ShowRequest
)
