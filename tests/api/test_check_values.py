"""The trade's check values for footprints, addresses, universes and values, through the public API alone.

Common practice, no published source, unless a line names a standard. Profiles are made here, fixtures are typed,
owners of channels and sent values are read back.
"""

from __future__ import annotations

import time
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.core.matrix import unpack
from tests.conftest import RunningApp, at_rest, wait_for

R, G, B, A, W, UV = (f"ColorAdd_{c}" for c in ("R", "G", "B", "RY", "W", "UV"))
MULTICAST: dict[str, Any] = {"protocol": "sacn", "mode": "multicast", "destination": ""}


def block(cells: int, *each: str, shared: tuple[str, ...] = (), name: str = "Pixels", **more: Any) -> dict[str, Any]:
    return {
        "name": name,
        "shared": [{"attribute": one} for one in shared],
        "cell_count": cells,
        "cell_channels": [{"attribute": one} for one in each],
        **more,
    }


def hang(app: RunningApp, count: int, text: str, *blocks: dict[str, Any]) -> list[str]:
    """`count` fixtures of a new profile of these blocks, added by one typed line."""
    name = f"Check {uuid4().hex[:6]}"
    mode = {"name": "only", "blocks": list(blocks)}
    body = {"id": str(uuid4()), "maker": "Fulmar Works", "name": name, "kind": "bar", "modes": [mode]}
    app.api().call("POST", "/api/profiles", body)
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x {name}, {text}", "ids": ids})
    return ids


def fixtures(app: RunningApp) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["fixtures"]
    return found


def starts(app: RunningApp) -> list[str]:
    return [one["address"] for one in fixtures(app)]


def owners(app: RunningApp, universe: int, many: int) -> dict[int, str]:
    """Channel -> "101:3 red" of the fixtures there are now; at least `many` of them."""
    names = {one["name"] for one in fixtures(app)}

    def read() -> dict[int, str]:
        found = app.api().call("GET", f"/api/levels/{universe}")["owners"]
        return {one["channel"]: f"{one['written']} {one['label']}" for one in found} if of_now(found) else {}

    def of_now(found: list[dict[str, Any]]) -> bool:
        return len(found) >= many and {one["name"] for one in found} <= names

    return wait_for(read, 10, f"U{universe} has not {many} owners")


def labelled(found: dict[int, str], label: str) -> list[int]:
    return [channel for channel, said in sorted(found.items()) if said.endswith(f" {label}")]


def test_sixteen_rgb_lamps(app: RunningApp, show: str) -> None:
    hang(app, 16, "from 1, at U1.1", block(1, R, G, B))
    assert starts(app) == [f"U1.{1 + 3 * n}" for n in range(16)]
    assert fixtures(app)[-1]["end"] == "U1.48"


def test_eight_bars_of_twelve_cells(app: RunningApp, show: str) -> None:
    hang(app, 8, "from 101, at U3.1", block(12, R, G, B, A))
    assert starts(app) == [f"U3.{c}" for c in (1, 49, 97, 145, 193, 241, 289, 337)]
    assert {one["footprint"] for one in fixtures(app)} == {48}
    assert fixtures(app)[-1]["end"] == "U3.384"
    found = owners(app, 3, 384)
    cells = [channel for channel, said in found.items() if said.split()[0] in {f"101:{n}" for n in (3, 4, 5, 6)}]
    assert (min(cells), max(cells), len(cells)) == (9, 24, 16)
    assert [channel for channel, said in found.items() if said.startswith("101:5 ")] == [17, 18, 19, 20]
    hang(app, 2, "from 109, at U3.385", block(12, R, G, B, A))
    assert [one["end"] for one in fixtures(app)[-2:]] == ["U3.432", "U3.480"]


def test_eight_lamps_of_six_emitters(app: RunningApp, show: str) -> None:
    hang(app, 8, "from 1, at U1.1", block(1, R, G, B, A, W, UV))
    assert starts(app) == [f"U1.{c}" for c in range(1, 44, 6)]
    found = owners(app, 1, 48)
    assert labelled(found, "red") == list(range(1, 44, 6))
    assert labelled(found, "UV") == list(range(6, 49, 6))


@pytest.mark.parametrize(
    ("each", "fit"),
    [((R, G, B), 170), ((R, G, B, W), 128), ((R, G, B, A, W), 102), ((R, G, B, A, W, UV), 85)],
)
def test_pixels_that_fit_one_universe_whole(app: RunningApp, show: str, each: tuple[str, ...], fit: int) -> None:
    hang(app, 1, "from 1, at U1.1", block(fit + 1, *each, runs_on=True))
    (one,) = fixtures(app)
    assert one["spans"] == [[1, 1, fit * len(each)], [2, 1, len(each)]]


def test_eight_channel_and_sixteen_bit_pixels(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(65, R, G, B, A, W, UV, "Shutter1", "Control1", runs_on=True))
    assert fixtures(app)[0]["spans"] == [[1, 1, 512], [2, 1, 8]]
    fine = block(86, R, runs_on=True)
    fine["cell_channels"] = [{"attribute": one, "fine": low} for one in (R, G, B) for low in (False, True)]
    hang(app, 1, "from 2, at U4.1", fine)
    assert fixtures(app)[1]["spans"] == [[4, 1, 510], [5, 1, 6]]


def test_a_wall_of_960_pixels(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(960, R, G, B, runs_on=True))
    (one,) = fixtures(app)
    assert (one["footprint"], one["cells"]) == (2880, 960)
    assert one["spans"] == [[universe, 1, 510] for universe in range(1, 6)] + [[6, 1, 330]]


def test_boards_of_64_pixels_are_never_split(app: RunningApp, show: str) -> None:
    hang(app, 5, "from 1, at U1.1", block(64, R, G, B))
    api = app.api()
    plan = api.call("POST", "/api/patch/plan", {"selection": "all", "start": "U1.1", "scheme": "no split fixture"})
    assert [one["address"] for one in plan["moves"]] == ["U1.1", "U1.193", "U2.1", "U2.193", "U3.1"]


def test_tubes_of_sixteen_eight_channel_pixels(app: RunningApp, show: str) -> None:
    """Dimmer 16 bit, two others, RGB at 5 to 7, shutter; from U2.18 the next at 146; three fit."""
    tube = block(16, R)
    tube["cell_channels"] = [
        {"attribute": "Dimmer"},
        {"attribute": "Dimmer", "fine": True},
        {"attribute": "Control1"},
        {"attribute": "Control2"},
        *({"attribute": one} for one in (R, G, B)),
        {"attribute": "Shutter1"},
    ]
    hang(app, 4, "from 1, at U2.18", tube)
    assert starts(app)[:3] == ["U2.18", "U2.146", "U2.274"]
    assert starts(app)[3] == "U3.1"  # the fourth would end past 512
    found = owners(app, 2, 384)
    assert [found[c] for c in (22, 23, 24)] == ["1:1 red", "1:1 green", "1:1 blue"]
    assert [found[c] for c in (142, 143, 144)] == ["1:16 red", "1:16 green", "1:16 blue"]


def test_blocks_that_follow_one_another_and_one_that_is_off(app: RunningApp, show: str) -> None:
    for pixels, (long, whole) in {7: (28, 63), 19: (76, 111)}.items():
        base = block(0, shared=tuple(f"Control{n}" for n in range(1, 21)), name="Base")
        animation = block(0, shared=tuple(f"Effects{n}" for n in range(1, 16)), name="Animation")
        number = 100 + pixels
        ids = hang(app, 1, f"from {number}, at U{pixels}.1", base, animation, block(pixels, R, G, B, W))
        one = next(one for one in fixtures(app) if one["number"] == number)
        assert [b["address"] for b in one["blocks"]] == [f"U{pixels}.{c}" for c in (1, 21, 36)]
        assert (one["footprint"], one["blocks"][2]["cells"] * 4) == (whole, long)
        app.api().call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 1, "state": "off"})
        one = next(one for one in fixtures(app) if one["number"] == number)
        assert one["blocks"][2]["address"] == f"U{pixels}.21"


def test_a_master_part_then_twelve_cells(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(12, R, G, B, W, shared=("Dimmer", "Shutter1", "Control1")))
    assert fixtures(app)[0]["footprint"] == 51
    found = owners(app, 1, 51)
    for i in range(1, 13):
        assert found[1 + 3 + 4 * (i - 1)] == f"1:{i} red"


@pytest.mark.parametrize(("channels", "fit"), [(16, 32), (32, 16), (50, 10)])
def test_laser_zones(app: RunningApp, show: str, channels: int, fit: int) -> None:
    hang(app, fit + 1, "from 1, at U1.1", block(0, shared=tuple(f"Control{n + 1}" for n in range(channels))))
    assert starts(app) == [*(f"U1.{1 + channels * n}" for n in range(fit)), "U2.1"]
    if channels == 50:
        assert [int(one.split(".")[1]) for one in starts(app)[:10]] == [1, 51, 101, 151, 201, 251, 301, 351, 401, 451]


def test_two_lamp_segments_by_hue(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(2, "Dimmer", "CTO", "HSB_Saturation", "HSB_Hue"))
    found = owners(app, 1, 8)
    assert [channel for channel, said in found.items() if said in ("1:1 dimmer", "1:2 dimmer")] == [1, 5]
    assert max(found) == 8
    assert labelled(found, "hue") == [4, 8]


@pytest.mark.parametrize(
    ("output", "says"),
    [
        # A node that counts from 1 calls 1 what the wire calls 0; its 8 is 7.
        ({"protocol": "artnet", "first_number": 0}, "Net 0 Sub-Net 0 Universe 0 (Port-Address 0, counted from 1: 1)"),
        ({"protocol": "artnet", "first_number": 7}, "Net 0 Sub-Net 0 Universe 7 (Port-Address 7, counted from 1: 8)"),
        # Port-Address = Net x 256 + Sub-Net x 16 + Universe (Art-Net 4).
        (
            {"protocol": "artnet", "first_number": 18 * 256 + 3 * 16 + 4},
            "Net 18 Sub-Net 3 Universe 4 (Port-Address 4660, counted from 1: 4661)",
        ),
        # sACN universe 100 has the group 239.255.0.100 (ANSI E1.31).
        ({**MULTICAST, "first_number": 100}, "sACN universe 100, group 239.255.0.100"),
    ],
)
def test_universes_are_spelled_in_every_counting(app: RunningApp, show: str, output: dict[str, Any], says: str) -> None:
    route = {"mode": "unicast", "destination": "127.0.0.77", "card": app.card, **output}
    app.api().call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
    (one,) = app.api().call("GET", "/api/show")["outputs"]
    assert one["spelled_first"].startswith(says)


def test_art_net_has_no_multicast(app: RunningApp, show: str) -> None:
    body = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "multicast", "card": app.card}
    with pytest.raises(Exception, match="Art-Net has no multicast"):
        app.api().call("POST", "/api/outputs", body)


def sent(app: RunningApp, values: dict[str, int], channels: int) -> list[int]:
    """Holds manual values ("<fixture>/<channel>") and reads U1 as it leaves, once it has settled."""
    api = app.api()
    api.call("POST", "/api/engine", {"do": "manual", "values": values})

    def settled() -> list[int]:
        first = api.call("GET", "/api/levels/1")
        time.sleep(0.1)
        again = api.call("GET", "/api/levels/1")
        same = first["values"] == again["values"] and again["frame"] > first["frame"] + 2
        return again["values"][:channels] if again["sent"] and same and any(again["values"]) else []

    return wait_for(settled, 5, "the values did not settle")


def lamp(app: RunningApp, *blocks: dict[str, Any]) -> str:
    """One fixture at U1.1 that is sent, and known to the engine."""
    at_rest(app)
    (key,) = hang(app, 1, "from 1, at U1.1", *blocks)
    route = {"protocol": "artnet", "mode": "unicast", "destination": "127.0.0.77", "card": app.card}
    app.api().call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
    owners(app, 1, 3)
    return key


def test_a_virtual_dimmer_dims_in_proportion_and_remembers(app: RunningApp, show: str) -> None:
    key = lamp(app, block(1, R, G, B))
    api = app.api()
    colour = {f"{key}/{n}": value for n, value in ((1, 200), (2, 100), (3, 40))}
    assert sent(app, colour, 3) == [200, 100, 40]
    api.call("POST", "/api/engine", {"do": "master", "level": 0.5})
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:3] == [100, 50, 20], 3, "half was not in proportion")
    api.call("POST", "/api/engine", {"do": "master", "level": 0.0})
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:3] == [0, 0, 0], 3, "it did not go dark")
    api.call("POST", "/api/engine", {"do": "master", "level": 1.0})
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:3] == [200, 100, 40], 3, "the colour was forgotten")
    at_rest(app)


@pytest.mark.parametrize(("percent", "value"), [(40, {102}), (30, {76, 77}), (100, {255}), (56.1, {143}), (21.2, {54})])
def test_percent_as_levels(app: RunningApp, show: str, percent: float, value: set[int]) -> None:
    """40 % and 30 % as a look's level; the others are the amber correction 255, 143, 54 in percent."""
    lamp(app, block(1, R, G, B))
    api = app.api()
    painted(app, 1, "Flat", [[0, 255, 255, 255]], opacity=percent / 100)
    wait_for(lambda: set(api.call("GET", "/api/levels/1")["values"][:3]) <= value, 5, f"{percent} % is not {value}")
    at_rest(app)


def test_halfway_between_two_colours(app: RunningApp, show: str) -> None:
    """(255, 0, 255) and (0, 255, 0), linear: in the middle 127 or 128 each. Three lamps of a graded line."""
    lamp(app, block(1, R, G, B))
    hang(app, 2, "from 2, at U1.4", block(1, R, G, B))
    api = app.api()
    painted(app, 3, "Grade", [[0, 255, 0, 255], [1, 0, 255, 0]])
    wait_for(
        lambda: all(value in (127, 128) for value in api.call("GET", "/api/levels/1")["values"][3:6]),
        5,
        "the middle lamp is not halfway",
    )
    at_rest(app)


def painted(app: RunningApp, width: int, effect: str, ramp: list[list[float]], **layer: Any) -> None:
    """Paints all cells, as one row, by a look that is on and stands still."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("matrix", "look", "layer")}
    weave = {"selection": "all", "width": width, "height": 1}
    matrix = {"id": ids["matrix"], "name": "Row", "width": width, "height": 1, "weave": weave}
    api.call("POST", "/api/matrices", matrix)
    one = {"id": ids["layer"], "paints": "effect", "effect": effect, "matrix": ids["matrix"], "ramp": ramp, **layer}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Painted", "layers": [one]})
    api.call("POST", "/api/engine", {"do": "hold_time"})
    wait_for(lambda: started(app, ids["look"]), 10, "the look did not start")


def started(app: RunningApp, look: str) -> bool:
    try:
        app.api().call("POST", "/api/engine", {"do": "start", "look": look})
    except Exception:
        return False  # the engine does not know it yet
    return True


def test_inverted_values_are_255_or_65535_less_the_value(app: RunningApp, show: str) -> None:
    """Painted 200, 100, 40: red in 16 bit and inverted is 65535 - 200 x 257 = 14135 = 55, 55; blue is 255 - 40."""
    turned = block(1, R)
    turned["cell_channels"] = [
        channel
        for one, wide, invert in ((R, True, True), (G, False, False), (B, False, True))
        for channel in (
            {"attribute": one, "fine": low, "invert": invert} for low in ((False, True) if wide else (False,))
        )
    ]
    lamp(app, turned)
    api = app.api()
    painted(app, 1, "Flat", [[0, 200, 100, 40]])
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:4] == [55, 55, 100, 215], 5, "they are not turned")
    at_rest(app)


def test_sixteen_bit_values_leave_as_two_bytes(app: RunningApp, show: str) -> None:
    """Half of 16 bit (32768) is 128, 0. Sent for a dimmer by the level of a master."""
    wide = block(1, R, G, B, shared=("Dimmer",))
    wide["shared"] = [{"attribute": "Dimmer"}, {"attribute": "Dimmer", "fine": True}]
    key = lamp(app, wide)
    api = app.api()
    assert sent(app, {f"{key}/3": 200}, 5) == [255, 255, 200, 0, 0]
    api.call("POST", "/api/engine", {"do": "master", "level": 0.5})
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:2] == [128, 0], 3, "half is not 128, 0")
    at_rest(app)


def test_a_dimmer_that_shares_its_channel_with_a_strobe_is_held_steady(app: RunningApp, show: str) -> None:
    """Lamps of 4 channels at 200, 204 ... 216: RGB at 201 ... 217; the first must be steady full for any light."""
    lamps = block(1, R, G, B, shared=("Dimmer",))
    lamps["shared"] = [
        {
            "attribute": "Dimmer",
            "ranges": [
                {"first": 0, "last": 7, "kind": "closed"},
                {"first": 8, "last": 134, "kind": "dim"},
                {"first": 135, "last": 239, "kind": "strobe"},
                {"first": 240, "last": 255, "kind": "open"},
            ],
        }
    ]
    hang(app, 5, "from 1, at U1.200", lamps)
    assert starts(app) == [f"U1.{c}" for c in (200, 204, 208, 212, 216)]
    assert labelled(owners(app, 1, 20), "red") == [201, 205, 209, 213, 217]
    route = {"protocol": "artnet", "mode": "unicast", "destination": "127.0.0.77", "card": app.card}
    app.api().call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
    firsts = [199, 203, 207, 211, 215]
    wait_for(
        lambda: all(app.api().call("GET", "/api/levels/1")["values"][n] >= 240 for n in firsts),
        5,
        "the dimmers are not held steady",
    )


# Grids (the trade's check values; common practice, no published source).


def add(app: RunningApp, text: str, count: int) -> None:
    app.api().call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(count)]})


def grid(app: RunningApp, selection: str, width: int, height: int, **how: Any) -> str:
    """Weaves a selection on a matrix of that size, and returns it."""
    key = str(uuid4())
    weave = {"selection": selection, "width": width, "height": height, **how}
    body = {"id": key, "name": f"{width} x {height}", "width": width, "height": height, "weave": weave}
    app.api().call("POST", "/api/matrices", body)
    return key


def squares(app: RunningApp, matrix: str) -> dict[int, tuple[int, int]]:
    """Fixture number -> the square of its first cell."""
    show = app.api().call("GET", "/api/show")
    numbers = {one["id"]: one["number"] for one in show["fixtures"]}
    found = next(one for one in show["matrices"] if one["id"] == matrix)
    return {numbers[one.key.fixture]: one.square for one in unpack(found["placements"]) if one.key.cell == "1"}


def lit_by_column(app: RunningApp, matrix: str, steps: int) -> list[list[int]]:
    """Fixture numbers that each step of a walk by column lights."""
    numbers = {one["id"]: one["number"] for one in fixtures(app)}

    def begins() -> dict[str, Any] | None:
        try:
            view: dict[str, Any] = app.api().call("POST", "/api/walk", {"by": "column", "matrix": matrix})
        except HeliographError:  # the matrix is on its way to the engine
            return None
        return view if view["count"] == steps else None

    wait_for(begins, 5, "the walk has not the steps it should")
    found = []
    for step in range(steps):
        view = app.api().call("POST", "/api/walk/go", {"to": step})
        found.append(sorted(numbers[one["fixture"]] for one in view["cells"]))
    app.api().call("DELETE", "/api/walk")
    return found


def test_sixteen_lamps_in_rows_of_four(app: RunningApp, show: str) -> None:
    add(app, "16 x RGB lamp, from 1, at U1.1", 16)
    at = squares(app, grid(app, "all", 4, 4))
    assert next(one["address"] for one in fixtures(app) if one["number"] == 5) == "U1.13"
    assert at[5] == (at[1][0], at[1][1] + 1)


def test_six_bars_as_three_pairs_and_as_six_singles(app: RunningApp, show: str) -> None:
    add(app, "6 x RGB lamp, from 1, at U1.1", 6)
    pairs = grid(app, "all", 3, 2, corner="bottom left", along="columns")
    at = squares(app, pairs)
    assert [at[n] for n in (1, 3, 5)] == [(0, 1), (1, 1), (2, 1)]
    assert [at[n] for n in (2, 4, 6)] == [(0, 0), (1, 0), (2, 0)]
    assert lit_by_column(app, pairs, 3) == [[1, 2], [3, 4], [5, 6]]
    assert lit_by_column(app, grid(app, "all", 6, 1), 6) == [[1], [2], [3], [4], [5], [6]]


def test_two_columns_of_four_with_an_empty_column_between(app: RunningApp, show: str) -> None:
    add(app, "8 x RGB lamp, from 1, at U1.1", 8)
    at = squares(app, grid(app, "all", 3, 4, along="columns", gap_columns=1))
    assert [at[n] for n in range(1, 9)] == [(x, y) for x in (0, 2) for y in range(4)]
