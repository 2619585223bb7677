"""Scores as the browser shows them: as they are typed, with colours to draw entries in."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.api.schemas import scores as schemas
from heliograph.api.voices import looks_of_staves
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.score import score_from_json, written
from heliograph.core.playing.typed_cues import write_time
from heliograph.core.playing.typed_scores import write_beats, write_lies
from heliograph.edits.own_looks import WHITE
from heliograph.store.rows import Record

WHITE_RAMP = [(0.0, 255.0, 255.0, 255.0)]


class Names:
    """What entries of a show may play, by id: names and colours."""

    def __init__(self, tables: Mapping[str, list[Record]]) -> None:
        self.looks = {one["id"]: one["name"] for one in tables["look"]}
        self.presets = {one["id"]: one["name"] for one in tables["preset"]}
        saved = {one["id"]: one["stops"] for one in tables["ramp"]}
        self.ramps: dict[str, Any] = {}
        for look in tables["look"]:
            painted = [line for line in look["lines"] if line["paints"] == "effect" and not line["mute"]]
            if painted:
                self.ramps[look["id"]] = saved.get(painted[0].get("saved_ramp") or "", painted[0]["ramp"])


def score_views(tables: dict[str, list[Record]]) -> list[schemas.ScoreView]:
    return [_score_view(tables, one, Names(tables)) for one in tables["score"]]


def _score_view(tables: dict[str, list[Record]], one: Record, names: Names) -> schemas.ScoreView:
    groups = {group["id"]: group["name"] for group in tables["group"]}
    reach = looks_of_staves(tables, one["staves"])
    follows = score_from_json({**one, "positions": ()}).followers
    staves = [
        schemas.StaveView(
            id=stave["id"],
            group=stave["group"],
            name=groups.get(stave["group"]) or f"{stave.get('gone') or 'a group'} (gone)",
            gone=stave["group"] not in groups,
            looks=[look["id"] for look in reach[stave["id"]]],
        )
        for stave in one["staves"]
    ]
    return schemas.ScoreView(
        beats=float(one["bars"] * BEATS_OF_BAR),
        bar_beats=BEATS_OF_BAR,
        release=write_time(one["release_s"], "s"),
        staves=staves,
        entries=[entry_view(each, names, each["id"] in follows) for each in one["entries"]],
        positions=[position_view(each, names) for each in one["positions"]],
        **{name: one[name] for name in ("id", "rev", "name", "bars", "rounds", "priority", "notes")},
    )


def entry_view(one: Record, names: Names, follows: bool = False) -> schemas.EntryView:
    name = names.looks.get(one["look"]) or names.presets.get(one.get("preset", ""))
    if one.get("white"):
        name = WHITE
    at, length = float(one["at"]), float(one["length"])
    return schemas.EntryView(
        name=name or f"{one.get('gone') or 'a look'} (gone)",
        place=write_lies(at, length),
        begins=written(at),
        ends=written(at + length),
        said={
            "level": f"{one['level'] * 100:g} %",
            "fade_in": write_beats(one["fade_in"]),
            "fade_out": write_beats(one["fade_out"]),
        },
        follows=follows,
        gone=name is None,
        ramp=WHITE_RAMP if one.get("white") else names.ramps.get(one["look"], []),
        **{
            field: one[field]
            for field in ("id", "stave", "look", "at", "length", "level", "fade_in", "fade_out", "accent", "filled")
        },
    )


def position_view(one: Record, names: Names) -> schemas.PositionView:
    name = names.presets.get(one["preset"])
    return schemas.PositionView(
        name=name or f"{one.get('gone') or 'a position'} (gone)",
        begins=written(one["at"]),
        gone=name is None,
        **{field: one[field] for field in ("id", "stave", "at", "filled")},
    )
