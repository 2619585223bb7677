"""Handles: every one there is moved, read, let go of; what is refused; names and addresses."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from heliograph.core import handles
from heliograph.core.errors import AccessError, InputError
from heliograph.core.handles import Ground, Handle, Move
from heliograph.core.look.line import ClipLine, EffectLine, Look
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tapping import tapped, tempo_of
from heliograph.effects import EFFECTS

PARAMETERS = {name: effect.parameters for name, effect in EFFECTS.items()}
LINES = tuple(EffectLine(id=f"{n}f3a-line", matrix="m", effect=name) for n, name in enumerate(sorted(EFFECTS)))
CLIP = ClipLine(id="c11b-line", matrix="m", clip="c")
GROUND = Ground(
    {"L1": Look("L1", "Harbour swell", (*LINES, CLIP)), "L2": Look("L2", "Harbour  swell", ())},
    {"g1": "Breakwater", "g2": "Quay, front"},
    PARAMETERS,
    {"L1": {"id": "L1", "lines": []}, "L2": {"id": "L2", "lines": []}},
    {3: "c", 8: "d"},
    {"c": 2.0, "d": 5.0},
)
ON = PlaybackState().started("L1", 0).started("L2", 0)
ALL = list(handles.handles_of(GROUND))


def another(handle: Handle, now: Any) -> Any:
    """A value that the handle takes and does not have."""
    match handle.kind:
        case "switch":
            return not now
        case "choice":
            return next(one for one in handle.choices if one != now)
        case "ramp":
            return [[0, 1, 2, 3], [1, 4, 5, 6]]
        case "text":
            return f"{now} again"
        case "speed":
            return {"value": 7.5, "unit": "beat"}
        case _:
            middle = handle.minimum + (handle.maximum - handle.minimum) * 0.375
            return middle if middle != now else handle.maximum


def test_there_are_handles_of_show_groups_looks_and_lines() -> None:
    assert {one.address.partition("/")[0] for one in ALL if "/" in one.address} == {"group", "look"}
    assert {"master", "blackout", "freeze", "tempo", "tap", "safe", "tint_hue", "tint_amount"} <= {
        one.address for one in ALL
    }
    for line in (*LINES, CLIP):
        here = {one.where for one in ALL if f"/{line.id}/" in one.address}
        numbers = {one.name for one in PARAMETERS[line.effect]} if isinstance(line, EffectLine) else set()
        effect = {"effect"} if isinstance(line, EffectLine) else {"clip"}
        assert here == {"on", "solo", "opacity", "blend", "speed", "ramp", "shift", "cycle"} | numbers | effect


def test_addresses_and_paths_are_each_handles_own() -> None:
    assert len({one.address for one in ALL}) == len({one.path for one in ALL}) == len(ALL)
    assert all(set(one.path) <= set("abcdefghijklmnopqrstuvwxyz0123456789_/") for one in ALL)
    assert any(one.path == "group/quay_front/master" for one in ALL)


@pytest.mark.parametrize("handle", ALL, ids=lambda one: one.path)
def test_every_handle_is_found_moved_and_read(handle: Handle) -> None:
    assert handles.find(GROUND, handle.address) == handle
    now = handles.read(ON, GROUND, handle, 0)
    value = None if handle.kind == "trigger" else another(handle, now)
    moved = handles.move(ON, GROUND, Move(handle.address, value, by="hand"))
    if handle.kind == "trigger":
        return
    assert handles.read(moved, GROUND, handle, 0) == value
    assert decode_state(encode_state(moved), live=True) == moved  # and the spool keeps it
    others = [one for one in ALL if one is not handle and one.kind != "trigger"]
    before = {one.address: handles.read(ON, GROUND, one, 0) for one in others}
    after = {one.address: handles.read(moved, GROUND, one, 0) for one in others}
    expected = (
        {one for one in before if one == "look/" + handle.address.split("/")[1] + "/level"}
        if (handle.where == "on" and handle.address.count("/") == 2)
        else set()
    )
    assert {key for key in before if before[key] != after[key]} <= expected


@pytest.mark.parametrize("handle", [one for one in ALL if handles.is_held(one.address)], ids=lambda one: one.path)
def test_what_one_hand_holds_it_alone_lets_go(handle: Handle) -> None:
    stored = handles.read(ON, GROUND, handle, 0)
    moved = handles.move(ON, GROUND, Move(handle.address, another(handle, stored), by="mine"))
    assert handles.let_go(moved, "another", [handle.address]) is moved
    assert handles.let_go(moved, "mine", [handle.address]) == ON
    assert handles.let_go(moved, "mine") == ON
    taken = handles.move(moved, GROUND, Move(handle.address, another(handle, stored), by="another"))
    assert handles.let_go(taken, "mine") is taken  # the last hand has it


def test_a_switch_without_a_value_is_turned_over() -> None:
    state = handles.move(ON, GROUND, Move("blackout"))
    assert state.blackout
    assert not handles.move(state, GROUND, Move("blackout")).blackout
    assert "L1" not in handles.move(ON, GROUND, Move("look/L1/on")).looks_on


@pytest.mark.parametrize(
    ("address", "value", "says"),
    [
        ("mast", 1, "There is no handle 'mast'"),
        ("look/L9/on", True, "That look is not in the running show"),
        ("look/L1/nothing/opacity", 0.5, "There is no handle"),
        (f"look/L1/{CLIP.id}/scale", 3, "There is no handle"),
        ("group/g3/master", 0.5, "That group is not in the running show"),
        ("master", 1.5, "of 150 % is outside 0 to 100 %"),
        ("master", float("nan"), "takes a number"),
        ("master", True, "takes a number"),
        ("blackout", 1, "on or off"),
        ("tempo", 400, "outside 20 to 300 BPM"),
        ("tint_hue", 361, "outside 0 to 360 degrees"),
        (f"look/L1/{LINES[0].id}/blend", "burn", "is not 'burn'"),
        (f"look/L1/{LINES[0].id}/speed", {"value": 0, "unit": "s"}, "outside 0.02"),
        (f"look/L1/{LINES[0].id}/speed", {"value": 2, "unit": "times"}, "no speed of its own"),
        (f"look/L1/{LINES[0].id}/speed", 3, "does not take 3"),
        (f"look/L1/{LINES[0].id}/ramp", [[2, 0, 0, 0]], "off the ramp"),
        (f"look/L1/{LINES[0].id}/ramp", [[0, 0]], "does not take"),
    ],
)
def test_what_a_handle_does_not_take_is_said(address: str, value: Any, says: str) -> None:
    with pytest.raises(InputError, match=says):
        handles.move(ON, GROUND, Move(address, value))


def test_only_what_fades_moves_within_a_time() -> None:
    with pytest.raises(InputError, match="moves at once"):
        handles.move(ON, GROUND, Move("master", 0.5, over_s=2.0))
    faded = handles.move(ON, GROUND, Move("look/L1/level", 0.0, over_s=4.0, time_ns=0))
    assert handles.read(faded, GROUND, handles.find(GROUND, "look/L1/level"), 1_000_000_000) == 0.75


def test_lines_are_not_for_the_role_that_runs() -> None:
    handles.move(ON, GROUND, Move("look/L1/on", True, role="run"))
    with pytest.raises(AccessError, match="needs the role edit"):
        handles.move(ON, GROUND, Move(f"look/L1/{LINES[0].id}/opacity", 0.5, role="run"))


def test_renaming_changes_the_path_and_not_the_address() -> None:
    look = GROUND.looks["L1"]
    renamed = replace(GROUND, looks={**GROUND.looks, "L1": replace(look, name="Low tide")})
    turned = replace(GROUND, looks={**GROUND.looks, "L1": replace(look, lines=look.lines[::-1])})
    address = f"look/L1/{CLIP.id}/opacity"
    assert handles.find(GROUND, address).path == "look/harbour_swell/clip_c11b/opacity"
    assert handles.find(renamed, address).path == "look/low_tide/clip_c11b/opacity"
    assert handles.find(turned, address).path == handles.find(GROUND, address).path


def test_handles_are_found_by_words() -> None:
    found = handles.search(GROUND, "swell tint", 10)
    assert [one.address for one in found] == [
        "look/L1/tint_hue", "look/L1/tint_amount", "look/L2/tint_hue", "look/L2/tint_amount",
    ]  # fmt: skip
    assert len(handles.search(GROUND, "", 3)) == 3


def test_taps_are_a_tempo() -> None:
    """Taps at 0, 0.502, 0.998 and 1.503 s are 119.76 BPM by their mean: standards 8.2, computed in Python."""
    taps: tuple[float, ...] = ()
    for moment in (0.0, 502.0, 998.0, 1503.0):
        taps = tapped(taps, moment)
    assert tempo_of(taps) == pytest.approx(119.76, abs=0.005)
    assert tapped(taps, 1600.0) is taps  # a bounce: common practice, no published source
    assert tapped(taps, 3600.0) == (3600.0,)  # a pause of 2 s begins anew, the same
    assert tempo_of((0.0, 201.0)) == pytest.approx(298.5, abs=0.1)
    assert tempo_of((0.0, 1999.0)) == pytest.approx(30.0, abs=0.02)
    assert tempo_of((0.0,)) is None


def test_safe_makes_lasers_safe_and_freezing_keeps_running_looks() -> None:
    assert handles.move(replace(ON, armed=frozenset({"l"})), GROUND, Move("safe")).armed == frozenset()
    frozen = handles.move(ON, GROUND, Move("freeze", True, time_ns=7)).frozen
    assert frozen is not None
    assert (frozen.time_ns, frozen.looks) == (7, GROUND.records)
