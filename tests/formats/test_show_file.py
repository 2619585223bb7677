"""A show out to one file and in again: identical, and nothing hostile gets in."""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
import zipfile
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from heliograph.api.show_import import imported_rows
from heliograph.core.errors import HeliographError, InputError
from heliograph.core.matrix.placements import pack, unpack
from heliograph.formats.show_file import JSON_NAME, copy_media, read_show_file, write_show_file
from tests.browser.clips import write_clip
from tests.conftest import RunningApp, saved_show
from tests.heads import add_head

CONTENT = "ab" * 32


def packed(entries: dict[str, bytes], compress: int = zipfile.ZIP_STORED) -> io.BytesIO:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", compress) as archive:
        for name, content in entries.items():
            archive.writestr(name, content)
    return out


def head(**fields: Any) -> bytes:
    return json.dumps({"format": "heliograph show", "version": 1, "name": "A", "tables": {}, **fields}).encode()


@pytest.mark.parametrize(
    ("entries", "says"),
    [
        ({}, "has no show.json"),
        ({"show.json": b"{"}, "cannot be read as a show"),
        ({"show.json": b"[]"}, "is no show of Heliograph"),
        ({"show.json": b'{"format": "other"}'}, "is no show of Heliograph"),
        ({"show.json": head(version=9)}, "saved in version 9 of the format; this program reads 1 to 2"),
        ({"show.json": head(tables=[])}, "has no name or no tables"),
        ({"show.json": head(tables={"look": [1]})}, "'look' of show.json is not a list of objects"),
        ({"show.json": head(), "../../etc/passwd": b"x"}, "'../../etc/passwd' does not belong in a show"),
        ({"show.json": head(), "/etc/passwd": b"x"}, "does not belong in a show"),
        ({"show.json": head(), f"media/{CONTENT}.mp4/x": b"x"}, "does not belong in a show"),
        ({"show.json": b"[" * 100_000}, "show"),
    ],
)
def test_what_is_no_show_is_refused(entries: dict[str, bytes], says: str) -> None:
    with pytest.raises(InputError, match=says.replace(".", r"\.").replace("[", r"\[")):
        read_show_file(packed(entries))


def test_bombs_are_not_unpacked() -> None:
    with pytest.raises(InputError, match="unpacks to 65 MiB"):
        read_show_file(packed({"show.json": bytes(65 * 1024**2)}, zipfile.ZIP_DEFLATED))
    with pytest.raises(InputError, match="is packed: media are stored as they are"):
        read_show_file(packed({"show.json": head(), f"media/{CONTENT}.mp4": bytes(10**6)}, zipfile.ZIP_DEFLATED))
    with pytest.raises(InputError, match="2001 entries"):
        read_show_file(packed({f"media/{n:064x}.mp4": b"" for n in range(2001)}))


def test_media_that_are_not_what_their_name_says_are_refused(tmp_path: Path) -> None:
    source = packed({"show.json": head(), f"media/{CONTENT}.mp4": b"other"})
    with pytest.raises(InputError, match="its content is not what its name says"):
        copy_media(source, f"media/{CONTENT}.mp4", tmp_path / "out")
    assert list(tmp_path.iterdir()) == []


GOOD = io.BytesIO()
write_show_file(
    GOOD, "Skerry", {"ramp": [{"id": str(uuid4()), "place": 1, "name": "dusk", "stops": [[0, 1, 2, 3]]}]}, {}
)


@settings(max_examples=400, deadline=None)
@given(
    st.lists(st.tuples(st.integers(0, len(GOOD.getvalue()) - 1), st.integers(0, 255)), max_size=12), st.integers(0, 40)
)
def test_a_damaged_file_is_refused_with_a_sentence_and_breaks_nothing(changes: list[tuple[int, int]], cut: int) -> None:
    raw = bytearray(GOOD.getvalue())
    for at, value in changes:
        raw[at] = value
    with contextlib.suppress(InputError):  # any other error fails the test
        read = read_show_file(io.BytesIO(bytes(raw[: len(raw) - cut])))
        imported_rows(str(uuid4()), read.tables)


def table(kind: str, **row: Any) -> dict[str, list[dict[str, Any]]]:
    return {kind: [{"id": str(uuid4()), **row}]}


def twins() -> dict[str, list[dict[str, Any]]]:
    """Two fixtures with one number."""
    key = str(uuid4())
    blocks = [{"name": "Lamp", "shared": [], "cell_count": 1, "cell_channels": [{"attribute": "ColorAdd_R"}]}]
    profile = {"maker": "x", "name": "x", "kind": "lamp", "guarded": False, "modes": [{"name": "1", "blocks": blocks}]}
    lamp = {"number": 7, "name": "x", "profile": key, "mode": "1", "universe": None, "channel": None}
    lamp |= {"extra": "replace", "response": "as is"}
    fixtures = [{"id": str(uuid4()), **lamp} for _ in range(2)]
    return {"profile": [{"id": key, **profile}], "fixture": fixtures}


LINE = {"id": str(uuid4()), "paints": "effect", "effect": "Mist", "matrix": str(uuid4())}


@pytest.mark.parametrize(
    ("tables", "says"),
    [
        ({"secrets": []}, "a table 'secrets' that is not known"),
        (table("ramp", place=1, name="", stops=[[0, 1, 2, 3]]), "ramp 1 of show.json: name:"),
        (table("ramp", place=1, name="x", stops=[[0, 1, 2, 300]]), "ramp 1 of show.json: blue 300 is outside 0 to 255"),
        (table("clip", name="x", content="../../etc/passwd", suffix=".mp4"), "clip 1 of show.json: content:"),
        (table("clip", name="x", content=CONTENT, suffix=".sh"), "'.sh' is no kind of clip"),
        (table("look", place=1, name="x", lines=[LINE]), "look 1 of show.json: its matrix is not in the file"),
        (table("look", place=1, name="x", lines=[{**LINE, "params": {"scale": 9999}}]), "scale 9999"),
        (
            table("matrix", place=1, name="x", width=1000, height=251, placements={}),
            "matrix 1 of show.json: placements",
        ),
        (twins(), "fixture 2 of show.json: fixture 1 has the number 7 too"),
    ],
)
def test_values_are_checked_and_their_place_is_named(tables: dict[str, Any], says: str) -> None:
    with pytest.raises(InputError) as told:
        imported_rows(str(uuid4()), tables)
    assert says in told.value.what


def build(app: RunningApp, folder: Path) -> None:
    """A show with one of everything."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("matrix", "clip", "look", "ramp", "group", "output")}
    api.call(
        "POST", "/api/fixtures", {"text": "4 x RGBW lamp, from 7, Lamp {n}", "ids": [str(uuid4()) for _ in range(4)]}
    )
    weave = {"selection": "all", "width": 2, "height": 2, "snake": True}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "Wall", "width": 2, "height": 2, "weave": weave})
    write_clip(folder / "a.mp4", [[[(9, 90, 200)]]] * 5)
    api.upload("/api/clips", ids["clip"], "Sea.mp4", folder / "a.mp4")
    api.call("POST", "/api/ramps", {"id": ids["ramp"], "name": "dusk", "stops": [[0, 1, 2, 3], [1, 200, 100, 40]]})
    lines = [
        {"id": str(uuid4()), "paints": "clip", "clip": ids["clip"], "matrix": ids["matrix"]},
        {
            "id": str(uuid4()),
            "paints": "effect",
            "effect": "Mist",
            "matrix": ids["matrix"],
            "saved_ramp": ids["ramp"],
            "blend": "multiply",
        },
    ]
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Gale", "lines": lines})
    rule = {"selection": "all", "by_rule": True, "folder": "Front"}
    api.call("POST", "/api/groups", {"id": ids["group"], "name": "Everything", **rule})
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "Part", "selection": "7:1, 8:0"})
    head = {"text": f"1 x {add_head(app)}, from 701, at U9.1, block Ring at U10.1", "ids": [str(uuid4())]}
    api.call("POST", "/api/fixtures", head)
    plan = str(uuid4())
    api.call("POST", "/api/plans", {"id": plan, "name": "Front"})
    item = {"id": head["ids"][0], "kind": "fixture", "x": 1.5, "y": 2, "turn": 30}
    api.call("POST", f"/api/plans/{plan}/items", {"put": [item]})
    Image.new("RGB", (8, 4)).save(folder / "front.png")
    api.upload(f"/api/plans/{plan}/picture", "", "front.png", folder / "front.png")
    (folder / "lamp.pdf").write_bytes(b"%PDF-1.4")
    profile = next(one["id"] for one in api.call("GET", "/api/show")["profiles"] if one["name"] == "RGBW lamp")
    api.upload(f"/api/profiles/{profile}/manual", "", "lamp.pdf", folder / "lamp.pdf")
    output = {"id": ids["output"], "name": "Out", "protocol": "sacn", "mode": "multicast", "first_number": 1}
    api.call("POST", "/api/outputs", {**output, "card": app.card, "on": False})


def plain(app: RunningApp) -> dict[str, Any]:
    """The open show without its ids, in which two copies differ."""
    show = app.api().call("GET", "/api/show")
    names: dict[str, str] = {}

    def rename(value: Any) -> Any:
        if isinstance(value, dict):
            own = ("rev", "revision", "version", "packed", "undo", "redo")
            return {k: rename(v) for k, v in value.items() if k not in own}
        if isinstance(value, list):
            return [rename(one) for one in value]
        if isinstance(value, str) and len(value) == 36 and value.count("-") == 4:
            return names.setdefault(value, f"id {len(names)}")
        if isinstance(value, str) and value[36:37] == ":":
            return f"{rename(value[:36])}{value[36:]}"
        return value

    squares = [
        sorted((p.x, p.y, next(f["number"] for f in show["fixtures"] if f["id"] == p.key.fixture)) for p in placements)
        for placements in (unpack(matrix["placements"]) for matrix in show["matrices"])
    ]
    for matrix in show["matrices"]:
        matrix["placements"] = sorted(
            next(f["number"] for f in show["fixtures"] if f["id"] == key) for key in matrix["placements"]["fixtures"]
        )
    show["profiles"].sort(key=lambda one: one["name"])
    return {**rename(show), "squares": squares}


def test_a_show_goes_out_and_in_identical_media_included(app: RunningApp, show: str, tmp_path: Path) -> None:
    build(app, tmp_path)
    before = plain(app)
    with saved_show(app) as answer:
        assert "Test%20show.heliograph.zip" in str(answer.headers["content-disposition"])
        path = tmp_path / "show.zip"
        path.write_bytes(answer.read())
    with zipfile.ZipFile(path) as archive:
        media = [name for name in archive.namelist() if name != JSON_NAME]
    assert sorted(Path(name).suffix for name in media) == [".mp4", ".pdf", ".png"]
    files = [app.data / "media" / "files" / name.removeprefix("media/") for name in media]
    contents = [file.read_bytes() for file in files]
    for file in files:
        file.unlink()  # as on another machine
    api = app.api()
    loaded = api.upload("/api/shows/file", str(uuid4()), "show.zip", path)
    assert loaded["id"] != show
    assert api.call("GET", "/api/show")["show"]["id"] == show  # what was open stays open
    assert [file.read_bytes() for file in files] == contents
    api.call("POST", f"/api/shows/{loaded['id']}/open")
    assert plain(app) == before


def test_a_show_started_from_a_template_is_like_it_and_its_own(app: RunningApp, show: str, tmp_path: Path) -> None:
    build(app, tmp_path)
    api = app.api()
    before = plain(app)
    key, started = str(uuid4()), str(uuid4())
    api.call("POST", "/api/shows/templates", {"id": key, "name": "Like Test show"})
    api.call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 99", "ids": [str(uuid4())]})
    api.call("POST", "/api/shows", {"id": started, "name": "Test show", "like": key})
    assert api.call("GET", "/api/show")["show"]["id"] == started
    assert plain(app) == before
    api.call("POST", "/api/fixtures/delete", {"ids": [one["id"] for one in api.call("GET", "/api/show")["fixtures"]]})
    assert api.call("DELETE", f"/api/shows/templates/{key}")
    with pytest.raises(HeliographError, match="That template is not there any more"):
        api.call("DELETE", f"/api/shows/templates/{started}")
    api.call("POST", f"/api/shows/{show}/open")
    assert len(api.call("GET", "/api/show")["fixtures"]) == 6
    with pytest.raises(HeliographError, match="That show is not there any more"):
        api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "x", "like": key})


def test_a_file_that_is_refused_leaves_nothing_behind(app: RunningApp, show: str, tmp_path: Path) -> None:
    api = app.api()
    before = (api.call("GET", "/api/shows"), sorted((app.data / "media" / "files").iterdir()))
    bad = tmp_path / "bad.zip"
    clip = {"id": str(uuid4()), "name": "x.mp4", "content": CONTENT, "suffix": ".mp4"}
    tables = {"clip": [clip]}
    bad.write_bytes(packed({"show.json": head(tables=tables), f"media/{CONTENT}.mp4": b"no video"}).getvalue())
    with pytest.raises(HeliographError, match="its content is not what its name says"):
        api.upload("/api/shows/file", str(uuid4()), "bad.zip", bad)
    honest = hashlib.sha256(b"no video").hexdigest()
    tables = {"clip": [{**clip, "content": honest}]}
    bad.write_bytes(packed({"show.json": head(tables=tables), f"media/{honest}.mp4": b"no video"}).getvalue())
    with pytest.raises(HeliographError, match="cannot be read as a video"):
        api.upload("/api/shows/file", str(uuid4()), "bad.zip", bad)
    assert (api.call("GET", "/api/shows"), sorted((app.data / "media" / "files").iterdir())) == before


def test_a_show_saved_by_an_older_program_is_read_as_it_was_meant() -> None:
    """Version 1: a block's place in three fields, a yes or no for snap, a step, a direction, looks of layers."""
    mode = {
        "name": "m",
        "blocks": [
            {"name": "Base", "shared": [{"attribute": "Gobo1", "snap": True, "step": 4}], "state": "follows"},
            {"name": "Ring", "shared": [{"attribute": "Pan", "snap": False}], "state": "own"},
        ],
    }
    ids = {name: str(uuid4()) for name in ("profile", "fixture", "matrix", "look", "line")}
    fixture = {"number": 701, "name": "Signal", "mode": "m", "universe": 9, "channel": 1, "extra": "add"}
    own = {"state": "own", "universe": 10, "channel": 29}
    line = {"id": ids["line"], "paints": "effect", "effect": "Relay", "matrix": ids["matrix"], "direction": "backward"}
    tables: dict[str, Any] = {
        "profile": [
            {"id": ids["profile"], "maker": "Kittiwake Optics", "name": "Ring", "kind": "head", "modes": [mode]}
        ],
        "fixture": [
            fixture
            | {"id": ids["fixture"], "profile": ids["profile"], "response": "as is"}
            | {"blocks": [{"state": "follows", "universe": None, "channel": None}, own]}
        ],
        "matrix": [{"id": ids["matrix"], "place": 1, "name": "M", "width": 2, "height": 1, "placements": pack([])}],
        "look": [
            {"id": ids["look"], "place": 1, "name": "L", "layers": [{**line, "speed": {"value": 8, "unit": "beat"}}]}
        ],
    }
    rows = imported_rows(str(uuid4()), tables)
    [(_, profile)], [(_, head)], [(_, look)] = rows["profile"], rows["fixture"], rows["look"]
    assert [block["lies"] for block in profile["modes"][0]["blocks"]] == ["after", ""]
    assert [block["shared"][0]["in_fade"] for block in profile["modes"][0]["blocks"]] == ["half-way", "fades"]
    assert head["blocks"] == ["after", "U10.29"]
    assert [one["speed"] for one in look["lines"]] == [{"value": -8.0, "unit": "beat"}]
    for table, broken in (
        ("profile", {"modes": 3}),
        ("look", {"layers": [7]}),
        ("fixture", {"blocks": [{"state": 1}]}),
    ):
        with pytest.raises(InputError, match=f"{table} 1 of show.json"):
            imported_rows(str(uuid4()), {**tables, table: [{**tables[table][0], **broken}]})
