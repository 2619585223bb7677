"""How incoming universes lie on a matrix: as ours do, from the number that is told."""

from __future__ import annotations

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.feeds import Universes, feed_from, universes_from
from heliograph.core.patch.incoming_picture import laid_on

U = 512


def test_the_lowest_universe_is_the_one_told_and_gaps_stay() -> None:
    # Cells on our universes 5 (from position 4 x 512 on), 6 and 9; the last has white too.
    emitters = np.array(
        [
            [4 * U, 4 * U + 1, 4 * U + 2, -1],
            [5 * U + 9, 5 * U + 8, 5 * U + 7, -1],
            [8 * U, 8 * U + 1, 8 * U + 2, 8 * U + 3],
        ]
    )
    laid = laid_on(Universes("sacn", 101), emitters)
    assert laid.numbers == (101, 102, 105)
    assert laid.at.T.tolist() == [[0, 1, 2, -1], [U + 9, U + 8, U + 7, -1], [2 * U, 2 * U + 1, 2 * U + 2, 2 * U + 3]]


def test_what_only_carries_other_emitters_is_not_listened_to() -> None:
    emitters = np.array([[0, 1, 2, -1, 3 * U]])  # amber on another universe
    assert laid_on(Universes("artnet", 7), emitters).numbers == (7,)
    assert laid_on(Universes("artnet", 7), np.full((2, 5), -1)).numbers == ()


@pytest.mark.parametrize(("address", "wanted"), [("artnet:0", ("artnet", 0)), (" sacn:63999 ", ("sacn", 63_999))])
def test_addresses(address: str, wanted: tuple[str, int]) -> None:
    assert universes_from(address) == Universes(*wanted)


def test_addresses_that_are_none() -> None:
    assert universes_from("udp://127.0.0.1:7010") is None
    assert universes_from("sacn:x") is None
    for address in ("artnet:32768", "sacn:0", "sacn:64000"):
        with pytest.raises(InputError, match="outside"):
            feed_from(address)
    assert feed_from("clip:12").clip == 12
