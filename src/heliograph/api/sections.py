"""From rows of the store to the show sections the engine takes."""

from __future__ import annotations

from typing import Any

from heliograph.engine.sections import Section, content_hash
from heliograph.store.rows import Record


def mode_of(profile: Record, name: str) -> dict[str, Any] | None:
    return next((mode for mode in profile["modes"] if mode["name"] == name), None)


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
    "on",
)


def all_sections(tables: dict[str, list[Record]]) -> dict[str, Section]:
    """Every section of a show by its key."""
    sections: dict[str, Section] = {
        "rig": rig_section(tables["profile"], tables["fixture"]),
        "outputs": {"outputs": [{name: o[name] for name in _OUTPUT_FIELDS} for o in tables["output"]]},
    }
    for matrix in tables["matrix"]:
        sections[f"matrix:{matrix['id']}"] = {k: matrix[k] for k in ("id", "name", "width", "height", "placements")}
    for look in tables["look"]:
        sections[f"look:{look['id']}"] = {k: look[k] for k in ("id", "name", "layers")}
    for clip in tables["clip"]:
        sections[f"clip:{clip['id']}"] = {k: clip[k] for k in ("id", "content", "suffix")}
    return sections
