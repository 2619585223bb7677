"""Commands that act on the next frame: the same by HTTP (POST /api/engine) and on the live connection, and no others.

Each says which role may give it (`needs`).
"""

from __future__ import annotations

import time
from datetime import datetime, timedelta
from typing import Annotated, Any, ClassVar, Literal
from uuid import UUID

import msgspec
from pydantic import Field, TypeAdapter

from heliograph.api.schemas.base import Strict
from heliograph.api.schemas.lines import Ramp
from heliograph.api.schemas.moving import SpeedBody, Word
from heliograph.core.roles import Role
from heliograph.ipc.messages import engine as to_engine

Number = Annotated[float, Field(allow_inf_nan=False)]
Level = Number
"""0 to 1; what lies outside is refused with a sentence where levels live."""

Lease = Annotated[str, Field(min_length=16, max_length=64)]
TimeOfDay = Annotated[str, Field(pattern=r"^([01]?\d|2[0-3]):[0-5]\d$")]
Byte = Annotated[int, Field(ge=0, le=255)]

BY_HAND_AT_ONCE = 20_000
MOVES_AT_ONCE = 10_000
STEP_FRAMES_MAX = 44 * 3600
"""Frames that one step may go: an hour."""


class Command(Strict):
    needs: ClassVar[Role] = "run"


class OneMove(Strict):
    """`handle`: an address as GET /api/handles lists them. `value` as its kind takes it. `over_s`: within so many
    seconds, of handles that fade."""

    handle: Annotated[str, Field(max_length=160)]
    value: bool | Number | Word | SpeedBody | Ramp | None = None
    over_s: Annotated[Number, Field(ge=0.0, le=3600.0)] = 0.0


class MoveHandles(Command):
    """Moves handles, all of them in one frame or none. Nothing is stored: what is held of a line lies over what is
    stored, until whoever holds it lets go or is gone."""

    do: Literal["move"]
    moves: list[OneMove] = Field(min_length=1, max_length=MOVES_AT_ONCE)


class LetGo(Command):
    """What this hand holds of lines moves back to what is stored: at these handles or, without any, at all."""

    do: Literal["let_go"]
    handles: list[Annotated[str, Field(max_length=160)]] | None = Field(None, max_length=MOVES_AT_ONCE)


class SetManual(Command):
    """`values`: "<fixture id>/<channel of its mode, from 1>" -> 0..255 on the wire, None releases it. `levels`: of the
    attribute of that channel, 0 to 1, whatever its bits, ranges and turning make of it; ".../<attribute>": of a part of
    its values that does something else."""

    needs: ClassVar[Role] = "edit"
    do: Literal["manual"]
    values: dict[str, Byte | None] = Field(default_factory=dict, max_length=BY_HAND_AT_ONCE)
    levels: dict[str, Level] = Field(default_factory=dict, max_length=BY_HAND_AT_ONCE)


Key = Annotated[str, Field(max_length=80)]


class ColourCell(Strict):
    """Channels "<fixture id>/<channel of its mode>" of red, green and blue or, where `by_hue`, of hue, saturation and
    level, "" where it has none."""

    keys: tuple[Key, Key, Key]
    by_hue: bool = False


class HoldColours(Command):
    """Hue, saturation or brightness of many cells by hand, each keeping what is its own: brightness scales all alike.
    `to`: 0 to 1, of hue a whole turn. `drag`: names one movement of a hand, which starts from what was sent when it
    began."""

    needs: ClassVar[Role] = "edit"
    do: Literal["colours"]
    cells: list[ColourCell] = Field(min_length=1, max_length=BY_HAND_AT_ONCE)
    what: Literal["hue", "saturation", "brightness"]
    to: Level
    drag: Annotated[str, Field(min_length=1, max_length=64)]


class TurnHeads(Command):
    """Heads by hand: each turned by so much of its ranges (pan `across`, tilt `up`, -1 to 1) from where it stood when
    the movement began; together, all alike as the first, or every second one mirrored across. `heads`: channels of pan
    and tilt, "<fixture id>/<channel of its mode>"."""

    needs: ClassVar[Role] = "edit"
    do: Literal["turn"]
    heads: list[tuple[Key, Key]] = Field(min_length=1, max_length=BY_HAND_AT_ONCE)
    across: float = Field(ge=-1.0, le=1.0)
    up: float = Field(ge=-1.0, le=1.0)
    way: Literal["together", "alike", "mirrored"] = "together"
    drag: Annotated[str, Field(min_length=1, max_length=64)]


Text = Annotated[str, Field(min_length=1, max_length=400)]


class TypeValues(Command):
    """Attributes by hand at what is typed: "40 %", "102", "-30°", "half", a value's name, "0 % > full" as a fan over
    `keys` ("<fixture id>/<channel of its mode>", with "/<attribute>" for a part of its values)."""

    needs: ClassVar[Role] = "edit"
    do: Literal["type_values"]
    text: Text
    keys: list[Key] = Field(min_length=1, max_length=BY_HAND_AT_ONCE)


class TypeColours(Command):
    """Colours of cells by hand at what is typed: "amber", "#ffce80", "3200 K", "red > blue" as a fan. `kelvin`: plain
    numbers are colour temperatures."""

    needs: ClassVar[Role] = "edit"
    do: Literal["type_colours"]
    text: Text
    cells: list[ColourCell] = Field(min_length=1, max_length=BY_HAND_AT_ONCE)
    kelvin: bool = False


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
    """Somebody who looked says that the laser is gone from where it lay; without `fixture`: that all are, also those of
    other shows."""

    needs: ClassVar[Role] = "edit"
    do: Literal["gone"]
    fixture: UUID | None = None


EngineCommand = Annotated[
    MoveHandles
    | LetGo
    | SetManual
    | HoldColours
    | TurnHeads
    | TypeValues
    | TypeColours
    | SetRaw
    | Release
    | Highlight
    | HoldTime
    | RunTime
    | StepTime
    | SetTime
    | Arm
    | Renew
    | LaserGone,
    Field(discriminator="do"),
]


class UrgentCommand(Strict):
    """What makes dark, safe or still. `id`: of the press; asked again with the same one it is not done twice."""

    id: Annotated[str, Field(min_length=1, max_length=64)]
    command: Annotated[MoveHandles | Arm, Field(discriminator="do")]


COMMAND: TypeAdapter[Any] = TypeAdapter(EngineCommand)
COMMAND_NAMES = frozenset(str(one.model_fields["do"].annotation.__args__[0]) for one in Command.__subclasses__())  # type: ignore[union-attr]


def as_request(command: Command, by: str = "", role: Role = "edit") -> to_engine.Command:
    """What the engine is asked. `by`: whose hand it is, and with what role."""
    fields = command.model_dump(mode="json")
    if isinstance(command, MoveHandles | LetGo):
        fields["by"] = by
    if isinstance(command, MoveHandles):
        fields |= {"role": role, "at_ms": time.monotonic() * 1000.0}  # the same clock in the engine, on this machine
    if isinstance(command, LaserGone) and command.fixture is None:
        del fields["fixture"]
    if isinstance(command, Arm) and command.until is not None:
        fields["until"] = next_moment(command.until, datetime.now())
    request: to_engine.Command = msgspec.convert(fields, to_engine.EngineCommand)
    return request


def next_moment(time_of_day: str, now: datetime) -> float:
    """Unix time of the next such time of day; `now` is local."""
    hour, minute = map(int, time_of_day.split(":"))
    wanted = now.replace(hour=hour, minute=minute, second=0, microsecond=0)
    if wanted <= now:
        wanted += timedelta(days=1)
    return wanted.timestamp()
