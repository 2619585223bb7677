"""Requests to the engine: commands that act on the next frame, its status, the show."""

from __future__ import annotations

from typing import Any

import msgspec

from heliograph.core.hand.colouring import What
from heliograph.core.hand.turning import Way
from heliograph.core.roles import Role
from heliograph.core.walk.moment import Walk
from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.messages.engine_state import EngineState
from heliograph.ipc.messages.show import ShowRequest


class HandleNow(msgspec.Struct, frozen=True):
    """A handle's `value` at this moment; None of one that is not there (`known`), or a trigger. Of a look's switch: how
    much of it there is, `fade` 0..1, and until that has arrived, `left_s`."""

    handle: str
    known: bool
    value: Any = None
    fade: float | None = None
    left_s: float = 0.0


class FingerTold(msgspec.Struct, frozen=True):
    """A finger on an item: whose, since when, and how many beats it has left, 0 of one that is held."""

    finger: str
    item: str
    who: str
    held_s: float
    beats_left: float


class ValuesTold(Answer, frozen=True):
    values: list[HandleNow]
    fingers: list[FingerTold]
    beat: float
    bpm: float


class AskValues(Request[ValuesTold], frozen=True, tag="values"):
    """What these handles are at this moment, and which fingers are on pads."""

    answers = ValuesTold
    handles: list[str]


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


class ClockDue(Command, frozen=True, tag="clock_due"):
    """What a clock has to do, as of `at_s` (Unix time): done once, however often it is told; a move that is refused
    keeps none of the others. `says` it to people."""

    at_s: float
    moves: list[OneMove]
    says: list[str] = msgspec.field(default_factory=list)


FINGER_S = 1.0
"""A finger that nobody kept for so long is gone."""


class Touch(Command, frozen=True, tag="touch"):
    """A finger on an item of a page: all `moves` in one frame or none. `lift`: what is done once it is lifted, or
    nobody keeps it any more; after so many `beats` by itself, 0 for none. `held`: it is told of while it is down, even
    where lifting does nothing. `who`: whose it is, for people."""

    finger: str
    item: str
    moves: list[OneMove]
    lift: list[OneMove] = msgspec.field(default_factory=list)
    beats: float = 0.0
    held: bool = True
    who: str = ""
    by: str = ""
    role: Role = "edit"


class KeepFingers(Command, frozen=True, tag="keep_fingers"):
    """These are down still."""

    fingers: list[str]


class Lift(Command, frozen=True, tag="lift"):
    """`at_once`: one that counts beats by itself, too."""

    finger: str
    at_once: bool = False


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


class TurnHeads(Command, frozen=True, tag="turn"):
    """Heads turned by hand, each by its channels of pan and tilt: by so much of their ranges, from where they stood
    when the movement began. `way`: together each from its own place, all alike to that of the first, or every second
    mirrored."""

    heads: list[tuple[str, str]]
    across: float
    up: float
    way: Way
    drag: str


class TypeValues(Command, frozen=True, tag="type_values"):
    """Attributes held at what was typed. `keys`: "<fixture id>/<channel of its mode>", with "/<attribute>" where a part
    of its values is meant, in the order in which a fan goes over them."""

    text: str
    keys: list[str]


class TypeColours(Command, frozen=True, tag="type_colours"):
    """Colours of cells held at what was typed. `kelvin`: plain numbers are colour temperatures."""

    text: str
    cells: list[ColourKeys]
    kelvin: bool = False


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
    """`fixture`: "" for all that lay anywhere, also in other shows."""

    fixture: str = ""


EngineCommand = (
    MoveHandles
    | ClockDue
    | Touch
    | KeepFingers
    | Lift
    | LetGo
    | SetManual
    | HoldColours
    | TurnHeads
    | TypeValues
    | TypeColours
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


class ClipAsked(msgspec.Struct, frozen=True):
    """Frames of a clip that are painted and not all there: their file's name, and the moment of the clip that was asked
    for. `content`, `suffix`, ...: what they are made of, where it is a hand that chose the clip."""

    file: str
    asked_ns: int
    content: str = ""
    suffix: str = ""
    width: int = 0
    height: int = 0
    fitting: dict[str, Any] = msgspec.field(default_factory=dict)


class ClipsAsked(Answer, frozen=True):
    clips: list[ClipAsked]


class AskClips(Request[ClipsAsked], frozen=True, tag="clips"):
    """What was painted of clips since this was asked last."""

    answers = ClipsAsked


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


EngineRequest = EngineCommand | AskValues | AskStatus | AskClips | AskHandles | OfferCard | ShowRequest

URGENT_HANDLES = frozenset({"blackout", "freeze", "safe"})


TOO_LATE = "Lasers were made safe after that was asked: they stay safe."


def makes_safe(request: Request[Answer]) -> bool:
    """Makes every laser safe. It overtakes what waits, and what waits must not arm them after it."""
    if isinstance(request, MoveHandles):
        return any(one.handle == "safe" for one in request.moves)
    return isinstance(request, Arm) and not request.fixtures


def is_urgent(request: Request[Answer]) -> bool:
    """What makes dark, safe or still goes before whatever else waits, from the page to the frame; so does its end."""
    if isinstance(request, MoveHandles):
        return {one.handle for one in request.moves} <= URGENT_HANDLES
    return makes_safe(request)
