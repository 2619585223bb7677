"""The clock, as it is typed and as it is shown; and the start of the day."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Strict
from heliograph.api.schemas.cue_lists import CueAction
from heliograph.core.playing.clock import EXCEPT_MAX
from heliograph.core.playing.cues import ACTIONS_MAX

Short = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
Words = Annotated[str, StringConstraints(max_length=2_000)]
Named = Annotated[str, StringConstraints(max_length=120, strip_whitespace=True)]


class ClockPatch(Strict):
    """`place`: "57.70 N 2.00 W"; `zone`: "Europe/London"."""

    place: Short | None = None
    zone: Short | None = None


class NewRule(Strict):
    """`when`: "10 min before dusk on Mon-Fri"; `does`: "Winter evening: go"."""

    id: UUID
    when: Words
    does: Words
    name: Named = ""


class RulePatch(Strict):
    when: Words | None = None
    does: Words | None = None
    name: Named | None = None
    on: bool | None = None


class StoredRule(Strict):
    id: str = Field(max_length=36)
    name: Named = ""
    on: bool = True
    when: Literal["time", "dusk", "dawn", "every"]
    at_s: float = 0.0
    every_s: float = 0.0
    until_s: float = 86_400.0
    days: list[int] = Field(default_factory=list, max_length=7)
    first: str = Field("", max_length=10)
    last: str = Field("", max_length=10)
    exceptions: list[Annotated[str, StringConstraints(max_length=10)]] = Field(
        default_factory=list, max_length=EXCEPT_MAX
    )
    actions: list[CueAction] = Field(default_factory=list, max_length=ACTIONS_MAX)


class RuleView(BaseModel):
    """`gone`: what it does that is not there any more."""

    id: str
    name: str
    on: bool
    when: str
    does: str
    gone: list[str]


class ClockView(BaseModel):
    """`place` "" where it was not said."""

    id: str
    rev: int
    place: str
    zone: str
    rules: list[RuleView]


class DueView(BaseModel):
    """Something that will be done: `day` "Sun 29 Nov", `time` "16:12", in `left_s` seconds."""

    rule: str
    day: str
    time: str
    left_s: float
    name: str
    does: str


class Week(BaseModel):
    """The next seven days. `now`: as the clock has it; `sun`: dusk and dawn of today; `known` False while the inputs
    process does not answer: then it is this machine's time. `more`: so many are not listed."""

    now: str
    zone: str
    sun: list[str]
    due: list[DueView]
    more: int
    faults: list[str]
    known: bool


class StartOfDay(Strict):
    """What happens when the machine is switched on: which `show` opens ("": the last one), and what `runs`: "last"
    state, "nothing", or a handle like list/<id>/go."""

    show: str = Field("", max_length=36)
    runs: str = Field("last", max_length=120)
