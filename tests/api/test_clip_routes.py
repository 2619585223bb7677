"""Clips through the public API: what is told of them, thumbnails, names, deleting, names of lines' errors."""

from __future__ import annotations

import io
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from PIL import Image

from heliograph.core.errors import HeliographError
from tests.browser.clips import write_clip
from tests.conftest import RunningApp


@pytest.fixture
def scene(app: RunningApp, show: str, tmp_path: Path) -> dict[str, str]:
    """A matrix, a clip of two seconds, and a look that plays it."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("matrix", "clip", "look", "line")}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "M", "width": 4, "height": 2})
    write_clip(tmp_path / "sea.mp4", [[[(9, 90, 200)] * 3] * 2] * 50)
    api.upload("/api/clips", ids["clip"], "sea.mp4", tmp_path / "sea.mp4")
    lines = [{"id": ids["line"], "paints": "clip", "clip": ids["clip"], "matrix": ids["matrix"]}]
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Gale", "lines": lines})
    return ids


def test_what_is_told_of_a_clip(app: RunningApp, scene: dict[str, str]) -> None:
    [clip] = app.api().call("GET", "/api/show")["clips"]
    assert (clip["kind"], clip["width"], clip["height"], clip["frames"]) == ("video", 96, 64, 50)
    assert clip["duration_s"] == pytest.approx(2.0, abs=0.01)
    assert clip["rate"] == pytest.approx(25.0, abs=0.1)
    assert clip["used_by"] == ["Gale"]


def test_its_thumbnail_is_a_small_picture_of_it(app: RunningApp, scene: dict[str, str]) -> None:
    with urllib.request.urlopen(f"{app.address}/api/clips/{scene['clip']}/thumbnail", timeout=20) as answer:
        assert answer.headers["content-type"] == "image/png"
        image = Image.open(io.BytesIO(answer.read())).convert("RGB")
    assert max(image.size) <= 128
    assert all(abs(a - b) <= 8 for a, b in zip(image.getpixel((5, 5)), (9, 90, 200), strict=True))  # type: ignore[arg-type]
    with pytest.raises(urllib.error.HTTPError) as told:
        urllib.request.urlopen(f"{app.address}/api/clips/{uuid4()}/thumbnail", timeout=20)
    assert told.value.code == 404


def test_a_clip_in_use_names_its_looks_and_one_that_is_not_goes_and_comes_back(
    app: RunningApp, scene: dict[str, str]
) -> None:
    api = app.api()
    with pytest.raises(HeliographError, match="Gale uses this clip"):
        api.call("DELETE", f"/api/clips/{scene['clip']}")
    other = {"id": str(uuid4()), "paints": "clip", "clip": scene["clip"], "matrix": scene["matrix"]}
    lull = str(uuid4())
    api.call("POST", "/api/looks", {"id": lull, "name": "Lull", "lines": [other]})
    with pytest.raises(HeliographError, match="Gale and Lull use this clip"):
        api.call("DELETE", f"/api/clips/{scene['clip']}")
    api.call("DELETE", f"/api/looks/{lull}")
    api.call("DELETE", f"/api/looks/{scene['look']}/lines/{scene['line']}")
    api.call("DELETE", f"/api/clips/{scene['clip']}")
    assert api.call("GET", "/api/show")["clips"] == []
    for _ in range(2):
        api.call("POST", "/api/undo")
    shown = api.call("GET", "/api/show")
    assert shown["clips"][0]["used_by"] == ["Gale"]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"fitting": {"in_s": 2.5}}, "The in point at 2.5 s lies past the clip's end"),
        ({"fitting": {"in_s": 1.5, "out_s": 1.0}}, "A clip cannot play from 1.5 s to 1 s"),
        ({"fitting": {"rotate": 45}}, "rotate"),
        ({"fitting": {"fit": "crop"}}, "fit"),
        ({"speed": {"value": 33, "unit": "times"}}, "33 times its own speed is outside -32 to 32"),
        ({"clip": str(uuid4())}, "That clip is not there any more"),
        ({"saved_ramp": str(uuid4())}, "That ramp is not there any more"),
        ({"blend": "screen"}, "blend"),
    ],
)
def test_what_a_clip_line_cannot_be(app: RunningApp, scene: dict[str, str], change: Any, says: str) -> None:
    api = app.api()
    before = api.call("GET", "/api/show")["looks"]
    with pytest.raises(HeliographError) as told:
        api.call("PATCH", f"/api/looks/{scene['look']}/lines/{scene['line']}", change)
    assert says in f"{told.value.what} {told.value.where}"
    assert api.call("GET", "/api/show")["looks"] == before


def test_an_effect_has_no_speed_of_its_own(app: RunningApp, scene: dict[str, str]) -> None:
    mist = {"id": str(uuid4()), "paints": "effect", "effect": "Mist", "matrix": scene["matrix"]}
    with pytest.raises(HeliographError, match="An effect has no speed of its own"):
        app.api().call("POST", f"/api/looks/{scene['look']}/lines", {**mist, "speed": {"value": 1, "unit": "times"}})


def test_a_line_can_be_put_right_above_another(app: RunningApp, scene: dict[str, str]) -> None:
    api = app.api()

    def add(effect: str, above: str | None) -> None:
        body = {"id": str(uuid4()), "paints": "effect", "effect": effect, "matrix": scene["matrix"]}
        api.call("POST", f"/api/looks/{scene['look']}/lines{f'?above={above}' if above else ''}", body)

    add("Mist", None)
    add("Flat", scene["line"])
    add("Grade", str(uuid4()))  # above one that is gone meanwhile: on top
    lines = api.call("GET", "/api/show")["looks"][0]["lines"]
    assert [line.get("effect") for line in lines] == [None, "Flat", "Mist", "Grade"]


def test_a_line_has_the_fields_of_its_kind_and_no_others(app: RunningApp, scene: dict[str, str]) -> None:
    api, at = app.api(), f"/api/looks/{scene['look']}/lines"
    mist, grade, flat = (str(uuid4()) for _ in range(3))
    api.call("POST", at, {"id": mist, "paints": "effect", "effect": "Mist", "matrix": scene["matrix"], "seed": 7})
    api.call("POST", at, {"id": grade, "paints": "effect", "effect": "Grade", "matrix": scene["matrix"]})
    api.call("POST", at, {"id": flat, "paints": "effect", "effect": "Flat", "matrix": scene["matrix"]})
    lines = {one["id"]: one for one in api.call("GET", "/api/show")["looks"][0]["lines"]}
    assert set(lines[scene["line"]]) - set(lines[mist]) == {"clip", "fitting", "rounds", "ends"}
    assert set(lines[mist]) - set(lines[scene["line"]]) == {"effect", "params", "seed"}
    assert (lines[mist]["seed"], len(lines[grade]["ramp"]), len(lines[flat]["ramp"])) == (7, 2, 1)  # its own to begin
    assert lines[scene["line"]]["speed"] == {"value": 1.0, "unit": "times"}
    refused = (
        (mist, {"fitting": {"fit": "fit"}}, "A line that paints an effect has no fitting"),
        (scene["line"], {"seed": 3}, "A line that paints a clip has no seed"),
        (scene["line"], {"params": {"width": 3}}, "A line that paints a clip has no params"),
    )
    for line, change, says in refused:
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", f"{at}/{line}", change)
    with pytest.raises(HeliographError, match="clip"):
        api.call("POST", at, {"id": str(uuid4()), "paints": "effect", "effect": "Mist", "matrix": mist, "clip": mist})
    api.call("PATCH", f"{at}/{mist}", {"seed": 8})
    assert {one["id"]: one for one in api.call("GET", "/api/show")["looks"][0]["lines"]}[mist]["seed"] == 8


def test_a_surprise_is_one_edit_and_its_seed_draws_it_again(app: RunningApp, scene: dict[str, str]) -> None:
    api, at = app.api(), f"/api/looks/{scene['look']}/lines"
    key = str(uuid4())
    api.call("POST", at, {"id": key, "paints": "effect", "effect": "Slats", "matrix": scene["matrix"]})

    def stored() -> dict[str, object]:
        lines: list[dict[str, object]] = api.call("GET", "/api/show")["looks"][0]["lines"]
        return next(one for one in lines if one["id"] == key)

    before = stored()
    api.call("POST", f"{at}/{key}/surprise", {"seed": 77})
    drawn = stored()
    assert drawn["seed"] == 77
    assert (drawn["params"], drawn["ramp"]) != (before["params"], before["ramp"])
    assert drawn["opacity"] == before["opacity"]
    api.call("POST", f"{at}/{key}/surprise", {})
    api.call("POST", f"{at}/{key}/surprise", {"seed": 77})
    assert stored() == drawn
    for _ in range(3):
        api.call("POST", "/api/undo", None)
    assert stored() == before
    with pytest.raises(HeliographError, match="Only an effect can surprise"):
        api.call("POST", f"{at}/{scene['line']}/surprise", {})


def test_a_miniature_is_a_moving_picture_of_the_asked_shape(app: RunningApp, scene: dict[str, str]) -> None:
    def fetched(path: str) -> bytes:
        with urllib.request.urlopen(app.address + path, timeout=40) as answer:
            return bytes(answer.read())

    with Image.open(io.BytesIO(fetched("/api/effects/Ember/miniature?width=9&height=25"))) as picture:
        assert (picture.format, picture.size) == ("WEBP", (9, 25))
        assert picture.n_frames > 12  # type: ignore[attr-defined]  # of moving pictures only
    for path in ("/api/effects/Tornado/miniature?width=9&height=9", "/api/effects/Ember/miniature?width=0&height=9"):
        with pytest.raises(urllib.error.HTTPError) as refused:
            fetched(path)
        assert refused.value.code == 422
