"""What the staves of a score can do, for whoever fills them: their cells, looks that reach them, their positions."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

import numpy as np
import numpy.typing as npt

from heliograph.api.canvases import canvases
from heliograph.api.choosing import selectables, with_members
from heliograph.api.views import Modes
from heliograph.core.hand.values import channels_of
from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.emitters import WHITES
from heliograph.core.look.line import AttributeLine
from heliograph.core.playing.fill import Candidate, Voice
from heliograph.core.profiles.attributes import DEGREES
from heliograph.core.profiles.profile import Mode
from heliograph.store import rows
from heliograph.store.rows import Record

Floats = npt.NDArray[np.float64]

HALF = 0.5
"""How well a look fits whose colours are not known: a clip, a feed."""


def looks_of_staves(tables: dict[str, list[Record]], staves: Iterable[Record]) -> dict[str, list[Record]]:
    """Looks that paint something on each stave's group, by the stave's id."""
    reached = _reached(tables)
    groups = {one["id"]: set(one["fixtures"]) for one in with_members(tables)}
    return {
        stave["id"]: [look for look in tables["look"] if reached[look["id"]] & groups.get(stave["group"], set())]
        for stave in staves
    }


def voices_of(
    tables: dict[str, list[Record]],
    score: Record,
    chosen: Sequence[str],
    colours: Sequence[str],
    positions: Mapping[str, float],
    flashes: Mapping[str, float],
) -> list[Voice]:
    """Those of the chosen staves. `colours`: ids of ramps, none for any; `positions`: presets that may be set, each
    from a beat on; `flashes`: a second, of each look."""
    staves = [one for one in score["staves"] if one["id"] in chosen and one["group"]]
    looks = looks_of_staves(tables, staves)
    groups = {one["id"]: one for one in with_members(tables)}
    kinds = {one.id: one for one in selectables(tables["profile"], tables["fixture"])}
    modes, profiles = Modes(tables["profile"]), {one["id"]: one for one in tables["profile"]}
    fixtures = {one["id"]: one for one in tables["fixture"]}
    ramps = {one["id"]: one["stops"] for one in tables["ramp"]}
    wanted = [ramps[one] for one in colours if one in ramps]
    found = []
    for stave in staves:
        members = [one for one in groups[stave["group"]]["fixtures"] if one in kinds]
        emitters = [set(kinds[one].emitters) for one in members]
        rows_of = [fixtures[one] for one in members]
        turning = [modes.of(one) for one in rows_of]
        held = [(one["at"], "") for one in score["positions"] if one["stave"] == stave["id"] and not one["filled"]]
        held += [(at, preset) for preset, at in positions.items()]
        by_hand = [
            (one["at"], one["at"] + one["length"])
            for one in score["entries"]
            if one["stave"] == stave["id"] and not one["filled"]
        ]
        found.append(
            Voice(
                stave["id"],
                groups[stave["group"]]["name"],
                tuple(
                    Candidate(one["id"], one["name"], _fits(one, ramps, wanted), flashes.get(one["id"], 0.0))
                    for one in looks[stave["id"]]
                ),
                white_only=bool(emitters) and all(words and words <= set(WHITES) for words in emitters),
                heads=any(mode is not None and _turns(mode) for mode in turning),
                laser=any(profiles[one["profile"]]["guarded"] for one in rows_of),
                positions=tuple(sorted(held)),
                by_hand=tuple(by_hand),
            )
        )
    return found


def _turns(mode: Mode) -> bool:
    return any(one.attribute in DEGREES for one in channels_of(mode).channels)


def _reached(tables: dict[str, list[Record]]) -> dict[str, set[str]]:
    """Fixtures that each look paints."""
    among = [*rows.with_shared(tables["matrix"]), *canvases(tables)]
    there = {one["id"]: set(one["placements"]["fixtures"]) for one in among}
    return {
        look["id"]: set().union(
            *(there.get(canvas_of(line), set()) for line in look["lines"] if line["paints"] != AttributeLine.paints)
        )
        for look in tables["look"]
    }


def _fits(look: Record, ramps: Mapping[str, Record], wanted: Sequence[Record]) -> float:
    """How near the colours of a look's ramps come to any that is wanted, 0..1."""
    if not wanted:
        return 1.0
    own = [
        ramps.get(line.get("saved_ramp") or "", line["ramp"])
        for line in look["lines"]
        if line["paints"] in ("effect", "recolour") and not line["mute"]
    ]
    if not own:
        return HALF
    return max(_near(_mean(mine), _mean(other)) for mine in own for other in wanted)


def _mean(stops: Record) -> Floats:
    """The light of a ramp's colours, of length 1."""
    colours: Floats = np.array([stop[1:4] for stop in stops], dtype=np.float64).sum(axis=0)
    return colours / max(float(np.linalg.norm(colours)), 1e-9)


def _near(one: Floats, other: Floats) -> float:
    return float(np.clip(one @ other, 0.0, 1.0))
