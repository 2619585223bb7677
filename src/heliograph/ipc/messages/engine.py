"""Requests to the engine: commands that act on the next frame, its status, the show."""

from __future__ import annotations

from typing import Any

import msgspec

from heliograph.core.hand.colouring import What
from heliograph.core.roles import Role
from heliograph.core.walk.moment import Walk
from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.messages.show import ShowRequest


class LeftAddress(msgspec.Struct, frozen=True):
    """A laser that left its addresses, which stay safe."""

    fixture: str
    number: int
    name: str
    addresses: list[str]


class RunningLook(msgspec.Struct, frozen=True):
    """One run. `level` of its look and `fade` of the run itself, 0..1; it is gone when it `ends` and has faded."""

    run: str
    look: str
    by: str
    level: float
    fade: float
    ends: bool
    since_s: float


TintView = tuple[float, float]
"""Hue in degrees, amount 0..1."""


class EngineState(msgspec.Struct, frozen=True):
    """What plays at one frame. `masters` by group, tints by look and group; `manual`, `raw`: what is held by hand, as
    in the playback state; `held_lines`: lines of which some hand holds something. `armed_until`: Unix time until which
    lasers stay armed without anybody."""

    frame: int
    show_s: float
    held: bool
    bpm: float
    beat: float
    master: float
    masters: dict[str, float]
    manual: dict[str, int]
    raw: dict[str, int]
    highlight: list[str]
    walking: bool
    blackout: bool
    freeze: bool
    armed: list[str]
    armed_until: float | None
    left: list[LeftAddress]
    tint: TintView
    look_tints: dict[str, TintView]
    group_tints: dict[str, TintView]
    held_lines: list[str]
    running: list[RunningLook]


class StateAnswer(Answer, frozen=True):
    state: EngineState


class OutputStats(msgspec.Struct, frozen=True):
    id: str
    packets: int
    errors: int
    last_error: str
    universes: int


class LaserFault(msgspec.Struct, frozen=True):
    """A guarded fixture, and why it cannot be armed ("" where it can)."""

    id: str
    number: int
    name: str
    fault: str


class EngineStatus(Answer, frozen=True):
    """`stats`: times in ms and shares of the last second. `failed_frames`: those sent again instead of a new one."""

    state: EngineState
    stats: dict[str, float]
    outputs: list[OutputStats]
    cid: str
    cells: int
    revision: int
    failed_frames: int
    lasers: list[LaserFault]


class Command(Request[StateAnswer], frozen=True):
    """Acts on the next frame; the state after it is answered."""

    answers = StateAnswer


class OneMove(msgspec.Struct, frozen=True):
    """One handle to a value; without a value a switch is turned over. Within `over_s` seconds where it fades."""

    handle: str
    value: Any = None
    over_s: float = 0.0


class MoveHandles(Command, frozen=True, tag="move"):
    """All in one frame or none. `by`: whose hand, with which `role`; `at_ms`: when, on the machine's steady clock."""

    moves: list[OneMove]
    by: str = ""
    role: Role = "edit"
    at_ms: float | None = None


class LetGo(Command, frozen=True, tag="let_go"):
    """What this hand holds moves back: at the handles named or, without any, everywhere."""

    by: str = ""
    handles: list[str] | None = None


class SetManual(Command, frozen=True, tag="manual"):
    """By hand: channels of fixtures to values (None releases one), or to levels that become values here."""

    values: dict[str, int | None] = msgspec.field(default_factory=dict)
    levels: dict[str, float] = msgspec.field(default_factory=dict)


class ColourKeys(msgspec.Struct, frozen=True):
    """The channels that make one cell's colour: red, green and blue or, where `by_hue`, hue, saturation and level (""
    where it has none)."""

    keys: tuple[str, str, str]
    by_hue: bool = False


class HoldColours(Command, frozen=True, tag="colours"):
    """One of hue, saturation and brightness of many cells moved by hand, each keeping what is its own. `drag`: one
    movement of a hand; what the cells were when it began is what all of it starts from."""

    cells: list[ColourKeys]
    what: What
    to: float
    drag: str


class SetRaw(Command, frozen=True, tag="raw"):
    values: dict[str, int | None]


class Release(Command, frozen=True, tag="release"):
    """Everything held of channels by hand."""


class Highlight(Command, frozen=True, tag="highlight"):
    fixtures: list[str]


class LightWalk(Command, frozen=True, tag="walk"):
    """What a step of a test walk lights; None ends it."""

    walk: Walk | None = None


class HoldTime(Command, frozen=True, tag="hold_time"):
    pass


class RunTime(Command, frozen=True, tag="run_time"):
    pass


class StepTime(Command, frozen=True, tag="step_time"):
    frames: int = 1


class SetTime(Command, frozen=True, tag="set_time"):
    seconds: float


class Arm(Command, frozen=True, tag="arm"):
    """These lasers may emit, all others are safe. `lease`: what `Renew` keeps up; `until`: Unix time until which they
    stay armed without it."""

    fixtures: list[str]
    lease: str = ""
    until: float | None = None


class Renew(Command, frozen=True, tag="renew"):
    lease: str


class LaserGone(Command, frozen=True, tag="gone"):
    fixture: str


EngineCommand = (
    MoveHandles
    | LetGo
    | SetManual
    | HoldColours
    | SetRaw
    | Release
    | Highlight
    | LightWalk
    | HoldTime
    | RunTime
    | StepTime
    | SetTime
    | Arm
    | Renew
    | LaserGone
)


class AskStatus(Request[EngineStatus], frozen=True, tag="status"):
    answers = EngineStatus


class HandleView(msgspec.Struct, frozen=True):
    """A handle with its value at this moment, None of a trigger."""

    address: str
    path: str
    kind: str
    words: str
    needs: Role
    minimum: float
    maximum: float
    unit: str
    fades: bool
    choices: list[str]
    value: Any


class FoundHandles(Answer, frozen=True):
    handles: list[HandleView]


class AskHandles(Request[FoundHandles], frozen=True, tag="handles"):
    answers = FoundHandles
    words: str = ""
    most: int = 200


class OfferCard(Request[Answer], frozen=True, tag="card"):
    """A socket of a network card travels with it."""

    address: str


EngineRequest = EngineCommand | AskStatus | AskHandles | OfferCard | ShowRequest
