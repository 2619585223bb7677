"""How cells are sorted by the way they make colour, and which dimmer stands above which cell."""

from __future__ import annotations

from typing import Any

from heliograph.core.colour.extraction import AMBER, BLUE, GREEN, RED, WHITE, Recipe
from heliograph.core.profiles.channel import Channel
from heliograph.core.rig.arrays import Rig, build_rig
from heliograph.core.rig.cells import recipe_of

RGB: list[dict[str, Any]] = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
RGBW: list[dict[str, Any]] = [*RGB, {"attribute": "ColorAdd_W", "kelvin": 3200}]
DIMMER: dict[str, Any] = {"attribute": "Dimmer"}


def block(shared: list[dict[str, Any]], cells: int, each: list[dict[str, Any]]) -> dict[str, Any]:
    return {"name": "b", "shared": shared, "cell_count": cells, "cell_channels": each}


def rig_of(*modes: list[dict[str, Any]], **fixture: Any) -> Rig:
    """One fixture of each mode, each on a universe of its own."""
    return build_rig(
        {
            "modes": {str(n): {"mode": {"name": str(n), "blocks": m}, "guarded": False} for n, m in enumerate(modes)},
            "fixtures": [
                {
                    "id": f"f{n}",
                    "number": n + 1,
                    "name": "x",
                    "mode": str(n),
                    "universe": n + 1,
                    "channel": 1,
                    **fixture,
                }
                for n in range(len(modes))
            ],
        }
    )


def test_recipes_follow_the_emitters_in_any_order() -> None:
    odd = [Channel("ColorAdd_W", kelvin=3200), Channel("ColorAdd_B"), Channel("ColorAdd_R"), Channel("ColorAdd_G")]
    assert recipe_of(odd, "add") == Recipe((RED, GREEN, BLUE, WHITE), "add", 3200)
    assert recipe_of([Channel("ColorAdd_R"), Channel("Dimmer")], "match") == Recipe((RED,))  # nothing extra to use
    assert recipe_of([Channel("ColorAdd_RY"), Channel("ColorAdd_R")], "leave").extras == (AMBER,)
    assert recipe_of([Channel("ColorAdd_W")], "add").is_white_only


def test_cells_of_one_kind_stand_in_one_group() -> None:
    rig = rig_of([block([], 3, RGB)], [block([], 2, RGBW)], [block([], 2, RGB)])
    found = {group.recipe.emitters: group.cells.tolist() for group in rig.colours}
    assert found == {(RED, GREEN, BLUE): [0, 1, 2, 5, 6], (RED, GREEN, BLUE, WHITE): [3, 4]}
    assert [group.is_identity for group in rig.colours] == [True, False]
    assert rig.fixture_of.tolist() == [0, 0, 0, 1, 1, 2, 2]


def test_a_response_makes_a_group_of_its_own() -> None:
    [group] = rig_of([block([], 3, RGB)], response="gamma 2.2").colours
    assert not group.is_identity


def test_no_dimmer_means_a_virtual_one() -> None:
    rig = rig_of([block([], 2, RGB)])
    assert rig.dimmers.count == 0
    assert rig.dimmers.of_cell.tolist() == [[-1, -1], [-1, -1]]


def test_a_shared_dimmer_stands_above_all_cells_and_a_cells_own_below_it() -> None:
    rig = rig_of([block([DIMMER], 2, [DIMMER, *RGB])])
    assert rig.dimmers.coarse.tolist() == [0, 1, 5]
    assert rig.dimmers.of_cell.tolist() == [[1, 0], [2, 0]]
    assert rig.dimmers.inner.tolist() == [False, True, True]


def test_a_base_blocks_dimmer_stands_above_the_cells_of_the_blocks_behind_it() -> None:
    rig = rig_of([block([{"attribute": "Pan"}, DIMMER], 0, []), block([], 2, RGB)])
    assert rig.dimmers.coarse.tolist() == [1]
    assert rig.dimmers.of_cell.tolist() == [[-1, 0], [-1, 0]]
    own = rig_of([block([DIMMER], 1, RGB), block([DIMMER], 1, RGB)])
    assert own.dimmers.of_cell.tolist() == [[-1, 0], [-1, 1]]  # a block's own counts before the base's


def test_dimmers_of_one_kind_are_driven_together() -> None:
    fine = {"attribute": "Dimmer", "fine": True}
    ranges = [{"first": 0, "last": 9, "kind": "closed"}, {"first": 10, "last": 255, "kind": "dim"}]
    rig = rig_of(
        [block([DIMMER], 1, RGB)],
        [block([DIMMER, fine], 1, RGB)],
        [block([{**DIMMER, "ranges": ranges}], 1, RGB)],
        [block([DIMMER], 1, RGB)],
    )
    assert [which.tolist() for _, which in rig.dimmers.drives] == [[0, 3], [1], [2]]
    assert rig.dimmers.fine.tolist() == [-1, 513, -1, -1]
    assert rig.dimmers.fixture.tolist() == [0, 1, 2, 3]


def test_a_fixture_without_an_address_has_no_dimmer_to_drive() -> None:
    rig = build_rig(
        {
            "modes": {"m": {"mode": {"name": "m", "blocks": [block([DIMMER], 2, RGB)]}, "guarded": False}},
            "fixtures": [{"id": "f", "number": 1, "name": "x", "mode": "m", "universe": None, "channel": None}],
        }
    )
    assert rig.dimmers.count == 0
    assert rig.dimmers.of_cell.tolist() == [[-1, -1]] * 2
