"""The rig as arrays: positions, the strand's order, owners of channels."""

from __future__ import annotations

from typing import Any

import numpy as np

from heliograph.core.matrix.placements import CellKey, Placement, pack
from heliograph.core.rig.arrays import build_rig, owners_of, placed_cells

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
BAR = {
    "name": "bar",
    "blocks": [
        {"name": "Base", "shared": [{"attribute": "Dimmer"}, {"attribute": "Shutter1"}], "cell_count": 0},
        {"name": "Cells", "cell_count": 3, "cell_channels": [*RGB, {"attribute": "ColorAdd_W"}]},
    ],
}
STRIP = {"name": "strip", "blocks": [{"name": "P", "cell_count": 200, "cell_channels": RGB, "runs_on": True}]}


def section(*fixtures: dict[str, Any]) -> dict[str, Any]:
    modes = {"bar": {"mode": BAR, "guarded": False}, "strip": {"mode": STRIP, "guarded": False}}
    return {"modes": modes, "fixtures": [{"name": f["id"], **f} for f in fixtures]}


def fixture(key: str, number: int, mode: str, universe: int | None, channel: int | None = None) -> dict[str, Any]:
    return {"id": key, "number": number, "mode": mode, "universe": universe, "channel": channel}


def test_cells_lie_behind_the_shared_channels() -> None:
    rig = build_rig(section(fixture("a", 401, "bar", 7, 11)))
    start = 6 * 512 + 10
    assert rig.rgb.tolist() == [[start + 2 + 4 * i + c for c in range(3)] for i in range(3)]
    assert rig.universes.tolist() == [7]


def test_owners_are_written_as_people_write_them() -> None:
    rig = build_rig(section(fixture("a", 401, "bar", 1, 1)))
    owners = owners_of(rig, 1)
    assert sorted(owners) == list(range(1, 15))
    assert [(owners[c][0].written, owners[c][0].label) for c in (1, 2, 3, 6, 14)] == [
        ("401:0", "dimmer"),
        ("401:0", "shutter"),
        ("401:1", "red"),
        ("401:1", "white"),
        ("401:3", "white"),
    ]
    assert owners_of(rig, 2) == {}


def test_a_strip_owns_channels_in_both_universes() -> None:
    rig = build_rig(section(fixture("a", 1, "strip", 1, 1)))
    assert owners_of(rig, 1)[510][0].written == "1:170"
    assert 511 not in owners_of(rig, 1)
    assert owners_of(rig, 2)[1][0].written == "1:171"


def test_overlapping_fixtures_both_own_a_channel() -> None:
    rig = build_rig(section(fixture("a", 1, "bar", 1, 1), fixture("b", 2, "bar", 1, 14)))
    assert [owner.written for owner in owners_of(rig, 1)[14]] == ["1:3", "2:0"]


def test_fixtures_without_an_address_or_past_the_end_are_kept_dark() -> None:
    rig = build_rig(section(fixture("a", 1, "bar", None), fixture("b", 2, "bar", 1, 505), fixture("c", 3, "bar", 2, 1)))
    assert (rig.rgb[:6] == -1).all()
    assert (rig.rgb[6:] >= 0).all()
    assert rig.universes.tolist() == [2]


def test_the_strand_follows_addresses_not_squares() -> None:
    rig = build_rig(
        section(fixture("late", 1, "bar", 2, 1), fixture("early", 2, "bar", 1, 1), fixture("no", 3, "bar", None))
    )
    squares = [
        ("late", "1", 0),
        ("early", "2", 1),
        ("no", "1", 2),
        ("early", "1", 3),
        ("gone", "1", 4),
        ("late", "9", 5),
    ]
    packed = pack([Placement(CellKey(name, cell), float(x), 0.0) for name, cell, x in squares])
    found = placed_cells(rig, packed)
    assert found.x.tolist() == [3.0, 1.0, 0.0, 2.0]  # early 1, early 2, late 1, then what has no address
    assert found.cell.dtype == np.int64
