"""Where cells begin, as pages are told: runs that come to the very positions that are sent, for modes of every kind."""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from heliograph.api.sections import mode_of_json
from heliograph.api.views import cell_runs
from heliograph.core.patch.blocks import places_of
from heliograph.core.patch.dmx import address_at
from heliograph.core.patch.places import place_mode
from tests.heads import channels


def mode(shared: int, cells: int, size: int, runs_on: bool, splits: bool) -> Any:
    block = {
        "name": "Pixels",
        "shared": channels(*(f"Control{n + 1}" for n in range(shared))),
        "cell_count": cells,
        "cell_channels": channels(*("ColorAdd_R", "ColorAdd_G", "ColorAdd_B", "ColorAdd_W")[:size]),
        "runs_on": runs_on,
        "splits": splits,
    }
    return mode_of_json({"name": "one", "blocks": [block]})


@given(st.integers(0, 9), st.integers(1, 400), st.integers(1, 4), st.booleans(), st.integers(0, 5_000))
def test_runs_come_to_the_positions_that_are_sent(shared: int, cells: int, size: int, splits: bool, start: int) -> None:
    found = mode(shared, cells, size, True, splits)
    (placed,) = place_mode(found, address_at(start), places_of(found, []))
    told = [run["position"] + n * size for run in cell_runs(placed) for n in range(run["count"])]
    assert told == placed.cells[:, 0].tolist()
    assert cell_runs(placed)[0]["cell"] == 1


def test_a_controller_that_splits_its_pixels_goes_on_densely() -> None:
    """Pixel 170 (from 0) begins at slot 511, pixel 341 at slot 512 of the next universe (standards 1.5)."""
    found = mode(0, 400, 3, True, True)
    (placed,) = place_mode(found, address_at(0), places_of(found, []))
    (run,) = cell_runs(placed)
    assert (run["position"] + 170 * 3, run["position"] + 341 * 3) == (510, 1023)
