"""Indexes that count on become slices, and mean the same places."""

from __future__ import annotations

import numpy as np
import pytest

from heliograph.core.indexes import as_array, as_slice


@pytest.mark.parametrize(
    ("places", "is_slice"),
    [([4, 5, 6], True), ([9], True), ([4, 6, 7], False), ([6, 5, 4], False), ([3, 3], False), ([], False)],
)
def test_an_index_means_the_same_places_as_a_slice(places: list[int], is_slice: bool) -> None:
    index = as_slice(np.array(places, dtype=np.int64))
    assert isinstance(index, slice) is is_slice
    assert as_array(index).tolist() == places
    assert np.arange(20)[index].tolist() == places
