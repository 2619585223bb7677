"""Outputs through the API: destinations, synchronisation, rate, mute; what is wrong is said and nothing is stored."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp


def output(app: RunningApp, **fields: Any) -> str:
    key = str(uuid4())
    route = {"protocol": "artnet", "mode": "unicast", "destination": "127.0.0.77", "card": app.card, "count": 2}
    app.api().call("POST", "/api/outputs", {"id": key, "name": "Out", **route, **fields})
    return key


def only(app: RunningApp) -> dict[str, Any]:
    (one,) = app.api().call("GET", "/api/show")["outputs"]
    found: dict[str, Any] = one
    return found


def test_a_plain_output_sends_every_frame_to_one_place_with_no_synchronisation(app: RunningApp, show: str) -> None:
    output(app)
    one = only(app)
    assert (one["rate_hz"], one["sync"], one["mute"], one["address"]) == (44, 0, False, "127.0.0.77")


def test_destinations_are_resolved_each_by_itself(app: RunningApp, show: str) -> None:
    key = output(app, destination=" 127.0.0.77,localhost ,127.0.0.79")
    assert only(app)["address"] == "127.0.0.77, 127.0.0.1, 127.0.0.79"
    for wrong, says in (
        ("127.0.0.77, 127.0.0.77", "127.0.0.77 is among the destinations twice"),
        ("127.0.0.77,, 127.0.0.78", "'' is not an address"),
        (", ".join(f"127.0.1.{n}" for n in range(17)), "These are 17 destinations: an output sends to 16 at most"),
    ):
        with pytest.raises(HeliographError, match=says):
            app.api().call("PATCH", f"/api/outputs/{key}", {"destination": wrong})
    assert only(app)["address"] == "127.0.0.77, 127.0.0.1, 127.0.0.79"


def test_one_number_goes_to_one_destination_once_only(app: RunningApp, show: str) -> None:
    output(app, destination="127.0.0.77, 127.0.0.78")
    with pytest.raises(HeliographError, match=r"Output 'Out' already sends Art-Net 1 to 127\.0\.0\.78"):
        output(app, destination="127.0.0.78, 127.0.0.79", first_number=1, first_universe=5)
    output(app, destination="127.0.0.79", first_number=1, first_universe=5)


def test_synchronisation_that_cannot_be(app: RunningApp, show: str) -> None:
    key = output(app)
    with pytest.raises(HeliographError, match="ArtSync has no number"):
        app.api().call("PATCH", f"/api/outputs/{key}", {"sync": 7})
    change = {"protocol": "sacn", "mode": "multicast", "first_number": 10, "sync": 11}
    with pytest.raises(HeliographError, match="sACN 11 carries values of this output"):
        app.api().call("PATCH", f"/api/outputs/{key}", change)
    app.api().call("PATCH", f"/api/outputs/{key}", {**change, "sync": 12})
    assert only(app)["sync"] == 12
    app.api().call("PATCH", f"/api/outputs/{key}", {"protocol": "artnet", "mode": "broadcast", "first_number": 0})
    assert only(app)["sync"] == 0  # the universe meant nothing any more
    for rate in (0, 45):
        with pytest.raises(HeliographError, match="frames a second"):
            app.api().call("PATCH", f"/api/outputs/{key}", {"rate_hz": rate})


def test_mute_is_named_by_the_doctor_and_undone_by_name(app: RunningApp, show: str) -> None:
    key = output(app)
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, from 1", "ids": [str(uuid4()), str(uuid4())]})
    api.call("PATCH", f"/api/outputs/{key}", {"mute": True})
    assert api.call("GET", "/api/show")["undo"] == "Muted an output"
    (found,) = [one for one in api.call("GET", "/api/patch/doctor") if one["kind"] == "muted"]
    assert found["sentence"] == "Out is muted: U1 to U2 is sent dark."
    repair = found["repair"]
    api.call("PATCH", f"/api/outputs/{repair['id']}", repair["change"])
    assert api.call("GET", "/api/show")["undo"] == "Let a muted output light again"
    assert not [one for one in api.call("GET", "/api/patch/doctor") if one["kind"] == "muted"]


def test_a_number_sent_twice_to_one_node_is_named(app: RunningApp, show: str) -> None:
    output(app, name="Direct")
    output(app, name="Everyone", mode="broadcast", destination="", first_universe=7)
    (found,) = [one for one in app.api().call("GET", "/api/patch/doctor") if one["kind"] == "sent twice"]
    assert found["sentence"].startswith("Direct and Everyone both send Art-Net Net 0 Sub-Net 0 Universe 0 and 1 more")
    assert found["repair"]["label"] == "Switch Everyone off"


def addressed(app: RunningApp, **body: Any) -> list[tuple[int, str]]:
    plan = app.api().call("POST", "/api/patch/plan", {"selection": "all", "start": "U1.1", **body})
    assert plan["problem"] == "", plan["problem"]
    return [(one["number"], one["address"]) for one in plan["moves"]]


def test_addresses_by_plan_strand_and_port(app: RunningApp, show: str) -> None:
    """Six lamps in two rows of three, hung from right to left; a matrix woven up and down."""
    api = app.api()
    ids = [str(uuid4()) for _ in range(6)]
    api.call("POST", "/api/fixtures", {"text": "6 x RGB lamp, from 1", "ids": ids})
    plan = str(uuid4())
    api.call("POST", "/api/plans", {"id": plan, "name": "Front"})
    items = [{"kind": "fixture", "id": key, "x": float(-(n % 3)), "y": float(-(n // 3))} for n, key in enumerate(ids)]
    api.call("POST", f"/api/plans/{plan}/items", {"put": items[:5], "label": "Placed"})
    wrong = api.call("POST", "/api/patch/plan", {"selection": "all", "order": "plan"})
    assert wrong["problem"] == "6 is not on the plan."
    api.call("POST", f"/api/plans/{plan}/items", {"put": items, "label": "Placed"})
    rows = addressed(app, order="plan", scheme="a universe a row")
    assert rows == [(3, "U1.1"), (2, "U1.4"), (1, "U1.7"), (6, "U2.1"), (5, "U2.4"), (4, "U2.7")]
    matrix = str(uuid4())
    weave = {"selection": "all", "width": 3, "height": 2}
    api.call("POST", "/api/matrices", {"id": matrix, "name": "Six", "width": 3, "height": 2, "weave": weave})
    walk = {"matrix": matrix, "corner": "bottom left", "along": "columns", "snake": 1}
    assert [number for number, _ in addressed(app, order="strand", walk=walk)] == [4, 1, 2, 5, 6, 3]
    ports = {"universes": [9, 4], "every": 4}
    assert addressed(app, scheme="node ports", ports=ports)[3:] == [(4, "U9.10"), (5, "U4.1"), (6, "U4.4")]
    none = api.call("POST", "/api/patch/plan", {"selection": "all", "order": "strand"})
    assert none["problem"] == "There is no such matrix."
