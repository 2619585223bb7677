"""What becomes of a colour on cells that can only be white, or make no light at all."""

from __future__ import annotations

import pytest

from heliograph.core.look.emitters import said_of_plain

RGB = ("red", "green", "blue")


@pytest.mark.parametrize(
    ("cells", "says"),
    [
        ([RGB, (*RGB, "white")], ""),
        ([("white",), ("warm white", "cool white")], "All of these are white only: they show how bright a colour is."),
        ([RGB, ("white",)], "Some of these are white only: they show how bright a colour is."),
        ([()], "All of these have no emitters: no colour shows on them."),
        ([], ""),
    ],
)
def test_what_is_said(cells: list[tuple[str, ...]], says: str) -> None:
    assert said_of_plain(cells) == says
