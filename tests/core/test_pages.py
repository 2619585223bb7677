"""What stands on a page and what a touch of it moves."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.pages import check_items, check_slug, faded, free_place, share_of, touched

LOOK = {"handle": "look/a/on", "kind": "switch", "words": "Fog signal"}
LEVEL = {"handle": "master", "kind": "level", "words": "The grand master", "minimum": 0.0, "maximum": 1.0}
GO = {"handle": "list/e/go", "kind": "trigger", "words": "Evening: go"}
WIDTH = {"handle": "look/a/l/params.width", "kind": "number", "words": "Width", "minimum": 10.0, "maximum": 60.0}


def item(kind: str = "pad", *handles: dict[str, Any], **fields: Any) -> dict[str, Any]:
    halves = {"touch": {"do": "turn"}, "lift": {"do": "nothing"}}
    place = {"x": 0, "y": 0, "w": 3, "h": 2}
    return {"id": "i", "kind": kind, "words": "", "mark": "", "hue": "bone", "handles": list(handles), **place} | (
        halves | fields
    )


LIT, DARK = [("look/a/on", True), ("master", 1.0)], [("look/a/on", False), ("master", 0.0)]


@pytest.mark.parametrize(
    ("touch", "lift", "now", "after", "beats"),
    [
        ({"do": "on"}, {"do": "off"}, LIT, DARK, 0),
        ({"do": "turn"}, {"do": "nothing"}, LIT, [], 0),
        ({"do": "value", "value": 0.4}, {"do": "on"}, [("look/a/on", True), ("master", 0.4)], LIT, 0),
        ({"do": "beats", "beats": 8}, {"do": "nothing"}, LIT, DARK, 8),
        ({"do": "nothing"}, {"do": "off"}, [], DARK, 0),
    ],
)
def test_halves_of_a_pad(touch: Any, lift: Any, now: Any, after: Any, beats: float) -> None:
    found = touched(item("pad", LOOK, LEVEL, touch=touch, lift=lift))
    assert (found.now, found.lift, found.beats) == (now, after, beats)


def test_turning_over_goes_by_what_is_lit() -> None:
    assert touched(item("pad", LOOK)).now == [("look/a/on", None)]
    both = item("pad", LOOK, LEVEL)
    assert touched(both, "", {"look/a/on": False, "master": 0.3}).now == DARK
    assert touched(both, "", {"look/a/on": False, "master": 0.0}).now == LIT


def test_triggers_are_pressed_and_never_lifted() -> None:
    found = touched(item("pad", GO, touch={"do": "on"}, lift={"do": "off"}))
    assert (found.now, found.lift) == ([("list/e/go", None)], [])
    listed = item("list", GO)
    assert [touched(listed, part).now for part in ("", "back", "release")] == [
        [("list/e/go", None)],
        [("list/e/back", None)],
        [("list/e/release", None)],
    ]
    assert touched(item("tap")).now == [("tap", None)]
    assert touched(item("pad", LOOK), "off").now == [("look/a/on", False)]


def test_a_fader_goes_through_its_range_and_a_crossfader_between_two_looks() -> None:
    fader = item("fader", LEVEL, WIDTH)
    assert faded(fader, 0.5, {}) == [("master", 0.5), ("look/a/l/params.width", 35.0)]
    assert share_of(WIDTH, 35.0) == 0.5
    other = {**LOOK, "handle": "look/b/on"}
    cross = item("crossfader", LOOK, other)
    assert faded(cross, 0.25, {}) == [
        ("look/a/on", True),
        ("look/a/level", 0.75),
        ("look/b/on", True),
        ("look/b/level", 0.25),
    ]
    both = {"a": True, "b": True}
    assert faded(cross, 0.25, both) == [("look/a/level", 0.75), ("look/b/level", 0.25)]
    assert faded(cross, 1.0, both) == [("look/a/on", False), ("look/b/level", 1.0)]
    with pytest.raises(InputError, match="outside 0 to 100"):
        faded(fader, 1.2, {})


@pytest.mark.parametrize(
    ("items", "said"),
    [
        ([item(x=10)], "not within 12 columns"),
        ([item(y=7)], "not within 8 rows"),
        ([item(), {**item(), "id": "j", "x": 2}], "lie over"),
        ([item(), item(x=5)], "one id"),
        ([item("knob")], "no kind 'knob'"),
        ([item(hue="red")], "no hue"),
        ([item(touch={"do": "arm"})], "does not 'arm'"),
        ([item(touch={"do": "beats", "beats": 0})], "quarter to 512"),
        ([item("crossfader", LEVEL, LEVEL)], "between two looks"),
        ([item("list", LOOK)], "no cue list"),
        ([item("tap", LOOK)], "at most 0 handles"),
        ([{**item(w=1, h=1), "id": str(n)} for n in range(97)], "at most 96"),
    ],
)
def test_what_cannot_stand_on_a_page_says_why(items: list[Any], said: str) -> None:
    with pytest.raises(InputError, match=said):
        check_items(items)


def test_items_go_where_there_is_room_and_addresses_are_plain() -> None:
    assert free_place([item(), {**item(x=3), "id": "j"}], 6, 2) == (6, 0)
    with pytest.raises(InputError, match="no room"):
        free_place([item(w=12, h=8)], 1, 1)
    assert check_slug("quay-2") == "quay-2"
    for wrong in ("Quay", "a b", "", "../x", "a" * 60):
        with pytest.raises(InputError, match="cannot be part"):
            check_slug(wrong)
