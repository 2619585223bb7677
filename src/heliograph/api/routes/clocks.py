"""The clock of the show: where it is, its rules, the next seven days; and the start of the day."""

from __future__ import annotations

import re
import time
from datetime import datetime, timedelta
from typing import Any

import msgspec
from fastapi import APIRouter

from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.schemas import Done
from heliograph.api.schemas import clocks as schemas
from heliograph.core.errors import InputError, UnavailableError
from heliograph.core.playing.clock import Clock, Occurrence, Place, clock_from_json, occurrences, said_of, sun_of
from heliograph.core.playing.clock import zone_of as zone_named
from heliograph.core.playing.cues import DAY_S
from heliograph.core.playing.typed_actions import read_actions, write_actions
from heliograph.core.playing.typed_clock import read_when
from heliograph.core.playing.typed_place import read_place
from heliograph.edits import clocks
from heliograph.ipc.messages.engine import AskHandles, HandleView, MoveHandles, OneMove
from heliograph.ipc.start_of_day import LAST, NOTHING, StartChoice, read_choice, write_choice
from heliograph.store import rows
from heliograph.store.database import connected

HANDLES_MAX = 500
LISTED = 300
"""Of the next seven days; every few minutes is more than anybody reads."""

STARTS = re.compile(r"^(list/[0-9a-f-]{36}/go|score/[0-9a-f-]{36}/start)$")

router = APIRouter(prefix="/api", tags=["clock"])


@router.patch("/clock")
def change_clock(body: schemas.ClockPatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed the {' and '.join(given)} of the clock") as work:
        if "place" in given:
            given["latitude"], given["longitude"] = read_place(given.pop("place"))
            Place(given["latitude"], given["longitude"])
        clocks.set_place(work, given)
        return Done(revision=work.revision)


@router.post("/clock/rules", status_code=201)
def add_rule(body: schemas.NewRule, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Made a rule of the clock") as work:
        clocks.add_rule(work, {"id": str(body.id), "name": body.name, **_typed(context, body.when, body.does)})
        return Done(revision=work.revision)


@router.patch("/clock/rules/{rule_id}")
def change_rule(rule_id: str, body: schemas.RulePatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a rule of the clock") as work:
        given |= _typed(context, given.pop("when", None), given.pop("does", None))
        clocks.change_rule(work, rule_id, given)
        return Done(revision=work.revision)


@router.delete("/clock/rules/{rule_id}")
def delete_rule(rule_id: str, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Deleted a rule of the clock") as work:
        clocks.delete_rule(work, rule_id)
        return Done(revision=work.revision)


@router.post("/clock/rules/{rule_id}/try")
def try_rule(rule_id: str, context: ContextOf) -> Done:
    """Does now what the rule will do."""
    with connected():
        show = rows.running_show()
        rule = next((one for one in clocks.clock_of(show["id"])["rules"] if one["id"] == rule_id), None)
    if rule is None:
        raise InputError("That rule is not there any more.", where="rule")
    moves = [OneMove(one["handle"], one.get("value"), float(one.get("over_s", 0.0))) for one in rule["actions"]]
    context.command(MoveHandles(moves=moves, by="clock"))
    return Done(revision=show["revision"])


@router.get("/clock/week")
def week(context: ContextOf) -> schemas.Week:
    """What will be done in the next seven days, by the time that the clock has."""
    told = context.clock_told()
    now = told.now_s if told is not None else time.time()
    with connected():
        stored = clocks.clock_of(rows.running_show()["id"])
    known = stored["latitude"] is not None and stored["longitude"] is not None
    clock = clock_from_json(stored) if known else _anywhere(stored)
    zone = zone_named(stored["zone"])
    today = datetime.fromtimestamp(now, zone)
    listed = occurrences(clock, now, now + 7 * DAY_S)
    days = [(today + timedelta(days=n)).date() for n in range(7)]
    faults = list(told.faults) if told is not None else ["The process that starts things by the clock does not answer."]
    if known:
        faults += dict.fromkeys(said for day in days for said in said_of(clock.rules, clock.place, day))
    sun = []
    for when in ("dawn", "dusk") if known else ():
        at = sun_of(when, clock.place, today.date())
        if at is not None:
            sun.append(f"{when} {datetime.fromtimestamp(at, zone):%H:%M}")
    return schemas.Week(
        now=f"{today:%a} {today.day} {today:%b %H:%M:%S}",
        zone=stored["zone"],
        sun=sun,
        due=[_due(one, now, stored) for one in listed[:LISTED]],
        more=max(len(listed) - LISTED, 0),
        faults=faults,
        known=told is not None,
    )


@router.get("/start-of-day")
def start_of_day(context: ContextOf) -> schemas.StartOfDay:
    return schemas.StartOfDay(**msgspec.structs.asdict(read_choice(context.settings.data)))


@router.put("/start-of-day")
def choose_start(body: schemas.StartOfDay, context: ContextOf) -> schemas.StartOfDay:
    """Of this machine, whatever show is open. It counts when the machine is switched on: `up --unattended`."""
    if body.runs not in (LAST, NOTHING) and not STARTS.match(body.runs):
        raise InputError(
            f"'{body.runs[:60]}' cannot be what runs then.", where="runs", repair="Use last, nothing, or list/<id>/go."
        )
    with connected():
        if body.show and not any(one["id"] == body.show and not one.get("deleted_at") for one in rows.shows()):
            raise InputError("That show is not there any more.", where="show")
    try:
        write_choice(context.settings.data, StartChoice(body.show, body.runs))
    except OSError as error:
        raise UnavailableError(f"It cannot be written to disk: {error.strerror}.") from error
    return body


def _typed(context: Context, when: str | None, does: str | None) -> dict[str, Any]:
    """Fields of a stored rule of what was typed."""
    given: dict[str, Any] = {}
    if when is not None:
        given |= read_when(when)
    if does is not None:
        given["actions"] = read_actions(does, lambda words: _handles(context, words))
        if not given["actions"]:
            raise InputError("A rule does something.", where="does", repair="Type Winter evening: go.")
    return given


def _handles(context: Context, words: str) -> list[HandleView]:
    return context.engine.ask(AskHandles(words=words, most=HANDLES_MAX)).handles


def _anywhere(stored: rows.Record) -> Clock:
    """Of a show that does not say where it is: no rule of it is about the sun."""
    return clock_from_json({**stored, "latitude": 0.0, "longitude": 0.0})


def _due(one: Occurrence, now: float, stored: rows.Record) -> schemas.DueView:
    shown = datetime.fromtimestamp(one.at, zone_named(stored["zone"]))
    rule = next(each for each in stored["rules"] if each["id"] == one.rule.id)
    return schemas.DueView(
        rule=one.rule.id,
        day=f"{shown:%a} {shown.day} {shown:%b}",
        time=f"{shown:%H:%M}",
        left_s=one.at - now,
        name=one.rule.name,
        does=write_actions(rule["actions"]),
    )
