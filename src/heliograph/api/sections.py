"""From rows of the store to the show sections the engine takes."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import orjson

from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.chase import Strip, strip_from_json
from heliograph.core.look.emitters import over_emitter
from heliograph.core.matrix.fitting import fitting_from_json
from heliograph.core.matrix.placements import within
from heliograph.core.profiles.profile import Mode, mode_from_json
from heliograph.core.show.clip_numbers import numbers_of
from heliograph.edits.own_looks import look_of_entry
from heliograph.ipc.sections import Section, content_hash
from heliograph.store.rows import Record


def mode_of(profile: Record, name: str) -> dict[str, Any] | None:
    return next((mode for mode in profile["modes"] if mode["name"] == name), None)


def mode_of_json(data: dict[str, Any]) -> Mode:
    """A stored mode, built once as long as it stays the same."""
    return _built(orjson.dumps(data))


@lru_cache(maxsize=2048)
def _built(raw: bytes) -> Mode:
    return mode_from_json(orjson.loads(raw))


def rig_section(profiles: list[Record], fixtures: list[Record]) -> Section:
    """Fixtures with the modes they use, each mode once under the hash of its content."""
    by_id = {profile["id"]: profile for profile in profiles}
    modes: dict[str, Any] = {}
    keys: dict[tuple[str, str], str] = {}
    rows = []
    for fixture in fixtures:
        pair = (fixture["profile"], fixture["mode"])
        if pair not in keys:
            profile = by_id.get(fixture["profile"])
            mode = mode_of(profile, fixture["mode"]) if profile else None
            if profile is None or mode is None:
                continue  # a fixture whose mode is gone: the Rig station names it
            entry = {"mode": mode, "guarded": profile["guarded"]}
            keys[pair] = content_hash(entry)
            modes[keys[pair]] = entry
        rows.append(
            {
                "id": fixture["id"],
                "number": fixture["number"],
                "name": fixture["name"],
                "mode": keys[pair],
                "universe": fixture["universe"],
                "channel": fixture["channel"],
                "extra": fixture["extra"],
                "response": fixture["response"],
                "blocks": fixture["blocks"],
            }
        )
    return {"modes": modes, "fixtures": rows}


_OUTPUT_FIELDS = (
    "id",
    "name",
    "protocol",
    "mode",
    "address",
    "card",
    "first_universe",
    "count",
    "first_number",
    "priority",
    "sync",
    "rate_hz",
    "mute",
    "when_ends",
    "card_broadcast",
    "on",
)


_ENTRY_FIELDS = ("id", "stave", "at", "length", "level", "fade_in", "fade_out", "accent")

_LIST_FIELDS = ("id", "name", "priority", "order", "rounds", "letting_go", "release_s", "main", "seed")


def resolved_line(
    line: dict[str, Any],
    ramps: dict[str, Any],
    durations: dict[str, float],
    emitters: dict[str, str],
    strips: Mapping[str, Strip],
    presets: Mapping[str, Record],
) -> dict[str, Any]:
    """A line with what it is painted over as a matrix and the emitter that is about, the colours of its saved ramp,
    how long the part of its clip that plays, or a round of its chase, lasts, and what its presets say."""
    line = over_emitter(line, emitters.get(canvas_of(line), ""))
    resolved = {**line, "matrix": canvas_of(line), "ramp": ramps.get(line.get("saved_ramp", ""), line["ramp"])}
    if line.get("clip") in durations:
        first, last = fitting_from_json(line.get("fitting") or {}).span_s(durations[line["clip"]])
        resolved["loop_s"] = last - first
    if line.get("chase") in strips:
        strip = strips[line["chase"]]
        resolved |= {"length": strip.round_of(line.get("order") or "along"), "unit": strip.unit}
    if line.get("presets"):
        said = [presets[one] for one in line["presets"] if one in presets]
        resolved["values"] = [{"sets": one["sets"], "kept": one["kept"]} for one in said]
    return resolved


def _score_section(one: Record) -> Section:
    """Staves that have a group, and what is written on them that plays anything."""
    groups = {stave["id"]: stave["group"] for stave in one["staves"] if stave["group"]}

    def heard(column: str, fields: tuple[str, ...]) -> list[Record]:
        found = [(each, groups.get(each["stave"], "")) for each in one[column]]
        looks = [(each, look_of_entry(each, group)) for each, group in found if group]
        return [{**{name: each[name] for name in fields}, "look": look} for each, look in looks if look]

    return {
        **{name: one[name] for name in ("id", "name", "bars", "rounds", "priority", "release_s")},
        "staves": [{"id": stave, "group": group} for stave, group in groups.items()],
        "entries": heard("entries", _ENTRY_FIELDS),
        "positions": heard("positions", ("id", "stave", "at")),
    }


def clock_section(tables: Mapping[str, list[Record]], saved_s: float) -> Section | None:
    """For the inputs process: the rules, where they are, and when the show was saved last (Unix time)."""
    for one in tables.get("clock", ()):
        known = {name: one[name] if one[name] is not None else 0.0 for name in ("latitude", "longitude")}
        return {**known, "zone": one["zone"], "rules": one["rules"], "saved_s": saved_s}
    return None


def all_sections(tables: dict[str, list[Record]]) -> dict[str, Section]:
    """Every section of a show by its key. Its "canvas": what lines are painted over that is no matrix."""
    sections: dict[str, Section] = {
        "rig": rig_section(tables["profile"], tables["fixture"]),
        "groups": {"groups": [{k: g[k] for k in ("id", "name", "fixtures")} for g in tables["group"]]},
        "outputs": {"outputs": [{name: o[name] for name in _OUTPUT_FIELDS} for o in tables["output"]]},
    }
    if tables.get("parked"):
        places = [{name: one[name] for name in ("universe", "channel", "value")} for one in tables["parked"]]
        sections["parked"] = {"parked": places}
    for matrix in [*tables["matrix"], *tables.get("canvas", ())]:
        sections[f"matrix:{matrix['id']}"] = {
            **{k: matrix[k] for k in ("id", "name", "width", "height")},
            "placements": within(matrix["placements"], matrix["width"], matrix["height"]),
            **({"members": matrix["members"]} if "members" in matrix else {}),
        }
    ramps = {ramp["id"]: ramp["stops"] for ramp in tables["ramp"]}
    emitters = {one["id"]: one["emitter"] for one in tables.get("canvas", ()) if one["emitter"]}
    strips = {one["id"]: strip_from_json(one) for one in tables.get("chase", ())}
    presets = {one["id"]: one for one in tables.get("preset", ())}
    durations = {clip["id"]: clip["duration_ns"] / 1e9 for clip in tables["clip"]}
    for look in tables["look"]:
        lines = [resolved_line(line, ramps, durations, emitters, strips, presets) for line in look["lines"]]
        own = {name: look.get(name, 0.0) for name in ("fade_in", "fade_out")}
        sections[f"look:{look['id']}"] = {"id": look["id"], "name": look["name"], "lines": lines, **own}
    for chase in tables.get("chase", ()):
        sections[f"chase:{chase['id']}"] = {k: chase[k] for k in ("id", "columns", "rows", "unit", "frames")}
    for look in tables.get("own_look", ()):
        lines = [resolved_line(line, ramps, durations, emitters, strips, presets) for line in look["lines"]]
        sections[f"own:{look['id']}"] = {"id": look["id"], "name": look["name"], "lines": lines}
    for one in tables.get("score", ()):
        sections[f"score:{one['id']}"] = _score_section(one)
    for one in tables.get("favourite", ()):
        sections[f"favourite:{one['id']}"] = {name: one[name] for name in ("id", "name", "values")}
    for one in tables.get("cue_list", ()):
        cues = [{**cue, "looks": [each for each in cue["looks"] if each["look"]]} for cue in one["cues"]]
        sections[f"list:{one['id']}"] = {**{k: one[k] for k in _LIST_FIELDS}, "cues": cues}
    numbers = numbers_of(tables["clip"])
    for clip in tables["clip"]:
        facts = {k: clip[k] for k in ("id", "content", "suffix")}
        sections[f"clip:{clip['id']}"] = {
            **facts,
            "number": numbers[clip["id"]],
            "duration_s": durations[clip["id"]],
        }
    return sections
