"""Cue lists, the clock and pages as the browser shows them: as they are typed."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence

from heliograph.api import schemas
from heliograph.api.schemas.clocks import ClockView, RuleView
from heliograph.api.schemas.pages import PageView
from heliograph.core.pages import COLUMNS, ROWS
from heliograph.core.playing.cues import cue_list_from_json
from heliograph.core.playing.lists import next_of
from heliograph.core.playing.typed_actions import write_actions
from heliograph.core.playing.typed_clock import write_when
from heliograph.core.playing.typed_cues import write_looks, write_then, write_time
from heliograph.core.playing.typed_place import write_place
from heliograph.core.show.references import things_of
from heliograph.store.rows import Record


def things(tables: Mapping[str, Sequence[Record]]) -> frozenset[str]:
    """The ids of everything in a show that handles are of."""
    lines = (line["id"] for look in tables["look"] for line in look["lines"])
    return frozenset((*lines, *(one["id"] for rows in tables.values() for one in rows if "id" in one)))


def _gone(actions: Iterable[Record], known: Collection[str]) -> list[str]:
    """In words what actions move that is not there any more."""
    return [one["words"] for one in actions if any(thing not in known for thing in things_of(one["handle"]))]


def cue_list_views(
    lists: list[Record], looks: list[Record], groups: list[Record], known: Collection[str]
) -> list[schemas.CueListView]:
    main = next((one["id"] for one in lists if one["main"]), lists[0]["id"] if lists else "")
    return [_list_view(one, looks, groups, known, one["id"] == main) for one in lists]


def _list_view(
    one: Record, looks: list[Record], groups: list[Record], known: Collection[str], main: bool
) -> schemas.CueListView:
    names = {look["id"]: look["name"] for look in looks}
    of_groups = {group["id"]: group["name"] for group in groups}
    return schemas.CueListView(
        cues=[cue_view(cue, names, of_groups, known) for cue in one["cues"]],
        main=main,
        first=first.id if (first := next_of(None, cue_list_from_json(one))) else "",
        release=write_time(one["release_s"], "s"),
        **{name: one[name] for name in ("id", "rev", "name", "priority", "order", "rounds", "letting_go")},
    )


def clock_view(one: Record, known: Collection[str]) -> ClockView:
    rules = [
        RuleView(
            when=write_when(rule),
            does=write_actions(rule["actions"]),
            gone=_gone(rule["actions"], known),
            **{name: rule[name] for name in ("id", "name", "on")},
        )
        for rule in one["rules"]
    ]
    place = write_place(one["latitude"], one["longitude"])
    return ClockView(place=place, rules=rules, **{name: one[name] for name in ("id", "rev", "zone")})


def page_view(one: Record) -> PageView:
    facts = {name: one[name] for name in ("id", "rev", "name", "slug", "items")}
    return PageView.model_validate({**facts, "columns": COLUMNS, "rows": ROWS})


def cue_view(
    cue: Record, looks: Mapping[str, str], groups: Mapping[str, str], known: Collection[str]
) -> schemas.CueView:
    gone = [each.get("gone") or "a look" for each in cue["looks"] if each["look"] not in looks]
    unit, fade_out = cue["unit"], cue["fade_out"]
    return schemas.CueView(
        looks=write_looks(cue, looks, groups),
        fade_in=write_time(cue["fade_in"], unit),
        fade_out="" if fade_out is None else write_time(fade_out, unit),
        delay=write_time(cue["delay"], unit) if cue["delay"] else "",
        then=write_then(cue),
        does=write_actions(cue["actions"]),
        plays=[schemas.CueLookBody(**each) for each in cue["looks"]],
        gone=[*gone, *_gone(cue["actions"], known)],
        **{name: cue[name] for name in ("id", "number", "name", "note", "mark", "curve", "ready", "actions")},
    )
