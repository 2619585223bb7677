"""The test walk that is on, one for all people: its steps, where it stands, and its going on by itself.

It belongs to the web process and not to the show: when it ends, or the process does, the lamps are as before.
"""

from __future__ import annotations

import contextlib
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import structlog

from heliograph.api import schemas
from heliograph.api.publisher import Published
from heliograph.core.errors import HeliographError, InputError, NotFoundError
from heliograph.core.patch.dmx import parse_address
from heliograph.core.profiles.attributes import EMITTERS
from heliograph.core.rig.arrays import Rig, owners_of
from heliograph.core.rig.selection import Atom
from heliograph.core.walk.moment import Walk
from heliograph.core.walk.steps import Lamp, Square, Step, lamps_of, lamps_on, step_of_cell, steps_of
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.engine import LightWalk

CELLS_SHOWN, SQUARES_SHOWN = 500, 20_000
SECONDS_MIN = 0.05

Tell = Callable[[dict[str, Any]], None]


@dataclass(frozen=True, slots=True)
class _Route:
    """What is walked over, as it was asked for; `atoms` of the selection, where no matrix is walked."""

    asked: schemas.WalkStart
    over: str
    show: str
    atoms: tuple[Atom, ...]


class WalkKeeper:
    """All methods may be called from any thread."""

    def __init__(self, engine: ControlClient, current: Callable[[], Published], tell: Tell) -> None:
        self._engine, self._current, self._tell = engine, current, tell
        self._changed = threading.Condition(threading.RLock())
        self._route: _Route | None = None
        self._steps: list[Step] = []
        self._squares: dict[Atom, Square] = {}
        self._of: Published | None = None
        self._index = 0
        self._walk = Walk()
        self._seconds, self._hold = 0.0, False
        self._due = 0.0
        self.turn = 0
        self._log = structlog.get_logger("web")
        threading.Thread(target=self._go_by_itself, name="walk", daemon=True).start()

    @property
    def running(self) -> bool:
        return self._route is not None

    def start(self, asked: schemas.WalkStart, atoms: tuple[Atom, ...]) -> None:
        """Lights the first step; InputError where there is none, and nothing changes."""
        if asked.emitter and asked.emitter not in EMITTERS:
            raise InputError(f"'{asked.emitter}' is no emitter.", where="emitter")
        now = self._current()
        over = asked.selection
        if asked.matrix is not None:
            section = now.sections.get(f"matrix:{asked.matrix}")
            if section is None:
                raise NotFoundError("That matrix is not there any more.", where="matrix")
            over = str(section["name"])
        elif asked.by == "address" and asked.universe is not None:
            over = f"U{asked.universe}"
        route = _Route(asked, over, str(now.show.get("id", "")), atoms)
        steps, squares = _plan(route, now)
        with self._changed:
            before = self._route
            self._route, self._steps, self._squares, self._of = route, steps, squares, now
            self._index, self._hold = 0, False
            self._walk = Walk(emitter=asked.emitter, level=asked.level, alone=asked.alone)
            self._set_seconds(asked.seconds)
            try:
                self._light()
            except HeliographError:
                self._route = before
                raise
        self._log.info(f"test walk over {over} by {asked.by} began", event_for_people=True)

    def go(self, body: schemas.WalkGo) -> None:
        with self._changed:
            self._need()
            if body.fixture is not None:
                found = step_of_cell(self._steps, (str(body.fixture), body.cell))
                if found is None:
                    raise InputError("This walk does not light that cell.", where="cell")
                self._index = found
            elif body.to is not None:
                if body.to >= len(self._steps):
                    raise InputError(f"The walk has {len(self._steps)} steps.", where="to")
                self._index = body.to
            else:
                self._index = (self._index + (body.by if body.by is not None else 1)) % len(self._steps)
            self._light()

    def change(self, body: schemas.WalkPatch) -> None:
        with self._changed:
            self._need()
            if body.emitter and body.emitter not in EMITTERS:
                raise InputError(f"'{body.emitter}' is no emitter.", where="emitter")
            given = body.model_dump(exclude_none=True)
            self._walk = replace(self._walk, **{k: given[k] for k in ("emitter", "level", "alone") if k in given})
            if body.hold is not None:
                self._hold = body.hold
            if body.seconds is not None:
                self._set_seconds(body.seconds)
            self._light()

    def stop(self) -> None:
        """The lamps are again as they were before."""
        with self._changed:
            was, self._route = self._route, None
            self._steps, self._squares = [], {}
            self._engine.ask(LightWalk())
            self._told()
        if was is not None:
            self._log.info(f"test walk over {was.over} ended", event_for_people=True)

    def again(self) -> None:
        """Lights the present step once more: an engine that was started anew knows of no walk."""
        with self._changed:
            if self._route is not None:
                self._light()

    def lit(self) -> list[Atom]:
        """What the present step is about, to be marked: a whole fixture as its cell 0, channels by their owners."""
        with self._changed:
            route = self._need()
            step = self._steps[self._index]
            rig = self._current().rig
            if route.asked.by == "fixture":
                return [(step.cells[0][0], 0)]
            owners: dict[Atom, None] = {}
            for channel in step.channels:
                address = parse_address(channel)
                for owner in owners_of(rig, address.universe).get(address.channel, []):
                    owners[owner.fixture.id, int(owner.cell or 0)] = None
            return [*step.cells, *owners]

    def view(self) -> schemas.WalkView:
        with self._changed:
            if self._route is None:
                return schemas.WalkView(running=False, turn=self.turn)
            self._fit()
            asked, count = self._route.asked, len(self._steps)
            step = self._steps[self._index]
            squares = dict.fromkeys(self._squares[one] for one in step.cells if one in self._squares)
            return schemas.WalkView(
                running=True,
                turn=self.turn,
                by=asked.by,
                matrix=str(asked.matrix or ""),
                over=self._route.over,
                index=self._index,
                count=count,
                label=step.label,
                place=step.place,
                before=self._steps[(self._index - 1) % count].label,
                after=self._steps[(self._index + 1) % count].label,
                cells=[schemas.CellAt(fixture=name, cell=cell) for name, cell in step.cells[:CELLS_SHOWN]],
                squares=list(squares)[:SQUARES_SHOWN],
                emitter=self._walk.emitter,
                level=self._walk.level,
                alone=self._walk.alone,
                seconds=self._seconds,
                hold=self._hold,
            )

    def fit(self) -> None:
        """To be called when the engine gets another show or an edit."""
        with self._changed:
            turn = self._of
            self._fit()
            if turn is not self._of:
                self._told()

    def _need(self) -> _Route:
        self._fit()
        if self._route is None:
            raise NotFoundError("No test walk is on.", where="walk", repair="Start one at Check.")
        return self._route

    def _fit(self) -> None:
        """After an edit the steps are made anew, and the walk stays where it is; another show ends it."""
        now = self._current()
        route = self._route
        if route is None or now is self._of:
            return
        self._of = now
        try:
            if now.show.get("id") != route.show:
                raise NotFoundError("The walk was of another show.")
            self._steps, self._squares = _plan(route, now)
        except HeliographError:
            self._route = None
            with contextlib.suppress(HeliographError):
                self._engine.ask(LightWalk())
            return
        self._index = min(self._index, len(self._steps) - 1)

    def _set_seconds(self, seconds: float) -> None:
        if 0.0 < seconds < SECONDS_MIN:
            raise InputError(f"A step of {seconds:g} s is too short: {SECONDS_MIN:g} s is the least.", where="seconds")
        self._seconds = seconds

    def _light(self) -> None:
        step = self._steps[self._index]
        cells: dict[str, list[int] | None] = {}
        for name, cell in step.cells:
            if cell:
                cells.setdefault(name, [])
                if (found := cells[name]) is not None:
                    found.append(cell)
            else:
                cells[name] = None
        walk = replace(
            self._walk,
            cells={k: tuple(v) if v is not None else None for k, v in cells.items()},
            channels=step.channels,
            emitter=step.emitter or self._walk.emitter,
        )
        self._engine.ask(LightWalk(walk=walk))
        self._due = time.monotonic() + self._seconds
        self._told()

    def _told(self) -> None:
        self.turn += 1
        self._changed.notify_all()
        self._tell({"type": "walk", "turn": self.turn})

    def _go_by_itself(self) -> None:
        with self._changed:
            while True:
                if self._route is None or self._hold or not self._seconds:
                    self._changed.wait()
                    continue
                left = self._due - time.monotonic()
                if left > 0:
                    self._changed.wait(left)
                    continue
                try:
                    self._fit()
                    if self._route is not None:
                        self._index = (self._index + 1) % len(self._steps)
                        self._light()
                except HeliographError:  # the engine is being restarted: once more at the next step
                    self._due = time.monotonic() + max(self._seconds, 1.0)


def _plan(route: _Route, now: Published) -> tuple[list[Step], dict[Atom, Square]]:
    rig: Rig = now.rig
    lamps: list[Lamp]
    if route.asked.matrix is not None:
        section = now.sections.get(f"matrix:{route.asked.matrix}")
        lamps = lamps_on(rig, section["placements"]) if section else []
    else:
        lamps = lamps_of(rig, route.atoms)
    steps = steps_of(route.asked.by, lamps, rig, route.asked.universe)
    return steps, {one.atom: one.square for one in lamps if one.square is not None}
