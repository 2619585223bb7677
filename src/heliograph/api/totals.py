"""What a show adds up to, asked of the database in two short queries after an edit of its rig or outputs."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from heliograph.core.limits import check_totals
from heliograph.store.journal import Work
from heliograph.store.rows import all_of, fixtures_by_mode

COUNTED = ("fixture", "profile", "output")
"""Tables whose changes can make a show too large."""


def cells_of_mode(mode: Mapping[str, Any]) -> int:
    return sum(int(block.get("cell_count", 0)) for block in mode["blocks"])


def check_size(
    fixtures: Iterable[tuple[str, str, int]],
    profiles: Iterable[Mapping[str, Any]],
    outputs: Iterable[Mapping[str, Any]],
) -> None:
    """Raises InputError where it is too large. `fixtures`: (profile id, mode, how many)."""
    cells = {
        (str(profile["id"]), str(mode["name"])): cells_of_mode(mode)
        for profile in profiles
        for mode in profile["modes"]
    }
    total = sum(cells.get((profile, mode), 0) * count for profile, mode, count in fixtures)
    universes = packets = 0
    for output in outputs:
        universes += int(output["count"])
        if output["on"]:
            packets += int(output["count"]) * max(len([one for one in str(output["address"]).split(", ") if one]), 1)
    check_totals(total, universes, packets)


def check_work(work: Work) -> None:
    """Looks at what an edit has come to, before it is stored."""
    if not any(change["table"] in COUNTED for change in work.changes):
        return
    show = str(work.show.id)
    check_size(fixtures_by_mode(show), all_of("profile", show), all_of("output", show))
