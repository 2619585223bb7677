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
from heliograph.core.matrix.placements import unpack
from tests.conftest import RunningApp, at_rest, wait_for
from tests.moves import move, on

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


def test_twenty_one_rgb_lamps(app: RunningApp, show: str) -> None:
    hang(app, 21, "from 201, at U1.7", block(1, R, G, B))
    assert starts(app) == [f"U1.{7 + 3 * n}" for n in range(21)]
    assert fixtures(app)[-1]["end"] == "U1.69"


def test_seven_bars_of_nine_cells(app: RunningApp, show: str) -> None:
    hang(app, 7, "from 421, at U6.21", block(9, R, G, B, A))
    assert starts(app) == [f"U6.{c}" for c in (21, 57, 93, 129, 165, 201, 237)]
    assert {one["footprint"] for one in fixtures(app)} == {36}
    assert fixtures(app)[-1]["end"] == "U6.272"
    found = owners(app, 6, 252)
    cells = [channel for channel, said in found.items() if said.split()[0] in {f"421:{n}" for n in (2, 3, 4, 5)}]
    assert (min(cells), max(cells), len(cells)) == (25, 40, 16)
    assert [channel for channel, said in found.items() if said.startswith("421:7 ")] == [45, 46, 47, 48]
    hang(app, 7, "from 428, at U6.273", block(9, R, G, B, A))  # 240 are left: six more, and one beyond
    assert [one["end"] for one in fixtures(app)[-2:]] == ["U6.488", "U7.36"]


def test_nine_lamps_of_six_emitters(app: RunningApp, show: str) -> None:
    hang(app, 9, "from 1, at U1.11", block(1, R, G, B, A, W, UV))
    assert starts(app) == [f"U1.{c}" for c in range(11, 60, 6)]
    found = owners(app, 1, 54)
    assert labelled(found, "red") == list(range(11, 60, 6))
    assert labelled(found, "UV") == list(range(16, 65, 6))


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


def test_a_wall_of_66_by_15_pixels(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(66 * 15, R, G, B, runs_on=True))
    (one,) = fixtures(app)
    assert (one["footprint"], one["cells"]) == (2970, 990)
    assert one["spans"] == [[universe, 1, 510] for universe in range(1, 6)] + [[6, 1, 420]]


def test_boards_of_60_pixels_are_never_split(app: RunningApp, show: str) -> None:
    hang(app, 5, "from 1, at U1.1", block(6 * 10, R, G, B))
    api = app.api()
    plan = api.call("POST", "/api/patch/plan", {"selection": "all", "start": "U1.1", "scheme": "no split fixture"})
    assert [one["address"] for one in plan["moves"]] == ["U1.1", "U1.181", "U2.1", "U2.181", "U3.1"]


def test_tubes_of_twenty_four_five_channel_pixels(app: RunningApp, show: str) -> None:
    """RGB, white, strobe; from U3.30 the next at 150; four fit, to 509."""
    tube = block(24, R)
    tube["cell_channels"] = [{"attribute": one} for one in (R, G, B, "ColorAdd_W", "Shutter1Strobe")]
    hang(app, 5, "from 1, at U3.30", tube)
    assert starts(app)[:4] == ["U3.30", "U3.150", "U3.270", "U3.390"]
    assert starts(app)[4] == "U4.1"  # the fifth would end past 512
    found = owners(app, 3, 480)
    assert [found[c] for c in (30, 31, 32)] == ["1:1 red", "1:1 green", "1:1 blue"]
    assert [found[c] for c in (145, 146, 147)] == ["1:24 red", "1:24 green", "1:24 blue"]
    assert max(found) == 509


def test_blocks_that_follow_one_another_and_one_that_is_off(app: RunningApp, show: str) -> None:
    base = block(0, shared=tuple(f"Control{n}" for n in range(1, 23)), name="Base")
    halo = block(0, shared=tuple(f"Effects{n}" for n in range(1, 10)), name="Halo")
    ids = hang(app, 1, "from 701, at U9.1", base, halo, block(12, R, G, B, W, name="Ring"))
    (one,) = fixtures(app)
    assert [b["address"] for b in one["blocks"]] == ["U9.1", "U9.23", "U9.32"]
    assert (one["footprint"], one["blocks"][2]["cells"] * 4, one["end"]) == (79, 48, "U9.79")
    app.api().call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 1, "lies": ""})
    (one,) = fixtures(app)
    assert (one["blocks"][2]["address"], one["end"]) == ("U9.23", "U9.70")


def test_a_master_part_then_eight_cells(app: RunningApp, show: str) -> None:
    shared = ("Dimmer", "Shutter1", "Control1", "Control2", "Control3")
    hang(app, 1, "from 1, at U1.41", block(8, R, G, B, W, A, UV, shared=shared))
    (one,) = fixtures(app)
    assert (one["footprint"], one["end"]) == (53, "U1.93")
    found = owners(app, 1, 53)
    for i in range(1, 9):
        assert found[46 + 6 * (i - 1)] == f"1:{i} red"


def test_laser_zones_of_twenty_four_channels(app: RunningApp, show: str) -> None:
    hang(app, 22, "from 1, at U1.1", block(0, shared=tuple(f"Control{n + 1}" for n in range(24))))
    assert starts(app) == [*(f"U1.{1 + 24 * n}" for n in range(21)), "U2.1"]
    assert starts(app)[20] == "U1.481"


def test_three_cells_by_hue(app: RunningApp, show: str) -> None:
    hang(app, 1, "from 1, at U1.1", block(3, "HSB_Hue", "HSB_Saturation", "Dimmer"))
    found = owners(app, 1, 9)
    assert [channel for channel, said in found.items() if said.endswith(" dimmer")] == [3, 6, 9]
    assert labelled(found, "hue") == [1, 4, 7]


@pytest.mark.parametrize(
    ("output", "says"),
    [
        # A node that counts from 1 calls 1 what the wire calls 0; its 12 is 11.
        ({"protocol": "artnet", "first_number": 0}, "Net 0 Sub-Net 0 Universe 0 (Port-Address 0, counted from 1: 1)"),
        (
            {"protocol": "artnet", "first_number": 11},
            "Net 0 Sub-Net 0 Universe 11 (Port-Address 11, counted from 1: 12)",
        ),
        # Port-Address = Net x 256 + Sub-Net x 16 + Universe (Art-Net 4).
        (
            {"protocol": "artnet", "first_number": 18 * 256 + 3 * 16 + 4},
            "Net 18 Sub-Net 3 Universe 4 (Port-Address 4660, counted from 1: 4661)",
        ),
        # sACN universe 300 has the group 239.255.1.44 (ANSI E1.31).
        ({**MULTICAST, "first_number": 300}, "sACN universe 300, group 239.255.1.44"),
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
    colour = {f"{key}/{n}": value for n, value in ((1, 220), (2, 120), (3, 60))}
    assert sent(app, colour, 3) == [220, 120, 60]
    api.call("POST", "/api/engine", move("master", 0.25))
    wait_for(
        lambda: api.call("GET", "/api/levels/1")["values"][:3] == [55, 30, 15], 3, "a quarter was not in proportion"
    )
    api.call("POST", "/api/engine", move("master", 0.0))
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:3] == [0, 0, 0], 3, "it did not go dark")
    api.call("POST", "/api/engine", move("master", 1.0))
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:3] == [220, 120, 60], 3, "the colour was forgotten")
    at_rest(app)


@pytest.mark.parametrize(("percent", "value"), [(60, {153}), (15, {38}), (100, {255}), (35.7, {91}), (7.1, {18})])
def test_percent_as_levels(app: RunningApp, show: str, percent: float, value: set[int]) -> None:
    """60 % and 15 % as a look's level; the others are 204, 91, 18 in percent."""
    lamp(app, block(1, R, G, B))
    api = app.api()
    painted(app, 1, "Flat", [[0, 255, 255, 255]], opacity=percent / 100)
    wait_for(lambda: set(api.call("GET", "/api/levels/1")["values"][:3]) <= value, 5, f"{percent} % is not {value}")
    at_rest(app)


def test_halfway_between_two_colours(app: RunningApp, show: str) -> None:
    """(240, 0, 120) and (0, 200, 40), straight: in the middle (120, 100, 80). Three lamps of a graded line."""
    lamp(app, block(1, R, G, B))
    hang(app, 2, "from 2, at U1.4", block(1, R, G, B))
    api = app.api()
    painted(app, 3, "Grade", [[0, 240, 0, 120], [1, 0, 200, 40]])
    wait_for(
        lambda: api.call("GET", "/api/levels/1")["values"][3:6] == [120, 100, 80],
        5,
        "the middle lamp is not halfway",
    )
    at_rest(app)


def painted(app: RunningApp, width: int, effect: str, ramp: list[list[float]], **line: Any) -> None:
    """Paints all cells, as one row, by a look that is on and stands still."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("matrix", "look", "line")}
    weave = {"selection": "all", "width": width, "height": 1}
    matrix = {"id": ids["matrix"], "name": "Row", "width": width, "height": 1, "weave": weave}
    api.call("POST", "/api/matrices", matrix)
    one = {"id": ids["line"], "paints": "effect", "effect": effect, "matrix": ids["matrix"], "ramp": ramp, **line}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Painted", "lines": [one]})
    api.call("POST", "/api/engine", {"do": "hold_time"})
    wait_for(lambda: started(app, ids["look"]), 10, "the look did not start")


def started(app: RunningApp, look: str) -> bool:
    try:
        app.api().call("POST", "/api/engine", on(look))
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
    api.call("POST", "/api/engine", move("master", 0.5))
    wait_for(lambda: api.call("GET", "/api/levels/1")["values"][:2] == [128, 0], 3, "half is not 128, 0")
    at_rest(app)


def test_a_dimmer_that_shares_its_channel_with_a_strobe_is_held_steady(app: RunningApp, show: str) -> None:
    """Lamps of R, G, B and one channel for both, from 161: 164, 168 ... 184 must be steady open for any light."""
    lamps = block(1, R, G, B)
    lamps["cell_channels"].append(
        {
            "attribute": "Dimmer",
            "ranges": [
                {"first": 0, "last": 4, "kind": "closed"},
                {"first": 5, "last": 184, "kind": "dim"},
                {"first": 185, "last": 249, "kind": "strobe"},
                {"first": 250, "last": 255, "kind": "open"},
            ],
        }
    )
    hang(app, 6, "from 1, at U1.161", lamps)
    assert starts(app) == [f"U1.{c}" for c in (161, 165, 169, 173, 177, 181)]
    assert labelled(owners(app, 1, 24), "red") == [161, 165, 169, 173, 177, 181]
    route = {"protocol": "artnet", "mode": "unicast", "destination": "127.0.0.77", "card": app.card}
    app.api().call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
    wait_for(
        lambda: all(app.api().call("GET", "/api/levels/1")["values"][n - 1] >= 250 for n in range(164, 185, 4)),
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


def test_twenty_lamps_in_rows_of_five(app: RunningApp, show: str) -> None:
    add(app, "20 x RGB lamp, from 1, at U1.1", 20)
    at = squares(app, grid(app, "all", 5, 4))
    assert next(one["address"] for one in fixtures(app) if one["number"] == 6) == "U1.16"
    assert at[6] == (at[1][0], at[1][1] + 1)


def test_ten_bars_as_five_pairs_and_as_ten_singles(app: RunningApp, show: str) -> None:
    """Woven up and down by columns from the lower left: from below the columns hold 1-2, 4-3, 5-6, 8-7, 9-10."""
    add(app, "10 x RGB lamp, from 1, at U1.1", 10)
    pairs = grid(app, "all", 5, 2, corner="bottom left", along="columns", snake=True)
    at = {square: number for number, square in squares(app, pairs).items()}
    assert [(at[x, 1], at[x, 0]) for x in range(5)] == [(1, 2), (4, 3), (5, 6), (8, 7), (9, 10)]
    assert lit_by_column(app, pairs, 5) == [[1, 2], [3, 4], [5, 6], [7, 8], [9, 10]]
    assert lit_by_column(app, grid(app, "all", 10, 1), 10) == [[n] for n in range(1, 11)]


def test_three_columns_with_an_empty_column_after_every_one(app: RunningApp, show: str) -> None:
    add(app, "9 x RGB lamp, from 1, at U1.1", 9)
    at = squares(app, grid(app, "all", 5, 3, along="columns", gap_columns=1))
    assert [at[n] for n in range(1, 10)] == [(x, y) for x in (0, 2, 4) for y in range(3)]
