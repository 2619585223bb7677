"""The running show as screens show it, worked out once for each revision, and what of it changed since a browser
looked.

Every answer has a version. A browser that names the one it has gets only the objects that are others since then,
however the show came to be what it is: an edit, an undo, another profile beneath them.
"""

from __future__ import annotations

import threading
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any
from uuid import uuid4

from heliograph.api import schemas
from heliograph.api.canvases import canvases
from heliograph.api.chase_views import chase_view
from heliograph.api.choosing import with_members
from heliograph.api.cue_views import clock_view, cue_list_views, page_view, things
from heliograph.api.score_views import score_views
from heliograph.api.views import clip_view, fixture_views, output_view, preset_view, profile_view, ramp_view
from heliograph.core.show.clip_numbers import numbers_of
from heliograph.store import rows
from heliograph.store.kept import all_kept
from heliograph.store.rows import Record

Parts = dict[str, list[Record]]

VERSIONS_BACK = 500
"""Changes are told so far back; whoever looked longer ago gets everything."""


@dataclass(frozen=True, slots=True)
class Shown:
    """`parts` by name, each a list in its order; what has an id is told object by object."""

    show: Record
    parts: Parts
    version: int


@dataclass(slots=True)
class _History:
    """Of one part: the version at which each object became what it is, and what went at which version."""

    since: dict[str, int] = field(default_factory=dict)
    gone: list[tuple[int, str]] = field(default_factory=list)
    order: int = 0
    """When objects that stayed last changed their order."""


class ShownShow:
    """Call `read` within a database connection; from any thread."""

    def __init__(self) -> None:
        self._boot = uuid4().hex[:8]
        self._lock = threading.Lock()
        self._key: tuple[Any, ...] = ()
        self._now = Shown({}, {}, 0)
        self._oldest = 0
        self._history: dict[str, _History] = {}

    def read(self) -> Shown:
        """The show as it is."""
        show = rows.running_show()
        kept = {(one["maker"], one["name"]) for one in all_kept()}
        key = (show["id"], show["revision"], show["name"], frozenset(kept))
        with self._lock:
            if key != self._key:
                self._take(Shown(show, _parts(rows.whole_show(show), kept), self._now.version + 1))
                self._key = key
            return self._now

    def named(self, version: int) -> str:
        """A version as browsers know it: one of another run of this process is never taken for one of this."""
        return f"{self._boot}-{version}"

    def changes(self, now: Shown, show: str, known: str) -> dict[str, Any] | None:
        """What of `now` is other than at the version `known` of `show`; None where that is not known any more."""
        boot, _, number = known.partition("-")
        if boot != self._boot or not number.isdecimal() or show != now.show["id"]:
            return None
        since = int(number)
        with self._lock:
            if not self._oldest <= since <= now.version or now is not self._now:
                return None
            found = {name: self._changed(name, now.parts[name], since) for name in now.parts}
        return {name: part for name, part in found.items() if part is not None}

    def _changed(self, name: str, part: list[Record], since: int) -> dict[str, Any] | None:
        history = self._history[name]
        put = [{"place": place, "now": one} for place, one in enumerate(part) if history.since[_id(one)] > since]
        gone = [key for version, key in history.gone if version > since and key not in history.since]
        if not put and not gone and history.order <= since:
            return None
        order = [_id(one) for one in part] if history.order > since else None
        return {"put": put, "gone": gone, "order": order}

    def _take(self, new: Shown) -> None:
        old, self._now = self._now, new
        if old.show.get("id") != new.show["id"]:
            self._oldest = new.version
            self._history = {name: _History() for name in new.parts}
        self._oldest = max(self._oldest, new.version - VERSIONS_BACK)
        for name, part in new.parts.items():
            history = self._history[name]
            before = {_id(one): one for one in old.parts.get(name, ())} if history.since else {}
            after = {_id(one): one for one in part}
            for key, one in after.items():
                if before.get(key) != one:
                    history.since[key] = new.version
            for key in before.keys() - after.keys():
                del history.since[key]
                history.gone.append((new.version, key))
            history.gone = [one for one in history.gone if one[0] > self._oldest]
            stayed = [key for key in before if key in after]
            if stayed != [key for key in after if key in before]:
                history.order = new.version


def _id(one: Mapping[str, Any]) -> str:
    """What names an object among those of its part: a parked channel has no id of its own."""
    return str(one["id"]) if "id" in one else f"{one['universe']}.{one['channel']}"


def _parts(tables: dict[str, list[Record]], kept: set[tuple[str, str]]) -> Parts:
    looks = tables["look"]
    numbers = numbers_of(tables["clip"])
    known = things(tables)
    return {
        "profiles": [profile_view(profile, kept) for profile in tables["profile"]],
        "fixtures": fixture_views(tables["profile"], tables["fixture"]),
        "groups": [schemas.GroupView(**group).model_dump() for group in with_members(tables)],
        "plans": tables["plan"],
        "matrices": [schemas.MatrixView(**matrix).model_dump() for matrix in tables["matrix"]],
        "canvases": [schemas.MatrixView(**one).model_dump() for one in canvases(tables)],
        "looks": [schemas.LookView(**look).model_dump() for look in looks],
        "outputs": [output_view(output).model_dump() for output in tables["output"]],
        "clips": [clip_view(clip, looks, numbers[clip["id"]]).model_dump() for clip in tables["clip"]],
        "ramps": [ramp_view(ramp, looks).model_dump() for ramp in tables["ramp"]],
        "chases": [chase_view(chase, looks).model_dump() for chase in tables["chase"]],
        "cue_lists": [one.model_dump() for one in cue_list_views(tables["cue_list"], looks, tables["group"], known)],
        "scores": [one.model_dump() for one in score_views(tables)],
        "clocks": [clock_view(one, known).model_dump() for one in tables["clock"]],
        "pages": [page_view(one).model_dump() for one in tables["page"]],
        "favourites": tables["favourite"],
        "presets": [preset_view(preset, looks).model_dump() for preset in tables["preset"]],
        "marks": tables["mark"],
        "parked": [schemas.ParkedView(**one).model_dump() for one in tables["parked"]],
    }
