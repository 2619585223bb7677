"""Bad input: a sentence that says what, where and what would be right; and nothing is changed."""

from __future__ import annotations

import json
import urllib.error
import urllib.request
from typing import Any
from uuid import uuid4

import pytest

from tests.conftest import RunningApp
from tests.moves import move


def refused(app: RunningApp, method: str, path: str, body: dict[str, Any]) -> tuple[int, dict[str, str]]:
    request = urllib.request.Request(app.address + path, data=json.dumps(body).encode(), method=method)
    request.add_header("content-type", "application/json")
    with pytest.raises(urllib.error.HTTPError) as told:
        urllib.request.urlopen(request)
    return told.value.code, json.loads(told.value.read())


def out(**fields: Any) -> dict[str, Any]:
    base = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast", "destination": "127.0.84.9"}
    return {**base, "card": "127.0.84.1", **fields}


def strip(pixels: int) -> dict[str, Any]:
    cell = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
    mode = {"name": f"{pixels}", "blocks": [{"name": "Pixels", "cell_count": pixels, "cell_channels": cell}]}
    return {"id": str(uuid4()), "maker": "Tern & Daughter", "name": "Long", "modes": [mode]}


# (method, path, body, what is wrong, where, what would be right)
CASES = [
    ("POST", "/api/profiles", strip(200), "600 channels and may not run on", "channels", "Mark it as running on"),
    ("POST", "/api/fixtures", {"text": "RGB lamp, at U1.513", "ids": [str(uuid4())]}, "1 to 512", "address", "U2.1"),
    (
        "POST",
        "/api/matrices",
        {"id": str(uuid4()), "name": "M", "width": 0, "height": 0},
        "no squares",
        "width",
        "1 column",
    ),
    (
        "POST",
        "/api/matrices",
        {"id": str(uuid4()), "name": "M", "width": 251, "height": 1000},
        "251,000 squares",
        "width",
        "several matrices",
    ),
    (
        "POST",
        "/api/outputs",
        out(destination="no-such-node.invalid"),
        "does not resolve",
        "destination",
        "IP address like",
    ),
    ("POST", "/api/outputs", out(card="eth77"), "no network card 'eth77'", "card", "There are: lo 127.0.84.1"),
    ("POST", "/api/outputs", out(first_number=32768), "0 to 32767", "first_number", "sACN"),
    ("POST", "/api/outputs", out(mode="multicast"), "no multicast", "mode", "unicast or broadcast"),
    ("POST", "/api/outputs", out(protocol="sacn", mode="multicast"), "outside 1 to 63999", "first_number", "from 1"),
    ("POST", "/api/fixtures", {"text": "4 x RGB lamp", "ids": [str(uuid4())]}, "need 4 ids", "ids", ""),
    ("POST", "/api/engine", move("tempo", 5), "20 to 300", "tempo", "half or double"),
    ("POST", "/api/engine", move("master", 1.5), "0 to 100 %", "master", ""),
    ("POST", "/api/engine", {"do": "set_time", "seconds": -1}, "not possible", "time", "0 s"),
    ("PATCH", f"/api/fixtures/{uuid4()}", {"name": "x"}, "not there any more", "id", ""),
    (
        "POST",
        "/api/matrices",
        {"id": str(uuid4()), "name": "  ", "width": 1, "height": 1},
        "The name is empty",
        "name",
        "",
    ),
]


@pytest.mark.parametrize(("method", "path", "body", "what", "where", "repair"), CASES)
def test_a_sentence_each(
    app: RunningApp, show: str, method: str, path: str, body: dict[str, Any], what: str, where: str, repair: str
) -> None:
    before = app.api().call("GET", "/api/show")
    code, told = refused(app, method, path, body)
    assert code in (404, 422)
    assert what in told["what"]
    assert told["where"] == where
    assert repair in told["repair"]
    assert app.api().call("GET", "/api/show") == before


def test_a_number_is_sent_to_one_place_once(app: RunningApp, show: str) -> None:
    app.api().call("POST", "/api/outputs", out(name="First", count=4, on=False))
    _, told = refused(app, "POST", "/api/outputs", out(first_number=3, on=False))
    assert told["what"] == "Output 'First' already sends Art-Net 3 to 127.0.84.9."


def test_an_address_past_the_end_names_the_next_place(app: RunningApp, show: str) -> None:
    key = str(uuid4())
    app.api().call("POST", "/api/fixtures", {"text": "RGB pixel strip, mode 16 RGB, at U3.1", "ids": [key]})
    _, told = refused(app, "PATCH", f"/api/fixtures/{key}", {"address": "U3.498"})
    assert told["what"] == "U3.498 + 48 channels ends at 545: a universe has 512."
    assert told["repair"] == "The next place that holds it is U4.1."


def test_a_taken_place_names_the_next_free_one(app: RunningApp, show: str) -> None:
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, at U1.1", "ids": [str(uuid4()), str(uuid4())]})
    plan = api.call("POST", "/api/fixtures/plan", {"text": "RGB lamp, at U1.2"})
    assert "meets a fixture that is there already" in plan["problem"]
    assert plan["repair"] == "The next free place is U1.7."


def test_a_look_in_use_keeps_its_matrix(app: RunningApp, show: str) -> None:
    api = app.api()
    matrix, look = str(uuid4()), str(uuid4())
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 2, "height": 2})
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix}
    api.call("POST", "/api/looks", {"id": look, "name": "Dusk", "lines": [line]})
    _, told = refused(app, "DELETE", f"/api/matrices/{matrix}", {})
    assert told["what"] == "Dusk paints on this matrix."
    for changes, says in (
        ({"params": {"place": 101}}, "place 101.0 is outside 0 to 100"),
        ({"params": {"glow": 1}}, "Flat has no parameter 'glow'"),
        ({"effect": "Tornado"}, "There is no effect 'Tornado'"),
        ({"opacity": 2}, "outside 0 to 100 %"),
        ({"ramp": [[1, 0, 0, 0], [0, 0, 0, 0]]}, "in order of their places"),
        ({"speed": {"value": 0, "unit": "s"}}, "outside 0.02"),
    ):
        _, told = refused(app, "PATCH", f"/api/looks/{look}/lines/{line['id']}", changes)
        assert says in told["what"]
