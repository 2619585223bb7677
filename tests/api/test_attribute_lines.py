"""Lines that set attributes, presets and looks kept from by hand: through the API, as sent."""

from __future__ import annotations

from pathlib import Path
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, saved_show, wait_for
from tests.engine.heads import HEAD, PAN_DEG
from tests.live.scenes import running, start
from tests.moves import off

SIZE = len(HEAD)
SIX = [{"attribute": f"ColorAdd_{one}"} for one in ("R", "G", "B", "W", "RY", "UV")]


def levels(app: RunningApp, first: int = 1, count: int = SIZE) -> list[int]:
    values: list[int] = app.api().call("GET", "/api/levels/1")["values"]
    return values[first - 1 : first - 1 + count]


@pytest.fixture
def ids(app: RunningApp, show: str) -> dict[str, str]:
    """Four heads 701 to 704 from U1.1 and two lamps of six emitters from U1.101, sent to loopback; three looks, the
    first of which runs, each with a line that sets the heads' zoom."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("output", "L0", "L1", "L2", "l0", "l1", "l2", "Sea")}
    head = {"name": "7 channels", "blocks": [{"name": "Head", "shared": HEAD, "cell_count": 0, "cell_channels": []}]}
    lamp = {"name": "6 channels", "blocks": [{"name": "L", "shared": [], "cell_count": 1, "cell_channels": SIX}]}
    for name, kind, mode in (("Signal head", "head", head), ("Six", "lamp", lamp)):
        body = {"id": str(uuid4()), "maker": "Kittiwake Optics", "name": name, "kind": kind, "modes": [mode]}
        api.call("POST", "/api/profiles", body)
    for count, text in ((4, "4 x Signal head, from 701, at U1.1"), (2, "2 x Six, from 101, at U1.101")):
        api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(count)]})
    for fixture in api.call("GET", "/api/show")["fixtures"]:
        ids[str(fixture["number"])] = fixture["id"]
    for n in range(3):
        line = {"id": ids[f"l{n}"], "paints": "attributes", "selection": "701-704", "params": {"Zoom": "30"}}
        api.call("POST", "/api/looks", {"id": ids[f"L{n}"], "name": f"Look {n}", "lines": [line]})
    output = {"id": ids["output"], "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": "127.0.69.12"})
    start(app, ids["L0"])
    wait_for(lambda: levels(app)[5] == 225, 8, "the line is not sent")
    return ids


def line_at(ids: dict[str, str], n: int = 0) -> str:
    return f"/api/looks/{ids[f'L{n}']}/lines/{ids[f'l{n}']}"


def test_a_line_is_typed_by_word_and_says_what_it_can_set(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    found = {one["attribute"]: one for one in api.call("GET", f"{line_at(ids)}/attributes")["attributes"]}
    assert list(found) == ["Pan", "Tilt", "Gobo1", "Zoom", "Dimmer"]
    assert found["Gobo1"]["words"] == ["open", "ripples", "shingle"]
    assert (found["Pan"]["unit"], found["Zoom"]["unit"], found["Pan"]["fixtures"]) == ("°", "%", 4)
    assert "-315 to 315 degrees" in found["Pan"]["takes"]
    api.call("PATCH", line_at(ids), {"params": {"Gobo1": "shingle", "Pan": "-90° > 90°"}})
    wait_for(lambda: levels(app)[4] == 30, 5, "the word is not sent")
    for n, degrees in enumerate((-90, -30, 30, 90)):
        high, low = levels(app, 1 + n * SIZE, 2)
        assert abs(high * 256 + low - (degrees + PAN_DEG / 2) / PAN_DEG * 65_535) <= 1
    for params, says in (
        ({"Gobo1": "limpets"}, "'limpets' is no value of gobo"),
        ({"Pan": "400°"}, "'400°' is no value of pan"),
        ({"Iris": "open"}, "Nothing of what is chosen has Iris"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", line_at(ids), {"params": params})
    api.call("PATCH", line_at(ids), {"params": {"Gobo1": ""}})  # not set any more
    wait_for(lambda: levels(app)[4] == 0, 5, "it is still set")
    api.call("POST", "/api/undo")
    wait_for(lambda: levels(app)[4] == 30, 5, "it was not taken back")
    with pytest.raises(HeliographError, match="has no blend"):
        api.call("PATCH", line_at(ids), {"blend": "add"})
    with pytest.raises(HeliographError, match="means no fixtures"):
        api.call("PATCH", line_at(ids), {"selection": "701 & 702"})


def test_a_drive_is_added_and_every_second_head_goes_the_other_way(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    api.call("PATCH", line_at(ids), {"params": {"Pan": "0°"}, "drives": {"params.Pan": {}}})
    stored = api.call("GET", "/api/show")["looks"][0]["lines"][0]["drives"]["params.Pan"]
    assert (stored["low"], stored["high"], stored["over"]) == (-24.0, 24.0, "address")
    fixed = {"low": 20, "high": 20, "over": "", "alternate": True}
    api.call("PATCH", line_at(ids), {"drives": {"params.Pan": fixed}})
    right, left = ((degrees + PAN_DEG / 2) / PAN_DEG * 65_535 for degrees in (20, -20))

    def turned() -> bool:
        found = [levels(app, 1 + n * SIZE, 2) for n in range(4)]
        wide = [high * 256 + low for high, low in found]
        return all(abs(a - b) < 3 for a, b in zip(wide, (right, left, right, left), strict=True))

    wait_for(turned, 5, "they do not go apart")
    with pytest.raises(HeliographError, match=r"leaves -720 to 720 °"):
        api.call("PATCH", line_at(ids), {"drives": {"params.Pan": {"high": 900}}})
    effect = {"id": str(uuid4()), "paints": "effect", "effect": "Swell", "selection": "101-102"}
    api.call("POST", f"/api/looks/{ids['L0']}/lines", {**effect})
    at = f"/api/looks/{ids['L0']}/lines/{effect['id']}"
    api.call("PATCH", line_at(ids), {"drives": {"params.Pan": {"source": "curve"}}})
    for name, fields, says in (
        ("params.Pan", {"by": "cycle"}, "has no cycle"),
        ("shift", {}, "No drive can move 'shift'"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", line_at(ids), {"drives": {name: fields}})
    with pytest.raises(HeliographError, match="no picture to paint through"):
        api.call("PATCH", at, {"through": {"line": ids["l0"]}})
    with pytest.raises(HeliographError, match="Only attributes of fixtures"):
        api.call("PATCH", at, {"drives": {"opacity": {"alternate": True}}})


def test_a_preset_that_is_changed_reaches_all_its_looks_and_one_undo_takes_it_back(
    app: RunningApp, ids: dict[str, str], tmp_path: Path
) -> None:
    api = app.api()
    sea = {"id": ids["Sea"], "name": "Sea", "kind": "position", "sets": {"Pan": "45°", "Tilt": "-20°"}}
    api.call("POST", "/api/presets", sea)
    with pytest.raises(HeliographError, match="'limpets' is no value of pan"):
        api.call("POST", "/api/presets", {"id": str(uuid4()), "kind": "position", "sets": {"Pan": "limpets"}})
    with pytest.raises(HeliographError, match="'limpets' is no value of tilt"):
        api.call("PATCH", f"/api/presets/{ids['Sea']}", {"sets": {"Tilt": "limpets"}})
    for n in range(3):
        api.call("PATCH", line_at(ids, n), {"presets": [ids["Sea"]]})
    [told] = api.call("GET", "/api/show")["presets"]
    assert (told["says"], told["used_by"]) == ("pan 45°, tilt -20°", ["Look 0", "Look 1", "Look 2"])

    def pan(degrees: float) -> bool:
        high, low = levels(app)[:2]
        return abs(high * 256 + low - (degrees + PAN_DEG / 2) / PAN_DEG * 65_535) <= 1

    for n in range(3):
        app.engine().ask(off(ids["L0"]))
        start(app, ids[f"L{n}"])
        wait_for(lambda: pan(45.0), 5, "the preset is not sent")
        api.call("PATCH", f"/api/presets/{ids['Sea']}", {"sets": {"Pan": "60°"}})
        wait_for(lambda: pan(60.0), 5, "its change is not sent")
        api.call("POST", "/api/undo")
        wait_for(lambda: pan(45.0), 5, "it was not taken back")
        app.engine().ask(off(ids[f"L{n}"]))
    with pytest.raises(HeliographError, match="Look 0 and Look 1 and Look 2 use this preset"):
        api.call("DELETE", f"/api/presets/{ids['Sea']}")
    with pytest.raises(HeliographError, match="A preset of position does not hold gobo"):
        api.call("PATCH", f"/api/presets/{ids['Sea']}", {"sets": {"Gobo1": "ripples"}})
    file, key = tmp_path / "again.show", str(uuid4())
    file.write_bytes(saved_show(app).read())
    api.upload("/api/shows/file", key, "again.show", file)
    api.call("POST", f"/api/shows/{key}/open")
    again = api.call("GET", "/api/show")
    [preset] = again["presets"]
    assert preset["id"] != ids["Sea"]  # the same show twice: under ids of its own
    assert {tuple(look["lines"][0]["presets"]) for look in again["looks"]} == {(preset["id"],)}


def test_a_position_is_taken_from_by_hand_and_colours_are_pasted(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    quay = {"id": str(uuid4()), "name": "Quay", "kind": "position", "folder": "Evening", "take": "701-702"}
    with pytest.raises(HeliographError, match="Nothing of position is held by hand"):
        api.call("POST", "/api/presets", quay)
    held = {f"{ids['701']}/1": 200, f"{ids['701']}/2": 11, f"{ids['702']}/1": 90, f"{ids['703']}/1": 5}
    api.call("POST", "/api/engine", {"do": "manual", "values": {**held, f"{ids['701']}/5": 40}})
    api.call("POST", "/api/presets", quay)
    api.call("POST", "/api/engine", {"do": "release"})
    [told] = api.call("GET", "/api/show")["presets"]
    assert (set(told["fixtures"]), told["says"]) == ({ids["701"], ids["702"]}, "kept of 2 fixtures")
    api.call("PATCH", line_at(ids), {"presets": [quay["id"]]})
    wait_for(lambda: levels(app)[:2] == [200, 11] and levels(app, 1 + SIZE)[0] == 90, 5, "it is not sent")
    assert levels(app)[4] == 0  # the gobo is not part of a position
    assert levels(app, 1 + 2 * SIZE)[0] == 128
    table = "name,red,green,blue\nFog lamp,204,91,18\nShallows,10 %,55%,60 %\n"
    api.call("POST", "/api/presets/table", {"csv": table, "folder": "Filters"})
    colours = {one["name"]: one for one in api.call("GET", "/api/show")["presets"] if one["kind"] == "colour"}
    assert colours["Fog lamp"]["rgb"] == [204, 91, 18]
    assert colours["Fog lamp"]["says"] == "red 204, green 91, blue 18"
    assert colours["Shallows"]["sets"] == {"ColorAdd_R": "10 %", "ColorAdd_G": "55%", "ColorAdd_B": "60 %"}
    for csv, says in (
        ("Fog,1,2", "Line 1 has 3 cells"),
        ("Fog,1,2,300", "'300' is no level"),
        ("a,b,c,d", "no colour"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("POST", "/api/presets/table", {"csv": csv})
    assert len(api.call("GET", "/api/show")["presets"]) == 3


def test_colours_of_six_emitters_keep_amber_white_and_uv(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    names = [one["attribute"] for one in SIX]
    lamp = {"id": str(uuid4()), "name": "Lamp room", "kind": "colour"}
    given = dict(zip(names, ("10", "20", "30", "140", "150", "160"), strict=True))
    api.call("POST", "/api/presets", {**lamp, "sets": given})
    line = {"id": str(uuid4()), "paints": "attributes", "selection": "101-102", "presets": [lamp["id"]]}
    api.call("POST", f"/api/looks/{ids['L0']}/lines", line)
    wait_for(lambda: levels(app, 101, 12) == [10, 20, 30, 140, 150, 160] * 2, 5, "the colour is not sent")
    api.call("PATCH", f"/api/presets/{lamp['id']}", {"sets": dict(zip(names[:3], ("99", "98", "97"), strict=True))})
    wait_for(lambda: levels(app, 101, 12) == [99, 98, 97, 140, 150, 160] * 2, 5, "its change is not sent")


def test_one_step_makes_a_group_of_every_emitter(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    with pytest.raises(HeliographError, match="None of these has an emitter"):
        api.call("POST", "/api/groups/emitters", {"ids": [ids["701"]]})
    api.call("POST", "/api/groups/emitters", {"ids": [ids["101"]]})
    groups = {one["name"]: one for one in api.call("GET", "/api/show")["groups"]}
    assert list(groups) == ["All red", "All green", "All blue", "All white", "All amber", "All UV"]
    assert {one["rule"] for one in groups.values()} == {f"all : {name.removeprefix('All ')}" for name in groups}
    assert groups["All amber"]["fixtures"] == [ids["101"], ids["102"]]
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "group": groups["All amber"]["id"]}
    api.call("POST", f"/api/looks/{ids['L0']}/lines", {**line, "ramp": [[0, 255, 255, 255]]})
    wait_for(lambda: levels(app, 101, 12)[4::6] == [255, 255], 5, "amber alone is not lit")
    with pytest.raises(HeliographError, match="a group of each of their emitters already"):
        api.call("POST", "/api/groups/emitters", {"ids": [ids["101"]]})


def test_everything_held_by_hand_becomes_a_look_to_the_byte(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    api.call("POST", "/api/engine", off(ids["L0"]))
    with pytest.raises(HeliographError, match="Nothing is held by hand"):
        api.call("POST", "/api/looks/kept", {"id": str(uuid4()), "name": "Kept"})
    held = {f"{ids['701']}/{n}": 30 * n for n in (1, 2, 5, 6)} | {f"{ids['704']}/7": 99}
    held |= {f"{ids['101']}/{n}": 40 + n for n in range(1, 7)} | {f"{ids['102']}/5": 201}
    api.call("POST", "/api/engine", {"do": "manual", "values": held})
    api.call("POST", "/api/engine", {"do": "raw", "values": {"U1.10": 77, "U1.300": 5}})  # 702's tilt, and nobody's

    def sent() -> list[int]:
        return levels(app, 1, 4 * SIZE) + levels(app, 101, 12)

    wait_for(lambda: sent()[0] == 30 and sent()[-2] == 201, 5, "it is not held")
    by_hand = sent()
    key = str(uuid4())
    api.call("POST", "/api/looks/kept", {"id": key, "name": "Kept at the quay"})
    api.call("POST", "/api/engine", {"do": "release"})
    wait_for(lambda: sent() != by_hand, 5, "it was not released")
    start(app, key)
    wait_for(lambda: sent() == by_hand, 5, "it is not what it was")
    [line] = api.call("GET", "/api/show")["looks"][-1]["lines"]
    assert (line["selection"], line["kept"][ids["701"]]) == ("101-102, 701-702, 704", 4)
    assert [run["look"] for run in running(app)["state"]["running"]] == [key]
    api.call("POST", "/api/fixtures/delete", {"ids": [ids["102"]]})
    [line] = api.call("GET", "/api/show")["looks"][-1]["lines"]
    assert ids["102"] not in line["kept"]
    api.call("POST", "/api/undo")
    [line] = api.call("GET", "/api/show")["looks"][-1]["lines"]
    assert ids["102"] in line["kept"]


def test_many_scattered_fixtures_are_kept_and_the_show_is_loaded_again(
    app: RunningApp, ids: dict[str, str], tmp_path: Path
) -> None:
    """Their numbers, written one by one, would be longer than a selection may be."""
    api = app.api()
    keys = [str(uuid4()) for _ in range(90)]
    api.call("POST", "/api/fixtures", {"text": "90 x Six, from 201, at U2.1", "ids": keys})
    held = {f"{key}/1": 99 for key in keys[::2]}

    def hold() -> bool:
        try:
            api.call("POST", "/api/engine", {"do": "manual", "values": held})
        except HeliographError:
            return False
        return True

    wait_for(hold, 8, "the engine does not know them")
    api.call("POST", "/api/looks/kept", {"id": str(uuid4())})
    look = api.call("GET", "/api/show")["looks"][-1]
    assert (look["name"], look["lines"][0]["selection"], len(look["lines"][0]["kept"])) == ("Kept 1", "all", 45)
    file, key = tmp_path / "again.show", str(uuid4())
    file.write_bytes(saved_show(app).read())
    api.upload("/api/shows/file", key, "again.show", file)
    api.call("POST", f"/api/shows/{key}/open")
    assert len(api.call("GET", "/api/show")["looks"][-1]["lines"][0]["kept"]) == 45
