"""Profiles through the API: what a change does to fixtures is known first; kept profiles; manuals."""

from __future__ import annotations

import urllib.request
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]


def mode(name: str, cells: int, **more: Any) -> dict[str, Any]:
    return {"name": name, "blocks": [{"name": "Pixels", "cell_count": cells, "cell_channels": RGB}], **more}


def strip(app: RunningApp, *modes: dict[str, Any]) -> dict[str, Any]:
    """A profile of the show, and what it is as the editor gets it."""
    key = str(uuid4())
    body = {"id": key, "maker": "Fulmar Works", "name": f"Reel {key[:4]}", "kind": "strip", "modes": list(modes)}
    app.api().call("POST", "/api/profiles", body)
    return body


def hang(app: RunningApp, profile: dict[str, Any], text: str, count: int) -> list[str]:
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x {profile['name']}, {text}", "ids": ids})
    return ids


def change(profile: dict[str, Any], *modes: dict[str, Any]) -> dict[str, Any]:
    fields = {k: v for k, v in profile.items() if k != "id"}
    return {**fields, "modes": list(modes)}


def fixtures(app: RunningApp) -> dict[int, dict[str, Any]]:
    return {one["number"]: one for one in app.api().call("GET", "/api/show")["fixtures"]}


def test_a_longer_mode_names_every_fixture_it_touches_before_it_is_stored(app: RunningApp, show: str) -> None:
    reel = strip(app, mode("50 RGB", 50))
    hang(app, reel, "from 11, Reel 50 RGB {n}, at U1.1", 3)
    longer = change(reel, mode("60 RGB", 60, was="50 RGB"))
    plan = app.api().call("POST", f"/api/profiles/{reel['id']}/plan", longer)
    assert plan["problem"] == ""
    said = [(one["number"], one["name"], one["footprint_before"], one["footprint"]) for one in plan["fixtures"]]
    assert said == [(11, "Reel 60 RGB 1", 150, 180), (12, "Reel 60 RGB 2", 150, 180), (13, "Reel 60 RGB 3", 150, 180)]
    assert [one["end"] for one in plan["fixtures"]] == ["U1.180", "U1.330", "U1.480"]
    assert [one["says"] for one in plan["fixtures"]] == [
        "",
        "It will share channels with 11.",
        "It will share channels with 12.",
    ]
    assert {one["mode"] for one in fixtures(app).values()} == {"50 RGB"}  # nothing has changed yet
    app.api().call("PUT", f"/api/profiles/{reel['id']}", longer)
    assert [(f["mode"], f["footprint"]) for f in fixtures(app).values()] == [("60 RGB", 180)] * 3
    app.api().call("POST", "/api/undo")
    assert [(f["mode"], f["footprint"]) for f in fixtures(app).values()] == [("50 RGB", 150)] * 3


def test_a_mode_in_use_cannot_go(app: RunningApp, show: str) -> None:
    reel = strip(app, mode("50 RGB", 50), mode("20 RGB", 20))
    hang(app, reel, "mode 20 RGB, from 11", 2)
    without = change(reel, mode("50 RGB", 50))
    said = "Fixture 11 is in mode '20 RGB', which would be gone (and 1 more)."
    assert app.api().call("POST", f"/api/profiles/{reel['id']}/plan", without)["problem"] == said
    with pytest.raises(HeliographError, match="which would be gone"):
        app.api().call("PUT", f"/api/profiles/{reel['id']}", without)
    with pytest.raises(HeliographError, match="2 fixtures are of this profile: 11-12"):
        app.api().call("DELETE", f"/api/profiles/{reel['id']}")


def test_past_the_end_of_a_universe_is_said(app: RunningApp, show: str) -> None:
    reel = strip(app, mode("50 RGB", 50))
    hang(app, reel, "from 11, at U1.301", 1)
    plan = app.api().call("POST", f"/api/profiles/{reel['id']}/plan", change(reel, mode("80 RGB", 80, was="50 RGB")))
    [one] = plan["fixtures"]
    assert one["says"].startswith("U1.301 + 240 channels ends at 540: a universe has 512.")


@pytest.mark.parametrize(
    ("block", "says"),
    [
        ({"shared": [{"attribute": "Pan", "fine": True}]}, "The fine channel of pan has no coarse one"),
        ({"shared": [{"attribute": "Pan"}], "cell_count": 2}, "has cells without channels"),
        ({"cell_count": 300, "cell_channels": RGB}, "has 900 channels and may not run on"),
        (
            {
                "shared": [
                    {"attribute": "Pan", "ranges": [{"first": 9, "last": 20}, {"first": 0, "last": 9}]},
                ]
            },
            "overlap or are out of order",
        ),
        ({"shared": [{"attribute": "Pan"}], "lies": ""}, "Every block of mode 'x' is nowhere"),
    ],
)
def test_impossible_modes_are_refused_with_a_sentence(
    app: RunningApp, show: str, block: dict[str, Any], says: str
) -> None:
    reel = strip(app, mode("50 RGB", 50))
    bad = change(reel, {"name": "x", "blocks": [{"name": "b", **block}], "was": "50 RGB"})
    assert says in app.api().call("POST", f"/api/profiles/{reel['id']}/plan", bad)["problem"]


def test_a_profile_comes_back_with_everything(app: RunningApp, show: str) -> None:
    ranges = [{"first": 0, "last": 9, "kind": "named", "name": "open", "colour": "#ffffff"}]
    channel = {"attribute": "Gobo2", "in_fade": "end", "invert": True, "merge": "HTP", "ranges": ranges}
    layout = {"kind": "ring", "centre": True}
    block = {"name": "Ring", "shared": [channel], "cell_count": 3, "cell_channels": RGB, "layout": layout}
    block |= {"cell_names": ["middle"], "hides": True, "lies": "first"}
    reel = strip(app, {"name": "m", "firmware": "1.4 and newer", "blocks": [block]})
    found = app.api().call("GET", f"/api/profiles/{reel['id']}")
    [one] = found["modes"][0]["blocks"]
    assert found["modes"][0]["firmware"] == "1.4 and newer"
    assert {k: one[k] for k in ("name", "cell_names", "hides")} == {
        "name": "Ring",
        "cell_names": ["middle"],
        "hides": True,
    }
    assert one["lies"] == "after"
    assert one["layout"] == {"kind": "ring", "columns": 1, "centre": True, "points": []}
    shared = one["shared"][0]
    wanted = ("in_fade", "invert", "merge")
    assert {name: shared[name] for name in wanted} == {name: channel[name] for name in wanted}
    assert shared["ranges"][0]["colour"] == "#ffffff"


def test_a_kept_profile_is_in_every_new_show_and_can_be_taken(app: RunningApp, show: str) -> None:
    api = app.api()
    reel = strip(app, mode("50 RGB", 50))
    kept = api.call("POST", f"/api/profiles/{reel['id']}/keep")
    assert reel["name"] in [one["name"] for one in kept]
    assert next(one for one in api.call("GET", "/api/show")["profiles"] if one["id"] == reel["id"])["kept"]
    other = str(uuid4())
    api.call("POST", "/api/shows", {"id": other, "name": "Another"})
    copy = next(one for one in api.call("GET", "/api/show")["profiles"] if one["name"] == reel["name"])
    assert copy["id"] != reel["id"]
    api.call("DELETE", f"/api/profiles/{copy['id']}")
    taken = str(uuid4())
    one = next(one for one in kept if one["name"] == reel["name"])
    api.call("POST", f"/api/profiles/kept/{one['id']}/take", {"ids": [taken]})
    assert api.call("GET", f"/api/profiles/{taken}")["name"] == reel["name"]
    assert reel["name"] not in [one["name"] for one in api.call("DELETE", f"/api/profiles/kept/{one['id']}")]
    api.call("POST", f"/api/shows/{show}/open")


def test_a_manual_is_attached_and_read(app: RunningApp, show: str, tmp_path: Path) -> None:
    reel, path = strip(app, mode("50 RGB", 50)), tmp_path / "reel.pdf"
    path.write_bytes(b"%PDF-1.4\n% nothing in it\n")
    app.api().upload(f"/api/profiles/{reel['id']}/manual", "", "reel.pdf", path)
    with urllib.request.urlopen(f"{app.address}/api/profiles/{reel['id']}/manual", timeout=20) as answer:
        assert answer.read() == path.read_bytes()
        assert answer.headers["content-type"] == "application/pdf"
    path.write_bytes(b"not one")
    with pytest.raises(HeliographError, match=r"'reel\.pdf' is no PDF"):
        app.api().upload(f"/api/profiles/{reel['id']}/manual", "", "reel.pdf", path)
    app.api().call("DELETE", f"/api/profiles/{reel['id']}/manual")
    assert app.api().call("GET", f"/api/profiles/{reel['id']}")["manual_name"] == ""


def test_a_mode_that_would_stay_dark_is_mended_by_one_click(app: RunningApp, show: str) -> None:
    dimmer = {"attribute": "Dimmer", "alone": True}
    block = {"name": "Pixels", "shared": [dimmer], "cell_count": 2, "cell_channels": RGB}
    reel = strip(app, {"name": "dimmed", "blocks": [block]}, mode("plain", 2))
    hang(app, reel, "mode dimmed, from 1, at U1.1", 2)
    api = app.api()

    def found() -> list[dict[str, Any]]:
        return [one for one in api.call("GET", "/api/patch/doctor") if one["kind"] == "stays dark"]

    (dark,) = found()
    assert dark["repair"]["label"] == "Drive its dimmer"
    assert (dark["repair"]["table"], dark["repair"]["id"]) == ("profile", reel["id"])
    api.call("POST", f"/api/profiles/{reel['id']}/mend", dark["repair"]["change"])
    assert found() == []
    api.call("POST", "/api/undo")
    assert len(found()) == 1
    with pytest.raises(HeliographError, match="There is no mode 'other'"):
        api.call("POST", f"/api/profiles/{reel['id']}/mend", {"mode": "other", "what": "stays dark"})


def test_where_cells_sit_is_told_of_a_layout_that_is_not_stored_yet(app: RunningApp, show: str) -> None:
    """The same cases as of the layout itself: tests/core/test_channel.py."""

    def points(count: int, **layout: Any) -> list[list[float]]:
        found: list[list[float]] = app.api().call(
            "POST", "/api/profiles/cell-points", {"layout": layout, "count": count}
        )
        return found

    assert [x for x, _ in points(4, kind="line")] == [0.125, 0.375, 0.625, 0.875]
    assert points(4, kind="grid", columns=2) == [[0.25, 0.25], [0.75, 0.25], [0.25, 0.75], [0.75, 0.75]]
    ring = points(7, kind="ring", centre=True)
    assert [ring[0], ring[1], ring[4]] == [[0.5, 0.5], [0.5, 0.08], [0.5, 0.92]]
    assert points(2, kind="free", points=[[0.1, 0.9]]) == [[0.1, 0.9], [0.75, 0.5]]
    with pytest.raises(HeliographError, match="outside the face"):
        points(1, kind="free", points=[[1.5, 0.5]])
