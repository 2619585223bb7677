"""Squares as SVG, out and in; foreign drawings with transforms; documents that are none."""

from __future__ import annotations

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey, Placement
from heliograph.formats.squares_svg import SQUARE, Drawn, read_svg, write_svg

SPACE = 'xmlns="http://www.w3.org/2000/svg"'


def test_out_and_in_again_is_the_same() -> None:
    placed = [Placement(CellKey("a", "1"), 0, 0), Placement(CellKey("a", "2"), 2.5, 1.25, 2, 0.5)]
    text = write_svg(placed, 5, 3, "Wall & <tower>", lambda one: f"7:{one.key.cell}")
    assert read_svg(text.encode()) == [
        Drawn(0, 0, SQUARE, SQUARE, "7:1"),
        Drawn(25, 12.5, 20, 5, "7:2"),
    ]


def test_groups_transforms_and_units_count() -> None:
    drawing = f"""<svg {SPACE} width="200mm" height="100mm" viewBox="0 0 200 100">
      <g transform="translate(10 20) scale(2)"><rect width="5" height="5"/><g><circle cx="20" cy="5" r="1"/></g></g>
    </svg>"""
    rect, circle = read_svg(drawing.encode())
    mm = 96 / 25.4  # CSS: 96 pixels an inch
    assert (rect.x, rect.y, rect.w) == pytest.approx((10 * mm, 20 * mm, 10 * mm))
    assert (circle.x, circle.y, circle.w) == pytest.approx((50 * mm, 30 * mm, 0))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("no drawing", "cannot be read"),
        ("<html/>", "no SVG"),
        (f"<svg {SPACE}/>", "has no rectangle and no circle"),
        (f'<!DOCTYPE s [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]><svg {SPACE}>&b;</svg>', "cannot be read"),
        (f'<!DOCTYPE s [<!ENTITY a SYSTEM "file:///etc/hostname">]><svg {SPACE}>&a;</svg>', "cannot be read"),
    ],
)
def test_what_is_no_drawing_is_refused_with_a_sentence(text: str, says: str) -> None:
    with pytest.raises(InputError, match=says):
        read_svg(text.encode())


@given(st.binary(max_size=200), st.integers(0, 120))
def test_damaged_drawings_never_crash(noise: bytes, at: int) -> None:
    whole = write_svg([Placement(CellKey("a", "1"), 0, 0)], 1, 1, "x", lambda _: "1:1").encode()
    with contextlib.suppress(InputError):
        assert read_svg(whole[:at] + noise + whole[at:])
