"""From rows of the store to the show sections the engine takes."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import orjson

from heliograph.core.matrix.fitting import fitting_from_json
from heliograph.core.matrix.placements import within
from heliograph.core.profiles.profile import Mode, mode_from_json
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


def resolved_line(line: dict[str, Any], ramps: dict[str, Any], durations: dict[str, float]) -> dict[str, Any]:
    """A line with the colours of its saved ramp, and how long the part of its clip that plays lasts."""
    resolved = {**line, "ramp": ramps.get(line.get("saved_ramp", ""), line["ramp"])}
    if line.get("clip") in durations:
        first, last = fitting_from_json(line.get("fitting") or {}).span_s(durations[line["clip"]])
        resolved["loop_s"] = last - first
    return resolved


def all_sections(tables: dict[str, list[Record]]) -> dict[str, Section]:
    """Every section of a show by its key."""
    sections: dict[str, Section] = {
        "rig": rig_section(tables["profile"], tables["fixture"]),
        "groups": {"groups": [{k: g[k] for k in ("id", "name", "fixtures")} for g in tables["group"]]},
        "outputs": {"outputs": [{name: o[name] for name in _OUTPUT_FIELDS} for o in tables["output"]]},
    }
    if tables.get("parked"):
        places = [{name: one[name] for name in ("universe", "channel", "value")} for one in tables["parked"]]
        sections["parked"] = {"parked": places}
    for matrix in tables["matrix"]:
        sections[f"matrix:{matrix['id']}"] = {
            **{k: matrix[k] for k in ("id", "name", "width", "height")},
            "placements": within(matrix["placements"], matrix["width"], matrix["height"]),
        }
    ramps = {ramp["id"]: ramp["stops"] for ramp in tables["ramp"]}
    durations = {clip["id"]: clip["duration_ns"] / 1e9 for clip in tables["clip"]}
    for look in tables["look"]:
        lines = [resolved_line(line, ramps, durations) for line in look["lines"]]
        sections[f"look:{look['id']}"] = {"id": look["id"], "name": look["name"], "lines": lines}
    for clip in tables["clip"]:
        sections[f"clip:{clip['id']}"] = {k: clip[k] for k in ("id", "content", "suffix")}
    return sections
