"""The guard through the API: what makes a laser, taking its guard away, what the doctor says, what may be armed."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for
from tests.live.laser_scene import RAY

LEASE = "0" * 16


def add(app: RunningApp, **fields: Any) -> str:
    key = str(uuid4())
    app.api().call("POST", "/api/profiles", {"id": key, **RAY, **fields})
    return key


def profile(app: RunningApp, key: str) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", f"/api/profiles/{key}")
    return found


def place(app: RunningApp, text: str) -> str:
    key = str(uuid4())
    app.api().call("POST", "/api/fixtures", {"text": text, "ids": [key]})
    return key


def sent(app: RunningApp) -> None:
    output = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast", "card": app.card}
    app.api().call("POST", "/api/outputs", {**output, "destination": "127.0.95.2"})


def lasers(app: RunningApp) -> dict[int, dict[str, Any]]:
    return {one["number"]: one for one in app.api().call("GET", "/api/lasers")["lasers"]}


def changed(app: RunningApp, key: str, **fields: Any) -> None:
    now = profile(app, key)
    body = {name: now[name] for name in ("maker", "name", "kind", "guarded", "notes", "origin", "verified", "modes")}
    app.api().call("PUT", f"/api/profiles/{key}", {**body, **fields})


def test_a_profile_of_kind_laser_is_guarded_and_stays_so(app: RunningApp, show: str) -> None:
    key = add(app, guarded=False)
    assert profile(app, key)["guarded"] is True
    with pytest.raises(HeliographError, match="this would take the guard away"):
        changed(app, key, guarded=False)
    changed(app, key, notes="hung upside down")
    assert profile(app, key)["guarded"] is True
    lamp = add(app, kind="lamp", name="No laser yet", guarded=False)
    assert profile(app, lamp)["guarded"] is False
    changed(app, lamp, kind="laser")
    assert profile(app, lamp)["guarded"] is True


def test_the_guard_is_taken_away_by_an_act_of_its_own(app: RunningApp, show: str) -> None:
    key = add(app)
    ray = place(app, "1 x Test ray, from 801, at U1.1")
    sent(app)
    wait_for(lambda: lasers(app).get(801, {}).get("fault") == "", 10, "it cannot be armed")
    app.api().call("POST", "/api/engine", {"do": "arm", "fixtures": [ray], "lease": LEASE})
    listed = app.api().call("GET", f"/api/profiles/{key}/guard")
    assert [(one["number"], one["address"]) for one in listed] == [(801, "U1.1")]
    with pytest.raises(HeliographError, match="1 fixture is of Test ray, and 0 were listed"):
        app.api().call("POST", f"/api/profiles/{key}/guard", {"guarded": False})
    app.api().call("POST", f"/api/profiles/{key}/guard", {"guarded": False, "fixtures": [ray]})
    wait_for(lambda: app.api().call("GET", "/api/lasers")["left"], 10, "its address is not kept safe")
    answer = app.api().call("GET", "/api/lasers")
    assert answer["lasers"] == []
    assert answer["left"][0]["addresses"] == ["U1.1 to 4"]
    assert app.engine().ask({"do": "status"})["state"]["armed"] == []
    texts = [event["text"] for event in app.api().call("GET", "/api/events")]
    assert any("Test ray no longer guarded by Tester: 801" in text for text in texts)
    app.api().call("POST", "/api/engine", {"do": "gone", "fixture": ray})
    assert app.api().call("GET", "/api/lasers")["left"] == []


def test_a_mode_without_safe_values_is_a_finding_with_its_repair(app: RunningApp, show: str) -> None:
    bare = [{"attribute": "Gobo1", "ranges": [{"first": 8, "last": 20, "kind": "closed"}]}, {"attribute": "Pan"}]
    block = {"name": "b", "shared": bare, "cell_count": 1, "cell_channels": [{"attribute": "ColorAdd_G"}]}
    key = add(app, name="Bare ray", modes=[{"name": "3", "blocks": [block]}])
    ray = place(app, "1 x Bare ray, from 805, at U1.50")
    sent(app)
    wait_for(lambda: "have no safe value" in lasers(app).get(805, {}).get("fault", ""), 10, "it may be armed")
    with pytest.raises(HeliographError, match="have no safe value"):
        app.api().call("POST", "/api/engine", {"do": "arm", "fixtures": [ray], "lease": LEASE})
    found = next(one for one in app.api().call("GET", "/api/patch/doctor") if one["kind"] == "not safe")
    assert found["sentence"] == "805 Bare ray 1 cannot be armed: gobo, pan, green of its mode has no safe value."
    app.api().call("POST", f"/api/profiles/{key}/mend", found["repair"]["change"])
    stored = profile(app, key)["modes"][0]["blocks"][0]
    assert [channel["safe"] for channel in (*stored["shared"], *stored["cell_channels"])] == [8, 0, 0]
    wait_for(lambda: lasers(app)[805]["fault"] == "", 10, "it cannot be armed")
    assert not [one for one in app.api().call("GET", "/api/patch/doctor") if one["kind"] == "not safe"]


def test_who_else_sends_there_is_told_before_arming() -> None:
    from heliograph.core.lasers.guarding import arming_warnings
    from heliograph.core.rig.arrays import build_rig
    from tests.engine.shows import lamps, output

    fixture = build_rig(lamps(1, guarded=True)).fixtures["f0"]
    node = {"silent": False, "by_sacn": False, "outputs": [0]}
    network = {
        "streams": [
            {"protocol": "artnet", "number": 0, "name": "", "ip": "192.0.2.40"},
            {"protocol": "sacn", "number": 0, "name": "Elsewhere", "ip": "192.0.2.41"},
            {"protocol": "artnet", "number": 3, "name": "", "ip": "192.0.2.42"},
        ],
        "nodes": [
            {**node, "ip": "192.0.2.17"},
            {**node, "ip": "192.0.2.90"},
            {**node, "ip": "192.0.2.91", "outputs": [1]},
        ],
    }
    assert arming_warnings(fixture, [output(on=False)], network) == []
    one, two = arming_warnings(fixture, [output()], network)
    assert one.startswith("192.0.2.40 sends ")
    assert two.startswith("192.0.2.17 and 192.0.2.90 both answer for ")


@pytest.mark.parametrize(
    ("outputs", "says"),
    [
        (
            [{"count": 3000, "address": "192.0.2.1, 192.0.2.2, 192.0.2.3"}],
            "9,000 packets, universes times destinations",
        ),
        ([{"count": 20000, "on": False}, {"count": 20000, "on": False}], "40,000 universes"),
    ],
)
def test_a_show_that_cannot_be_played_is_refused_with_what_was_measured(outputs: list[Any], says: str) -> None:
    from heliograph.api.totals import check_size

    rows = [{"on": True, "address": "", **one} for one in outputs]
    with pytest.raises(HeliographError, match=says) as told:
        check_size([], [], rows)
    assert "44" in str(told.value)
    modes = [{"name": "m", "blocks": [{"cell_count": 20_000}]}]
    check_size([("p", "m", 50)], [{"id": "p", "modes": modes}], [])
    with pytest.raises(HeliographError, match="1,020,000 cells"):
        check_size([("p", "m", 51)], [{"id": "p", "modes": modes}], [])


def test_an_edit_that_makes_it_too_large_is_refused_and_nothing_is_stored(app: RunningApp, show: str) -> None:
    output = {"id": str(uuid4()), "name": "Wide", "protocol": "artnet", "mode": "unicast", "card": app.card}
    hosts = ", ".join(f"127.0.95.{n}" for n in range(2, 6))
    with pytest.raises(HeliographError, match="12,000 packets"):
        app.api().call("POST", "/api/outputs", {**output, "destination": hosts, "count": 3000})
    assert app.api().call("GET", "/api/show")["outputs"] == []
