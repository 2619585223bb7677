"""Arranging what lies on a plan: worked out by hand, in metres."""

from __future__ import annotations

from dataclasses import replace

import pytest

from heliograph.core.plan.arranging import aligned, below, in_grid, in_ring, in_row, mirrored, spread, turned
from heliograph.core.plan.items import Item, bounds_of, face_size, item_from_json, item_to_json
from heliograph.core.profiles.profile import mode_from_json


def item(key: str, x: float, y: float, **more: float) -> Item:
    return replace(Item(key, x, y, w=1.0, h=0.2), **more)  # type: ignore[arg-type]


THREE = [item("a", 0, 0), item("b", 1, 3), item("c", 9, 5)]


def places(items: list[Item]) -> list[tuple[float, float]]:
    return [(one.x, one.y) for one in items]


def test_a_row_runs_from_its_first_to_its_last() -> None:
    assert places(in_row(THREE, (2, 1), (6, 3))) == [(2, 1), (4, 2), (6, 3)]
    assert places(in_row(THREE[:1], (2, 1), (6, 3))) == [(2, 1)]


def test_tiles_fill_an_area_from_its_top_left_whichever_way_it_was_dragged() -> None:
    six = [item(str(n), 0, 0) for n in range(6)]
    wanted = [(1, 3), (3, 3), (5, 3), (1, 1), (3, 1), (5, 1)]
    assert places(in_grid(six, (0, 0), (6, 4))) == wanted
    assert places(in_grid(six, (6, 4), (0, 0))) == wanted
    assert {x for x, _ in places(in_grid(six, (0, 0), (6, 4), 1))} == {3}
    assert len(in_grid(six, (1, 1), (1, 1))) == 6  # an area of nothing breaks nothing


def test_a_ring_begins_at_the_top_and_goes_clockwise_each_facing_outwards() -> None:
    ring = in_ring([item(str(n), 0, 0) for n in range(4)], (10, 0), (12, 0))
    assert places(ring) == [(10, 2), (12, 0), (10, -2), (8, 0)]
    assert [one.turn for one in ring] == [0, -90, -180, -270]


def test_what_is_turned_and_mirrored_twice_is_as_before() -> None:
    back = turned(turned(THREE, 37), -37)
    assert [(one.x, one.y) for one in back] == [pytest.approx((one.x, one.y), abs=1e-3) for one in THREE]
    assert mirrored(mirrored(THREE)) == THREE
    assert [x for x, _ in places(mirrored(THREE))] == [9, 8, 0]
    assert [one.turn for one in turned([item("a", 0, 0, turn=350)], 20)] == [10]


def test_alignment_keeps_to_the_common_edge() -> None:
    assert [x for x, _ in places(aligned(THREE, "left"))] == [0, 0, 0]
    assert [y for _, y in places(aligned(THREE, "top"))] == [5, 5, 5]
    assert [x for x, _ in places(aligned(THREE, "centre"))] == [4.5, 4.5, 4.5]
    assert [x for x, _ in places(aligned([item("a", 0, 0), item("b", 5, 0, w=3)], "right"))] == [6, 5]


def test_spreading_makes_equal_steps_and_leaves_the_outermost() -> None:
    assert [x for x, _ in places(spread(THREE, "x"))] == [0, 4.5, 9]
    assert [y for _, y in places(spread(THREE, "y"))] == [0, 2.5, 5]
    assert spread(THREE[:2], "x") == THREE[:2]


def test_a_turned_face_turns_its_bounds() -> None:
    bounds = bounds_of([item("a", 0, 0, turn=90)])
    assert bounds is not None
    assert (bounds.right, bounds.top) == pytest.approx((0.1, 0.5))


def test_new_ones_come_to_lie_below_everything_that_is_there_in_rows() -> None:
    placed = below(THREE, {f"n{n}": (2.0, 0.5) for n in range(10)})
    assert all(one.y + one.h / 2 < -0.1 for one in placed)  # the lowest corner of the three
    assert len({one.y for one in placed}) > 1
    assert len(set(places(placed))) == 10
    assert places(below([], {"n": (1.0, 1.0)})) == [(0.5, -0.5)]


CELL = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]


@pytest.mark.parametrize(
    ("cells", "layout", "size"),
    [
        (10, None, (1.0, 0.1)),  # ten pixels ten centimetres apart
        (10, {"kind": "upright"}, (0.1, 1.0)),
        (12, {"kind": "grid", "columns": 4}, (0.4, 0.3)),
        (1, None, (0.25, 0.25)),
        (16, {"kind": "ring"}, (0.52, 0.52)),  # sqrt(16) x 13 cm
        (4, {"kind": "ring"}, (0.35, 0.35)),
    ],
)
def test_a_face_is_as_large_as_its_cells(cells: int, layout: object, size: tuple[float, float]) -> None:
    block = {"name": "b", "cell_count": cells, "cell_channels": CELL, "layout": layout}
    assert face_size(mode_from_json({"name": "m", "blocks": [block]})) == pytest.approx(size)
    assert face_size(None) == (0.25, 0.25)


def test_what_an_item_holds_beside_its_place_stays() -> None:
    stored = {"id": "l", "kind": "label", "text": "door", "x": 1, "y": 2, "turn": 0, "w": 1, "h": 1, "mirrored": False}
    assert item_to_json(replace(item_from_json(stored), x=5)) == {**stored, "x": 5}
