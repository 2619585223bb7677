"""Diffs: forward, backward, and what clashes."""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.matrix.placements import CellKey, Placement, pack, unpack
from heliograph.store.diff import apply_to, change_between, clashes, paths_of, reversed_change

line_id = st.sampled_from("abcdef")
lines = st.lists(
    st.fixed_dictionaries({"id": line_id, "opacity": st.integers(0, 3), "effect": st.sampled_from(["Flat", "Relay"])}),
    max_size=5,
    unique_by=lambda one: one["id"],
)
squares = st.dictionaries(st.tuples(st.integers(0, 3), st.integers(0, 3)), st.integers(0, 99), max_size=10)


def placements(cells: dict[tuple[int, int], int]) -> dict[str, Any]:
    return pack([Placement(CellKey("f", str(n)), x, y) for (x, y), n in cells.items()])


@given(lines, lines)
def test_lines_there_and_back(before: list[Any], after: list[Any]) -> None:
    change = change_between("look", "k", {"lines": before}, {"lines": after})
    if change is None:
        assert before == after
        return
    assert clashes({"lines": before}, change) == []
    assert apply_to({"lines": before}, change)["lines"] == after
    back = reversed_change(change)
    assert apply_to({"lines": after}, back)["lines"] == before


@given(squares, squares)
def test_placements_there_and_back(before: dict[Any, int], after: dict[Any, int]) -> None:
    change = change_between("matrix", "k", {"placements": placements(before)}, {"placements": placements(after)})
    if change is None:
        assert before == after
        return
    done = apply_to({"placements": placements(before)}, change)["placements"]
    assert set(unpack(done)) == set(unpack(placements(after)))
    back = apply_to({"placements": done}, reversed_change(change))["placements"]
    assert set(unpack(back)) == set(unpack(placements(before)))


def test_an_exchange_is_kept_compactly() -> None:
    many = {(x, y): x + 4 * y for x in range(4) for y in range(4)}
    moved = {**many, (0, 0): many[(3, 3)], (3, 3): many[(0, 0)]}
    change = change_between("matrix", "k", {"placements": placements(many)}, {"placements": placements(moved)})
    assert change is not None
    assert len(unpack(change["after"]["placements"])) == 2


def test_two_people_at_two_lines_do_not_clash() -> None:
    base = [{"id": "a", "opacity": 1}, {"id": "b", "opacity": 1}]
    mine = [{"id": "a", "opacity": 0}, {"id": "b", "opacity": 1}]
    theirs = [{"id": "a", "opacity": 0}, {"id": "b", "opacity": 7}]
    change = change_between("look", "k", {"lines": base}, {"lines": mine})
    assert change is not None
    assert clashes({"lines": theirs}, reversed_change(change)) == []
    assert apply_to({"lines": theirs}, reversed_change(change))["lines"] == [base[0], theirs[1]]
    assert paths_of(change) == {"a.opacity"}


def test_a_value_changed_since_clashes() -> None:
    change = change_between("fixture", "k", {"name": "a"}, {"name": "b"})
    assert change is not None
    assert clashes({"name": "c"}, reversed_change(change)) == ["name"]
    assert clashes(None, reversed_change(change)) == ["it"]
