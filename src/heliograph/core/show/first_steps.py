"""From an empty show to light, in five steps: which are done, and what the next one is."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.lasers.guarding import universes_sent

Station = Literal["rig", "patch", "matrices", "looks"]
Record = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Step:
    """`says` what to do, or what is there once it is `done`."""

    name: str
    station: Station
    says: str
    done: bool


def first_steps(sections: Mapping[str, Record], universes: Collection[int], running: Collection[str]) -> list[Step]:
    """`sections` of the show; `universes` that carry its lamps; `running`: ids of looks that are on.

    Each is judged by itself: they may be done in any order, and undone.
    """
    fixtures = sections.get("rig", {}).get("fixtures", ())
    looks = _all(sections, "look:")
    sent = universes_sent(sections.get("outputs", {}).get("outputs", ())) & set(universes)
    placed = [one for one in _all(sections, "matrix:") if one["placements"]["packed"]]
    painting = [one for one in looks if one["lines"]]
    on = [one["name"] for one in looks if one["id"] in running]
    return [
        Step(
            "Lamps",
            "rig",
            _count(len(fixtures), "fixture") if fixtures else "Type what hangs here, such as: 18 x RGB lamp, from 1",
            bool(fixtures),
        ),
        Step(
            "Send",
            "patch",
            f"{_count(len(sent), 'universe')} sent" if sent else "Add an output: say which node gets the universes",
            bool(sent),
        ),
        Step(
            "Matrix",
            "matrices",
            _names(placed) if placed else "Lay the lamps out as they hang: so many columns and rows",
            bool(placed),
        ),
        Step(
            "Look",
            "looks",
            _names(painting) if painting else "New, and take one of the effects by its moving picture",
            bool(painting),
        ),
        Step("Light", "looks", f"{on[0]} is on" if on else "Start the look: Space", bool(on)),
    ]


def _all(sections: Mapping[str, Record], kind: str) -> list[Record]:
    return [section for key, section in sections.items() if key.startswith(kind)]


def _count(number: int, thing: str) -> str:
    return f"{number} {thing}{'' if number == 1 else 's'}"


def _names(records: Sequence[Record]) -> str:
    first = str(records[0]["name"])
    return first if len(records) == 1 else f"{first} and {len(records) - 1} more"
