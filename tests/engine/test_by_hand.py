"""What is held by hand: above looks, below blackout, masters and the guard. Rules of power: architecture."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.engine.by_hand import as_values
from heliograph.engine.commands import COMMANDS
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.asking import request_of
from tests.engine.shows import compiled, grid, lamps, line, look, output

GOBO = {"attribute": "Gobo1", "home": 5}
RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]


def show_of(channels: Any, **rig: Any) -> CompiledShow:
    one = look(line("a", "Flat", ramp=[[0, 200, 100, 40]]))
    return compiled(lamps(2, channels=channels, **rig), grid(2, 1), one, outputs=[output(count=2)])


def sent(show: CompiledShow, count: int, universe: int = 0, **state: Any) -> list[int]:
    begun = advance(PlaybackState(**state).started("L", 0), show.lines, 0)
    row: np.ndarray[Any, Any] = Renderer().render(show, begun, 0)[universe]
    return [int(v) for v in row[:count]]


def test_a_manual_value_stands_above_the_look_until_it_is_released() -> None:
    show = show_of([*RGB, GOBO])
    assert sent(show, 8, manual={"f0/2": 17, "f0/4": 99}) == [200, 17, 40, 99, 200, 100, 40, 5]
    assert sent(show, 8) == [200, 100, 40, 5] * 2


def test_masters_dim_what_is_light_by_hand_and_nothing_else() -> None:
    show = show_of([*RGB, GOBO])
    held = {"f0/1": 100, "f0/4": 99}
    assert sent(show, 4, manual=held, master=0.5) == [50, 50, 20, 99]
    assert sent(show, 4, manual=held, blackout=True) == [0, 0, 0, 99]
    dimmed = show_of([{"attribute": "Dimmer"}, *RGB])
    assert sent(dimmed, 4, manual={"f0/2": 100}, master=0.5) == [128, 100, 100, 40]
    assert sent(dimmed, 4, manual={"f0/1": 200}, master=0.5) == [100, 200, 100, 40]


def test_masters_dim_a_16_bit_dimmer_and_one_with_a_strobe_by_hand_too() -> None:
    fine = show_of([{"attribute": "Dimmer"}, {"attribute": "Dimmer", "fine": True}, *RGB])
    assert sent(fine, 2, manual={"f0/1": 0x80, "f0/2": 0x40}, master=0.5) == [0x40, 0x20]
    assert sent(fine, 1, manual={"f0/1": 200}, master=0.5) == [100]
    assert sent(fine, 2, manual={"f0/1": 200, "f0/2": 9}, blackout=True) == [0, 0]
    assert sent(fine, 2, manual={"f0/2": 9}, blackout=True) == [0, 0]
    ranges = [{"first": 0, "last": 7, "kind": "closed"}, {"first": 8, "last": 134, "kind": "dim"}]
    ranges += [{"first": 135, "last": 239, "kind": "strobe"}, {"first": 240, "last": 255, "kind": "open"}]
    strobe = show_of([{"attribute": "Dimmer", "ranges": ranges}, *RGB])
    assert sent(strobe, 1, manual={"f0/1": 255}, master=0.5) == [71]
    assert sent(strobe, 1, manual={"f0/1": 200}, master=0.5) == [200]
    assert sent(strobe, 1, manual={"f0/1": 200}, blackout=True) == [0]


def test_a_raw_value_moves_any_channel_of_an_output_also_where_nothing_is_patched() -> None:
    show = show_of(RGB)
    raw = {"1.2": 7, "1.500": 9, "2.1": 11, "40.1": 13}  # universe 40 is in no output: nothing to move
    assert sent(show, 512, raw=raw)[:3] == [200, 7, 40]
    assert sent(show, 512, raw=raw)[499] == 9
    assert sent(show, 1, universe=1, raw=raw) == [11]
    assert sent(show, 1, universe=1, raw=raw, blackout=True) == [0]
    assert sent(show, 3, raw={"1.1": 3}, manual={"f0/1": 90}) == [3, 100, 40]  # raw is above manual


def test_highlight_lights_a_fixture_up_and_gives_it_back() -> None:
    show = show_of([{"attribute": "Dimmer"}, *RGB, GOBO])
    lit = sent(show, 10, highlight=frozenset({"f1"}), master=0.2)
    assert lit == [51, 200, 100, 40, 5, 255, 255, 255, 255, 5]
    assert sent(show, 10, master=0.2)[5:] == [51, 200, 100, 40, 5]


def test_the_guard_is_above_raw_manual_and_highlight() -> None:
    safe = [{"attribute": "Shutter1", "safe": 3}, *({**channel, "safe": 0} for channel in RGB)]
    show = show_of(safe, guarded=True)
    by_hand: dict[str, Any] = {"manual": {"f0/1": 200}, "raw": {"1.2": 255}, "highlight": frozenset({"f0", "f1"})}
    assert sent(show, 8, **by_hand) == [3, 0, 0, 0] * 2
    assert sent(show, 8, armed=frozenset({"f0"}), **by_hand) == [200, 255, 255, 255, 3, 0, 0, 0]


class Stand:
    """As much of an engine as the commands touch."""

    def __init__(self, show: CompiledShow) -> None:
        self.show, self.state, self.held_of = show, PlaybackState(), None


def do(stand: Stand, command: str, **message: Any) -> PlaybackState:
    request = as_values(stand, request_of({"do": command, **message}))  # type: ignore[arg-type]
    COMMANDS[type(request)](stand, request)  # type: ignore[arg-type]
    return stand.state


def test_commands_hold_and_release() -> None:
    stand = Stand(show_of(RGB))
    assert do(stand, "manual", values={"f0/1": 5, "f1/3": 6}).manual == {"f0/1": 5, "f1/3": 6}
    assert do(stand, "manual", values={"f0/1": None, "f1/3": 8}).manual == {"f1/3": 8}
    assert do(stand, "raw", values={"U1.5": 5, "3.7": 6}).raw == {"1.5": 5, "3.7": 6}
    assert do(stand, "highlight", fixtures=["f0"]).highlight == {"f0"}
    released = do(stand, "release")
    assert (released.manual, released.raw) == ({}, {})


@pytest.mark.parametrize(
    ("command", "values", "says"),
    [
        ("manual", {"gone/1": 5}, "That channel is of no fixture of the running show"),
        ("manual", {"f0/4": 5}, "That channel is of no fixture of the running show"),
        ("manual", {"f0/1": 256}, "A channel takes 0 to 255, not 256"),
        ("raw", {"1.513": 5}, "a universe has channels 1 to 512"),
        ("raw", {"here": 5}, "'here' is not an address"),
    ],
)
def test_what_cannot_be_held_is_refused_and_nothing_changes(command: str, values: Any, says: str) -> None:
    stand = Stand(show_of(RGB))
    with pytest.raises(InputError, match=says):
        do(stand, command, values=values)
    assert stand.state == PlaybackState()


def test_by_hand_survives_a_restart_but_lasers_and_highlight_do_not() -> None:
    state = PlaybackState(manual={"f/1": 2}, raw={"1.1": 3}, highlight=frozenset({"f"}), armed=frozenset({"f"}))
    back = decode_state(encode_state(state))
    assert back == replace(state, highlight=frozenset(), armed=frozenset())
