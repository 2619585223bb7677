"""Commands that act on the next frame: the same by HTTP (POST /api/engine) and on the live connection, and no others.

Each says which role may give it (`needs`).
"""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Any, ClassVar, Literal
from uuid import UUID

from pydantic import Field, TypeAdapter

from heliograph.api.schemas.base import Strict
from heliograph.api.schemas.looks import LineMoves
from heliograph.core.roles import Role

Number = Annotated[float, Field(allow_inf_nan=False)]
Level = Number
"""0 to 1; what lies outside is refused with a sentence where levels live."""

Lease = Annotated[str, Field(min_length=16, max_length=64)]
TimeOfDay = Annotated[str, Field(pattern=r"^([01]?\d|2[0-3]):[0-5]\d$")]
Byte = Annotated[int, Field(ge=0, le=255)]

BY_HAND_AT_ONCE = 20_000
LINES_AT_ONCE = 2_000
STEP_FRAMES_MAX = 44 * 3600
"""Frames that one step may go: an hour."""


class Command(Strict):
    needs: ClassVar[Role] = "run"


class StartLook(Command):
    do: Literal["start"]
    look: UUID


class StopLook(Command):
    do: Literal["stop"]
    look: UUID


class SetLookLevel(Command):
    """How much of a look that runs is laid onto what started before it."""

    do: Literal["look_level"]
    look: UUID
    level: Level


class SetMaster(Command):
    do: Literal["master"]
    level: Level


class SetGroupMaster(Command):
    do: Literal["group_master"]
    group: UUID
    level: Level


class SetManual(Command):
    """`values`: "<fixture id>/<channel of its mode, from 1>" -> 0..255 on the wire, None releases it. `levels`: of the
    attribute of that channel, 0 to 1, whatever its bits, ranges and turning make of it; ".../<attribute>": of a part of
    its values that does something else."""

    needs: ClassVar[Role] = "edit"
    do: Literal["manual"]
    values: dict[str, Byte | None] = Field(default_factory=dict, max_length=BY_HAND_AT_ONCE)
    levels: dict[str, Level] = Field(default_factory=dict, max_length=BY_HAND_AT_ONCE)


class SetRaw(Command):
    """ "<universe>.<channel>" -> 0..255, None releases it."""

    needs: ClassVar[Role] = "edit"
    do: Literal["raw"]
    values: dict[str, Byte | None] = Field(max_length=BY_HAND_AT_ONCE)


class Release(Command):
    do: Literal["release"]


class Highlight(Command):
    do: Literal["highlight"]
    fixtures: list[UUID] = Field(max_length=BY_HAND_AT_ONCE)


class SetBlackout(Command):
    do: Literal["blackout"]
    on: bool


class SetFreeze(Command):
    do: Literal["freeze"]
    on: bool


class SetTempo(Command):
    do: Literal["tempo"]
    bpm: Number


class Tap(Command):
    do: Literal["tap"]
    bpm: Number | None = None


class HoldTime(Command):
    do: Literal["hold_time"]


class RunTime(Command):
    do: Literal["run_time"]


class StepTime(Command):
    do: Literal["step_time"]
    frames: int = Field(1, ge=-STEP_FRAMES_MAX, le=STEP_FRAMES_MAX)


class SetTime(Command):
    do: Literal["set_time"]
    seconds: Number


class MakeSafe(Command):
    """Every laser is safe at the next frame; no role needs asking for that."""

    do: Literal["safe"]


class Arm(Command):
    """These lasers may emit and all others are safe. `lease`: a token of the browser's own, renewed every two seconds;
    `until`: a time of day (23:40, in the server's time zone) until which they stay armed without it."""

    needs: ClassVar[Role] = "edit"
    do: Literal["arm"]
    fixtures: list[UUID] = Field(min_length=1, max_length=BY_HAND_AT_ONCE)
    lease: Lease
    until: TimeOfDay | None = None


class Renew(Command):
    needs: ClassVar[Role] = "edit"
    do: Literal["renew"]
    lease: Lease


class LaserGone(Command):
    """Somebody who looked says that the laser is gone from the addresses it left."""

    needs: ClassVar[Role] = "edit"
    do: Literal["gone"]
    fixture: UUID


class LineMove(Strict):
    look: UUID
    line: UUID
    changes: LineMoves


class Gesture(Command):
    """Moves fields of lines, all of them in one frame; stored or taken back later."""

    needs: ClassVar[Role] = "edit"
    do: Literal["gesture"]
    moves: list[LineMove] = Field(min_length=1, max_length=LINES_AT_ONCE)


class EndGesture(Command):
    needs: ClassVar[Role] = "edit"
    do: Literal["end_gesture"]
    look: UUID


EngineCommand = Annotated[
    StartLook
    | StopLook
    | SetLookLevel
    | SetMaster
    | SetGroupMaster
    | SetManual
    | SetRaw
    | Release
    | Highlight
    | SetBlackout
    | SetFreeze
    | SetTempo
    | Tap
    | HoldTime
    | RunTime
    | StepTime
    | SetTime
    | MakeSafe
    | Arm
    | Renew
    | LaserGone
    | Gesture
    | EndGesture,
    Field(discriminator="do"),
]

COMMAND: TypeAdapter[Any] = TypeAdapter(EngineCommand)
COMMAND_NAMES = frozenset(str(one.model_fields["do"].annotation.__args__[0]) for one in Command.__subclasses__())  # type: ignore[union-attr]


def as_message(command: Command) -> dict[str, Any]:
    """What the engine is told."""
    if isinstance(command, MakeSafe):
        return {"do": "arm", "fixtures": []}
    message = command.model_dump(mode="json", exclude_none=not isinstance(command, SetManual | SetRaw))
    if isinstance(command, Arm) and command.until is not None:
        message["until"] = next_moment(command.until, datetime.now())
    return message


def next_moment(time_of_day: str, now: datetime) -> float:
    """Unix time of the next such time of day; `now` is local."""
    hour, minute = map(int, time_of_day.split(":"))
    wanted = now.replace(hour=hour, minute=minute, second=0, microsecond=0)
    if wanted <= now:
        wanted += timedelta(days=1)
    return wanted.timestamp()
