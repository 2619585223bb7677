"""Indexes of cells: a slice where they count on by one, so that numpy works in place without a gather."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Ints = npt.NDArray[np.int64]
Index = slice | Ints


def as_slice(index: Ints) -> Index:
    """`index` (n,) as a slice where it counts on by one, else as it is."""
    if index.size and bool((np.diff(index) == 1).all()):
        return slice(int(index[0]), int(index[-1]) + 1)
    return index


def as_array(index: Index) -> Ints:
    """The inverse: (n,) the places an index means."""
    return np.arange(index.start, index.stop, dtype=np.int64) if isinstance(index, slice) else index
