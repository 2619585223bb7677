"""What lines set beside colours, as bytes: by word, in degrees, driven, faded, under masters and hands.

Degrees as 16-bit values are worked out here: full range x 65,535 over the profile's degrees. Common practice, no
published source.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.hand.levels import level_bytes
from heliograph.core.hand.values import channels_of
from heliograph.core.handles import Move, handles_of, move
from heliograph.core.look.setting import Chosen, attributes_in, typed_over
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.profiles.profile import mode_from_json
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.heads import HEAD, PAN_DEG, TILT_DEG, heads, row, sets, wave
from tests.engine.shows import RGB, SECOND, compiled, grid, lamps, line, look

WIDE = 65_535
SIZE = len(HEAD)
HOME = [128, 0, 128, 0, 0, 255 - 40, 8 + 239]
"""Rest: zoom inverted; the dimmer is above no pixel and rests at 0."""


def sent(show: CompiledShow, state: PlaybackState, seconds: float = 0.0, **more: Any) -> list[int]:
    return Renderer().render(show, state, round(seconds * SECOND), **more)[0].tolist()


def on(show: CompiledShow, *names: str, **fields: Any) -> PlaybackState:
    state = PlaybackState(**fields)
    for name in names or ("L",):
        state = state.started(name, 0)
    return advance(state, show.lines, 0)


def wide(universe: list[int], head: int, channel: int) -> int:
    at = head * SIZE + channel - 1
    return universe[at] * 256 + universe[at + 1]


def pan_of(degrees: float, whole: float = PAN_DEG) -> float:
    return (degrees + whole / 2) / whole * WIDE


def test_words_and_degrees_are_what_each_profile_has_for_them() -> None:
    show = compiled(heads(3), row("h0", "h2"), look(sets(params={"Gobo1": "shingle", "Pan": "90°", "Zoom": "full"})))
    universe = sent(show, on(show))
    for head in (0, 2):
        assert universe[head * SIZE + 4] == 30
        assert abs(wide(universe, head, 1) - pan_of(90.0)) <= 1
        assert universe[head * SIZE + 5] == 0  # full, inverted on the wire
    assert universe[SIZE : 2 * SIZE][:6] == HOME[:6]  # the one that is not chosen rests
    assert sent(show, PlaybackState())[:6] == HOME[:6]


def test_a_fan_goes_over_the_heads_in_the_order_in_which_they_are_chosen() -> None:
    show = compiled(heads(3), row("h2", "h1", "h0"), look(sets(params={"Tilt": "-30° > 30°"})))
    universe = sent(show, on(show))
    found = [wide(universe, head, 3) for head in (2, 1, 0)]
    assert [
        abs(value - pan_of(degrees, TILT_DEG)) <= 1 for value, degrees in zip(found, (-30, 0, 30), strict=True)
    ] == [True] * 3


def test_a_ring_over_four_heads_a_quarter_apart() -> None:
    """Pan a cosine, tilt a sine, 24 and 11 degrees; the last head is three quarters of a round behind the first. A sine
    of ours begins at its lowest: a quarter of a period later it is at its middle, a half later at its highest."""
    quarter = {"over": "address", "spread": 0.75}
    drives = {
        "params.Pan": wave(-24, 24, 8, phase=0.5, **quarter),
        "params.Tilt": wave(-11, 11, 8, phase=0.25, **quarter),
    }
    show = compiled(
        heads(4), row("h0", "h1", "h2", "h3"), look(sets(params={"Pan": "40°", "Tilt": "10°"}, drives=drives))
    )
    state = on(show)
    for seconds in (0.0, 1.0, 2.5, 7.0):
        universe = sent(show, state, seconds)
        for head in range(4):
            turn = 2 * math.pi * (seconds / 8 - head / 4)
            assert wide(universe, head, 1) == pytest.approx(pan_of(40 + 24 * math.cos(turn)), abs=6)
            assert wide(universe, head, 3) == pytest.approx(pan_of(10 + 11 * math.sin(turn), TILT_DEG), abs=8)


@pytest.mark.parametrize(("across", "up"), [(2, 1), (3, 2), (3, 4)])
def test_knots_against_sines(across: int, up: int) -> None:
    drives = {"params.Pan": wave(-30, 30, 12 / across, phase=0.25), "params.Tilt": wave(-15, 15, 12 / up, phase=0.5)}
    show = compiled(heads(1), row("h0"), look(sets(drives=drives)))
    state = on(show)
    for step in range(12):
        universe = sent(show, state, step + 0.4)
        turn = 2 * math.pi * (step + 0.4) / 12
        home = 128 * 256
        assert wide(universe, 0, 1) == pytest.approx(home + 30 * math.sin(across * turn) / PAN_DEG * WIDE, abs=6)
        assert wide(universe, 0, 3) == pytest.approx(home + 15 * math.cos(up * turn) / TILT_DEG * WIDE, abs=8)


def test_every_second_head_goes_the_other_way() -> None:
    drives = {"params.Pan": wave(-20, 20, 4, phase=0.5, alternate=True)}
    show = compiled(heads(4), row("h0", "h1", "h2", "h3"), look(sets(params={"Pan": "0°"}, drives=drives)))
    universe = sent(show, on(show))
    for head, degrees in enumerate((20, -20, 20, -20)):
        assert wide(universe, head, 1) == pytest.approx(pan_of(degrees), abs=6)


def test_another_position_takes_its_motion_along_and_at_no_reach_it_stands_there() -> None:
    drives = {"params.Pan": wave(-20, 20, 4, phase=0.5)}
    for place in (-60.0, 100.0):
        show = compiled(heads(1), row("h0"), look(sets(params={"Pan": f"{place:g}°"}, drives=drives)))
        assert wide(sent(show, on(show)), 0, 1) == pytest.approx(pan_of(place + 20), abs=6)
    still = {"params.Pan": wave(0, 0, 4)}
    show = compiled(heads(1), row("h0"), look(sets(params={"Pan": "77°"}, drives=still)))
    assert abs(wide(sent(show, on(show), 1.3), 0, 1) - pan_of(77.0)) <= 1


def test_motion_stops_at_what_the_head_can_reach() -> None:
    drives = {"params.Pan": wave(0, 400, 4, phase=0.5)}
    show = compiled(heads(1), row("h0"), look(sets(params={"Pan": "200°"}, drives=drives)))
    assert wide(sent(show, on(show)), 0, 1) == WIDE


def test_what_fades_goes_in_16_bit_and_what_cannot_changes_once() -> None:
    show = compiled(heads(1), row("h0"), look(sets(params={"Pan": "315°", "Gobo1": "ripples"})))
    state = on(show)
    home, there = 128 * 256, WIDE
    for level in (0.0, 0.25, 0.49, 0.5, 0.75, 1.0):
        universe = sent(show, state.levelled("L", level))
        assert wide(universe, 0, 1) == round(home + (there - home) * level)
        assert universe[4] == (10 if level >= 0.5 else 0)


def test_later_looks_lie_over_earlier_ones() -> None:
    first = look(sets(params={"Zoom": "255"}))
    second = {**look(sets("b", params={"Zoom": "55"})), "id": "K"}
    show = compiled(heads(1), row("h0"), first, second)
    state = on(show, "L", "K")
    assert sent(show, state)[5] == 200
    assert sent(show, state.levelled("K", 0.5))[5] == 100  # half-way from 0 to 200, inverted both


def test_mute_solo_and_opacity_are_as_of_any_line() -> None:
    low, high = sets("a", params={"Zoom": "255"}), sets("b", params={"Zoom": "55"})
    for lines, value in (
        ((low, {**high, "mute": True}), 0),
        (({**low, "solo": True}, high), 0),
        ((low, {**high, "opacity": 0.5}), 100),
    ):
        show = compiled(heads(1), row("h0"), look(*lines))
        assert sent(show, on(show))[5] == value


def test_hands_lie_above_and_masters_and_blackout_take_only_light() -> None:
    show = compiled(heads(1), row("h0"), look(sets(params={"Zoom": "55", "Dimmer": "full", "Pan": "10°"})))
    state = on(show)
    assert sent(show, state)[6] == 247
    assert sent(show, replace(state, manual={"h0/6": 7}))[5] == 7
    half = sent(show, replace(state, master=0.5))
    assert half[6] == pytest.approx(8 + 239 / 2, abs=1)
    assert half[5] == 200
    dark = sent(show, replace(state, blackout=True))
    assert dark[6] == 0
    assert dark[5] == 200
    assert abs(wide(dark, 0, 1) - pan_of(10.0)) <= 1


def test_emitters_set_by_a_line_lie_over_the_picture_and_follow_masters() -> None:
    channels = [*RGB, {"attribute": "ColorAdd_RY"}, {"attribute": "ColorAdd_UV"}]
    over = sets("b", params={"ColorAdd_RY": "200", "ColorAdd_UV": "40"})
    show = compiled(lamps(2, channels=channels), grid(2, 1), look(line("a", "Flat", ramp=[[0, 0, 0, 30]]), over))
    state = on(show)
    assert sent(show, state)[:10] == [0, 0, 30, 200, 40] * 2
    assert sent(show, replace(state, master=0.5))[:5] == [0, 0, 15, 100, 20]


def test_only_the_chosen_cells_are_set() -> None:
    channels = [*RGB, {"attribute": "ColorAdd_RY"}]
    mode = {"name": "m", "blocks": [{"name": "b", "cell_count": 3, "cell_channels": channels}]}
    fixture = {"id": "f0", "number": 1, "name": "Bar", "mode": "m", "universe": 1, "channel": 1}
    rig = {"modes": {"m": {"mode": mode, "guarded": False}}, "fixtures": [fixture]}
    show = compiled(rig, row("f0:2", "f0:3", cells=("f0",)), look(sets(params={"ColorAdd_RY": "90"})))
    universe = sent(show, on(show))
    assert [universe[3], universe[7], universe[11]] == [0, 90, 90]


def test_kept_bytes_come_back_as_they_were_and_not_in_another_mode() -> None:
    held = {"1": 201, "2": 17, "5": 33, "6": 9}
    kept = {"h0": {"mode": "7 channels", "values": held}}
    show = compiled(heads(2), row("h0"), look(sets(kept=kept)))
    universe = sent(show, on(show))
    assert [universe[0], universe[1], universe[4], universe[5]] == [201, 17, 33, 9]
    another = compiled(heads(2), row("h0"), look(sets(kept={"h0": {"mode": "9 channels", "values": held}})))
    assert sent(another, on(another))[:6] == HOME[:6]


def test_presets_come_first_and_what_the_line_says_itself_over_them() -> None:
    values = [{"sets": {"Zoom": "10", "Gobo1": "ripples"}, "kept": {}}, {"sets": {"Gobo1": "shingle"}, "kept": {}}]
    show = compiled(heads(1), row("h0"), look(sets(values=values, params={"Zoom": "20"})))
    universe = sent(show, on(show))
    assert (universe[5], universe[4]) == (255 - 20, 30)


def test_a_walk_that_keeps_all_else_dark_is_not_lit_by_lines() -> None:
    from heliograph.core.walk.moment import Walk

    show = compiled(heads(1), row("h0"), look(sets(params={"Dimmer": "full"})))
    alone = replace(on(show), walk=Walk(alone=True))
    assert sent(show, alone)[6] == 0


def test_why_says_who_sets_it_and_comes_to_what_is_sent() -> None:
    drives = {"params.Pan": wave(-20, 20, 4)}
    show = compiled(heads(2), row("h0"), look(sets(params={"Pan": "31°", "Zoom": "12"}, drives=drives)))
    renderer = Renderer()
    for level in (1.0, 0.37):
        state = on(show).levelled("L", level)
        for seconds in (0.0, 0.7):
            universe = renderer.render(show, state, round(seconds * SECOND))[0].tolist()
            stages = renderer.stages(show)
            for channel in range(SIZE * 2):
                chain = why(show, stages, state, round(seconds * SECOND), channel, {"L": "Fog signal"})
                assert chain.value == universe[channel], (channel, chain.steps)
    chain = why(show, stages, on(show), 0, 5, {"L": "Fog signal"})
    assert chain.steps[-1].says == "Fog signal sets it to 12 of 255: 243."


def test_a_word_goes_to_those_that_have_it_and_one_that_none_has_is_refused() -> None:
    plain = [
        {"attribute": "Gobo1"},
        {"attribute": "Shutter1", "ranges": [{"first": 0, "last": 9, "kind": "open", "name": "open"}]},
    ]
    modes = [
        mode_from_json(
            {"name": name, "blocks": [{"name": "b", "shared": shared, "cell_count": 0, "cell_channels": []}]}
        )
        for name, shared in (("a", HEAD), ("b", plain))
    ]
    chosen = [Chosen("h0", modes[0]), Chosen("h1", modes[1])]
    assert typed_over(chosen, "Gobo1", "shingle") == [("h0", {5: 30})]
    assert [name for name, _ in typed_over(chosen, "Gobo1", "40")] == ["h0", "h1"]
    with pytest.raises(InputError, match="'limpets' is no value of gobo"):
        typed_over(chosen, "Gobo1", "limpets")
    with pytest.raises(InputError, match="Nothing of what is chosen has Iris"):
        typed_over(chosen, "Iris", "open")
    assert attributes_in(chosen) == ["Pan", "Tilt", "Gobo1", "Zoom", "Dimmer", "Shutter1"]


def test_what_is_left_alone_stays_alone() -> None:
    alone = [{**one, "alone": True} if one["attribute"] == "Zoom" else one for one in HEAD]
    show = compiled(heads(1, alone), row("h0"), look(sets(params={"Zoom": "9", "Gobo1": "ripples"})))
    universe = sent(show, on(show))
    assert (universe[5], universe[4]) == (sent(show, PlaybackState())[5], 10)
    mode = next(iter(show.rig.fixtures.values())).mode
    assert channels_of(mode).channels[5].alone


def test_an_attribute_is_a_handle_and_what_a_hand_types_lies_over_what_is_stored() -> None:
    show = compiled(heads(2), row("h0", "h1"), look(sets(params={"Zoom": "55", "Gobo1": "ripples"})))
    state = on(show)
    handles = {one.address: one for one in handles_of(show.ground)}
    at = {name: f"look/L/a/{name}" for name in ("on", "solo", "opacity", "Zoom", "Gobo1")}
    assert {one for one in handles if one.startswith("look/L/a/")} == set(at.values())
    held = move(state, show.ground, Move(at["Zoom"], "0 % > full", by="page"))
    held = move(held, show.ground, Move(at["Gobo1"], "shingle", by="page"))
    universe = sent(show, held)
    assert (universe[4], universe[5], universe[SIZE + 5]) == (30, 255, 0)
    wrong = move(state, show.ground, Move(at["Gobo1"], "limpets", by="page"))
    assert sent(show, wrong)[4] == 0  # a word that nothing has sets nothing
    assert sent(show, state)[4] == 10


def test_over_one_emitter_only_that_is_set() -> None:
    channels = [*RGB, {"attribute": "ColorAdd_RY"}]
    params = {"ColorAdd_RY": "90", "ColorAdd_R": "200"}
    show = compiled(lamps(1, channels=channels), row("f0", cells=("f0",)), look(sets(params=params, emitter="amber")))
    assert sent(show, on(show))[:4] == [0, 0, 0, 90]


def test_why_explains_two_looks_over_one_pair_of_bytes_half_way() -> None:
    first = look(sets(params={"Pan": "100°"}))
    second = {**look(sets("b", params={"Pan": "-37°"})), "id": "K"}
    show = compiled(heads(1), row("h0"), first, second)
    state = on(show, "L", "K").levelled("L", 0.6).levelled("K", 0.3)
    renderer = Renderer()
    universe = renderer.render(show, state, 0)[0].tolist()
    for channel in (0, 1):
        assert why(show, renderer.stages(show), state, 0, channel, {}).value == universe[channel]


def test_a_pair_that_is_inverted_is_turned_as_one_as_by_hand() -> None:
    turned = [{**one, "invert": True} if one["attribute"] == "Pan" and not one.get("fine") else one for one in HEAD]
    show = compiled(heads(1, turned), row("h0"), look(sets(params={"Pan": "10°"})))
    mode = channels_of(show.rig.fixtures["h0"].mode)
    by_hand = level_bytes(mode, 1, (10 + PAN_DEG / 2) / PAN_DEG)
    assert sent(show, on(show))[:2] == [by_hand[1], by_hand[2]]


@pytest.mark.parametrize("master", [0.0, 0.01, 0.37, 0.5, 0.999, 1.0])
def test_masters_do_to_what_is_kept_what_they_do_to_a_hand(master: float) -> None:
    """The same bytes, held and kept: with a dimmer above the emitters and without, by ranges, in 16 bit, inverted."""
    fine: list[dict[str, Any]] = [{"attribute": "Dimmer"}, {"attribute": "Dimmer", "fine": True}, *RGB]
    turned: list[dict[str, Any]] = [{"attribute": "ColorAdd_R", "invert": True}, *RGB[1:], {"attribute": "Zoom"}]
    for channels in (HEAD, fine, turned):
        show = compiled(heads(1, channels), row("h0"), look())
        values = {n: (37 * n + 90) % 256 for n in range(1, len(channels) + 1)}
        held = PlaybackState(master=master, manual={f"h0/{n}": value for n, value in values.items()})
        kept = {"h0": {"mode": "7 channels", "values": {str(n): value for n, value in values.items()}}}
        again = compiled(heads(1, channels), row("h0"), look(sets(kept=kept)))
        size = len(channels)
        assert sent(again, on(again, master=master))[:size] == sent(show, held)[:size]
