"""What scores play that is nobody's look: white over a group, a preset over a group. Made as looks are, and not listed
among them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from uuid import NAMESPACE_OID, uuid5

from heliograph.core.look.line import AttributeLine
from heliograph.edits.looks import complete_line
from heliograph.edits.presets import AS_IT_BEGINS
from heliograph.store.rows import Record

WHITE = "white"


def own_look(group: str, plays: str) -> str:
    """The id of what plays a preset by its id, or `WHITE`, over a group."""
    return str(uuid5(NAMESPACE_OID, f"{plays} over {group}"))


def own_looks(tables: Mapping[str, Sequence[Record]]) -> list[Record]:
    """A record like a look's for each of them that a score of the show has."""
    presets = {one["id"]: one["name"] for one in tables.get("preset", ())}
    found: dict[str, Record] = {}
    for score in tables.get("score", ()):
        for group, plays in _played(score):
            if plays != WHITE and plays not in presets:
                continue
            key = own_look(group, plays)
            found[key] = {"id": key, "name": presets.get(plays, WHITE), "lines": [_line(key, group, plays)]}
    return list(found.values())


def look_of_entry(entry: Record, group: str) -> str:
    """The id of the look, or of what is made like one, that a stored entry plays; "" of one whose own is gone."""
    if entry.get("look"):
        return str(entry["look"])
    plays = entry.get("preset") or (WHITE if entry.get("white") else "")
    return own_look(group, plays) if plays else ""


def _played(score: Record) -> Iterator[tuple[str, str]]:
    groups = {stave["id"]: stave["group"] for stave in score["staves"] if stave["group"]}
    for one in (*score["entries"], *score["positions"]):
        group = groups.get(one["stave"])
        plays = one.get("preset") or (WHITE if one.get("white") else "")
        if group and plays:
            yield group, plays


def _line(key: str, group: str, plays: str) -> Record:
    over = {**AS_IT_BEGINS, "id": str(uuid5(NAMESPACE_OID, key)), "matrix": "", "group": group, "selection": ""}
    if plays != WHITE:
        return complete_line({**over, "paints": AttributeLine.paints, "presets": [plays]})
    return complete_line({**over, "paints": "effect", "effect": "Flat", "ramp": [[0.0, 255, 255, 255]]})
