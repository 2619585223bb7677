"""Groups and typed selections that lines are painted over: rows of their cells in order, as if they were matrices."""

from __future__ import annotations

from typing import Any

from heliograph.api.choosing import choose, named_groups, selectables
from heliograph.core.errors import InputError
from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.emitters import EMITTER_WORDS, check_emitter, said_of_plain
from heliograph.core.matrix.placements import Placement, pack
from heliograph.core.rig.selection import Selection, all_members, select
from heliograph.store import rows
from heliograph.store.rows import Record


def canvases(tables: dict[str, list[Record]]) -> list[Record]:
    """A record like a matrix's for each group and selection that a line is painted over or a chase is drawn on. Who
    belongs to it is read anew each time, so that a fixture that joins is painted at the next frame."""
    looks = (*tables.get("look", ()), *tables.get("own_look", ()))
    lines = [line for look in looks for line in look["lines"]]
    lines += tables.get("chase", [])
    wanted = {line["group"] for line in lines if line.get("group")}
    texts = {canvas_of(line): str(line["selection"]) for line in lines if line.get("selection")}
    if not wanted and not texts:
        return []
    fixtures = selectables(tables["profile"], tables["fixture"])
    groups = named_groups(tables["group"])
    found = []
    if wanted:
        for group, members in zip(tables["group"], all_members(fixtures, groups), strict=True):
            if group["id"] in wanted:
                found.append(_row(group["id"], group["name"], members))
    for key, text in sorted(texts.items()):
        try:
            found.append(_row(key, text, select(fixtures, text, groups)))
        except InputError:  # it can be read no more: its group went, for one
            found.append(_row(key, text, Selection(())))
    return found


def _row(key: str, name: str, chosen: Selection) -> dict[str, Any]:
    """`members`: whose attributes a line over it sets, by what is chosen of them."""
    placements = pack(Placement(cell, float(n), 0.0) for n, cell in enumerate(chosen.cells))
    shape = {"width": max(chosen.cell_count, 1), "height": 1, "placements": placements}
    members = list(chosen.parts) or [one.id for one in chosen.fixtures]
    named = {"name": name, "shares": "", "emitter": chosen.emitter, "members": members}
    return {"id": key, "rev": 0, "place": 0, **named, **shape}


def check_selection(show: str, text: str | None, painted: bool = True) -> None:
    """Raises InputError for words that mean no cells of the show; or, where nothing is `painted`, no fixtures."""
    if not text:
        return
    chosen = choose(show, text)
    check_emitter(chosen.emitter)
    if not painted:
        if not chosen.fixtures:
            raise InputError(f"'{text}' means no fixtures.", where="selection", repair="Type 101-118, Bars, or all.")
    elif not chosen.cells:
        raise InputError(f"'{text}' has no cells to paint.", where="selection", repair="Type 101-118, Bars, or all.")


def emitters_over(show: str, line: Record) -> tuple[list[str], str]:
    """The words of emitters that lamps beneath a line have and that it can be painted over alone; and a sentence where
    some of them make no colours."""
    tables = {kind: rows.all_of(kind, show) for kind in ("profile", "fixture", "group", "matrix")}
    among = [*rows.with_shared(tables["matrix"]), *canvases({**tables, "look": [{"lines": [line]}]})]
    canvas = next((one for one in among if one["id"] == canvas_of(line)), None)
    if canvas is None:
        return [], ""
    here = set(canvas["placements"]["fixtures"])
    kinds = {one.emitters for one in selectables(tables["profile"], tables["fixture"]) if one.id in here}
    has = {word for words in kinds for word in words}
    return [word for word in EMITTER_WORDS if word in has], said_of_plain(kinds)
