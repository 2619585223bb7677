"""Which effects read well on a matrix: told, never forbidden."""

from __future__ import annotations

import pytest

from heliograph.effects import EFFECTS, unsuited


@pytest.mark.parametrize("name", sorted(EFFECTS))
def test_one_that_does_not_read_well_says_from_which_size_on_it_does(name: str) -> None:
    effect = EFFECTS[name]
    columns, rows = effect.smallest
    assert unsuited(effect, columns, rows) == ""
    assert unsuited(effect, 200, 100) == ""
    if columns > 1:
        said = f"reads well from {columns} x {rows} on; here are {columns - 1} x {rows}"
        assert unsuited(effect, columns - 1, rows) == said
