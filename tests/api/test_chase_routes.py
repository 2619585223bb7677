"""Chases through the API: drawn, timed, copied, unrolled, taken, kept; the wire is what is looked at."""

from __future__ import annotations

import io
import urllib.request
from functools import partial
from pathlib import Path
from typing import Any
from uuid import uuid4

import numpy as np
import pytest
from PIL import Image

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, saved_show, wait_for
from tests.live.scenes import start
from tests.moves import move

GREY = [9, 9, 9]


@pytest.fixture
def ids(app: RunningApp, show: str) -> dict[str, str]:
    """28 lamps on 7 x 4 squares, sent to loopback, and a look with a Relay over its columns, four seconds a round."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("matrix", "look", "line", "output", "chase")}
    api.call("POST", "/api/fixtures", {"text": "28 x RGB lamp, from 501", "ids": [str(uuid4()) for _ in range(28)]})
    weave = {"selection": "all", "width": 7, "height": 4}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "Windows", "width": 7, "height": 4, "weave": weave})
    line = {"id": ids["line"], "paints": "effect", "effect": "Relay", "matrix": ids["matrix"]}
    relay = {**line, "params": {"overlap": 0.0}, "ramp": [[0, 200, 40, 0]], "speed": "7 s"}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Swell", "lines": [relay]})
    output = {"id": ids["output"], "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": "127.0.69.8"})
    return ids


def chase(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["chases"][0]
    return found


def frames(app: RunningApp) -> list[str]:
    """Ids of the frames in their order."""
    return [one["id"] for one in chase(app)["frames"]]


def picture(app: RunningApp, frame: int) -> Any:
    """(rows, columns, 4) of a frame, as a browser gets it."""
    one = chase(app)
    url = f"{app.address}/api/chases/{one['id']}/pictures/{one['frames'][frame]['picture']}"
    return np.asarray(Image.open(io.BytesIO(urllib.request.urlopen(url, timeout=40).read())))


def wall(app: RunningApp) -> Any:
    values = app.api().call("GET", "/api/levels/1")["values"][:84]
    return np.array(values).reshape(4, 7, 3)


def lit(app: RunningApp, column: int) -> bool:
    return bool(wall(app)[:, column].any(axis=1).all())


def begin(app: RunningApp, ids: dict[str, str]) -> str:
    app.api().call("POST", "/api/chases", {"id": ids["chase"], "name": "Gull steps", "matrix": ids["matrix"]})
    return f"/api/chases/{ids['chase']}"


def test_a_frame_is_drawn_by_tools_and_by_typing_and_is_on_the_lamps(app: RunningApp, ids: dict[str, str]) -> None:
    api, at = app.api(), begin(app, ids)
    one = chase(app)
    assert (one["columns"], one["rows"], one["unit"], len(one["frames"]), one["length"]) == (7, 4, "s", 1, 0.5)
    line = {"id": str(uuid4()), "paints": "chase", "chase": ids["chase"], "matrix": ids["matrix"]}
    api.call("DELETE", f"/api/looks/{ids['look']}/lines/{ids['line']}")
    api.call("POST", f"/api/looks/{ids['look']}/lines", line)
    start(app, ids["look"])
    [frame] = frames(app)
    api.call("POST", f"{at}/draw", {"frame": frame, "tool": "pen", "squares": [[0, 0], [6, 3]], "colour": [10, 20, 30]})
    wait_for(lambda: wall(app)[0, 0].tolist() == [10, 20, 30], 8, "what is drawn is not sent")
    assert wall(app)[3, 6].tolist() == [10, 20, 30]
    assert picture(app, 0)[0, 0].tolist() == [10, 20, 30, 255]
    api.call("POST", f"{at}/typed", {"frame": frame, "text": "502-504 = red > blue"})
    wait_for(lambda: wall(app)[0, 1].tolist() == [255, 0, 0], 8, "what is typed is not sent")
    assert wall(app)[0, 3].tolist() == [0, 0, 255]
    api.call("POST", "/api/undo")
    wait_for(lambda: wall(app)[0, 1].tolist() == [0, 0, 0], 8, "it was not taken back")
    for body, says in (("nothing", "does not say"), ("nobody = red", "nobody"), ("501 = mauvish", "no colour")):
        with pytest.raises(HeliographError, match=says):
            api.call("POST", f"{at}/typed", {"frame": frame, "text": body})
    with pytest.raises(HeliographError, match="not there any more"):
        api.call("POST", f"{at}/draw", {"frame": "gone", "tool": "pen", "squares": [[0, 0]]})
    assert chase(app)["used_by"] == ["Swell, line 1"]
    with pytest.raises(HeliographError, match="Swell uses this chase"):
        api.call("DELETE", at)


def test_frames_are_timed_copied_reversed_spread_and_taken_away(app: RunningApp, ids: dict[str, str]) -> None:
    api, at = app.api(), begin(app, ids)

    def edit(do: str, **fields: Any) -> list[tuple[float, float]]:
        api.call("POST", f"{at}/frames", {"do": do, **fields})
        return [(one["fade"], one["hold"]) for one in chase(app)["frames"]]

    [first] = frames(app)
    assert edit("times", frames=[first], hold=0.8) == [(0.0, 0.8)]
    for _ in range(4):
        edit("insert", after=first)
    assert chase(app)["length"] == pytest.approx(4.0)
    five = frames(app)
    edit("paste", frames=five, after=five[-1])
    assert chase(app)["length"] == pytest.approx(8.0)
    assert frames(app)[:5] == five
    shape = {"tool": "rectangle", "squares": [[0, 0], [1, 1]], "colour": GREY}
    api.call("POST", f"{at}/draw", {"frame": five[2], **shape})
    drawn = [one["picture"] for one in chase(app)["frames"]]
    edit("reverse", frames=five[2:5])
    assert [one["picture"] for one in chase(app)["frames"]][2:5] == drawn[4:1:-1]
    ten = frames(app)
    edit("times", frames=ten[5:7], fade=0.3, hold=0.1)
    assert edit("spread", frames=ten[5:7], length=4.0)[5:7] == [pytest.approx((1.5, 0.5))] * 2
    edit("paste", frames=ten[5:7], after=ten[0], moved=True)  # cut and pasted elsewhere
    times = [(one["fade"], one["hold"]) for one in chase(app)["frames"]]
    assert len(times) == 10
    assert times[1:3] == [pytest.approx((1.5, 0.5))] * 2
    assert frames(app)[0] == ten[0]
    assert frames(app)[3:] == [*ten[1:5], *ten[7:]]
    with pytest.raises(HeliographError, match="not there any more"):
        edit("paste", frames=ten[5:7], after=ten[0])  # what was moved has left
    here = frames(app)
    edit("paste", frames=here[3:5], after=here[4], moved=True)  # behind one of its own: they stay where they are
    assert len(frames(app)) == 10
    assert frames(app)[:3] == here[:3]
    assert len(edit("delete", frames=frames(app)[1:])) == 1
    for do, fields, says in (
        ("delete", {"frames": [ten[0]]}, "keeps one frame"),
        ("times", {"frames": ["gone"], "hold": 1.0}, "not there any more"),
        ("times", {"frames": [ten[0]], "hold": 0.0}, "over at once"),
        ("times", {"frames": [ten[0]]}, "No time"),
        ("paste", {"frames": [ten[0]], "after": "gone"}, "before them is not there"),
    ):
        with pytest.raises(HeliographError, match=says):
            edit(do, **fields)
    api.call("POST", "/api/undo")
    assert len(chase(app)["frames"]) == 10  # one undo for all that were deleted


def test_frames_are_cut_into_another_chase_or_stay_whole(app: RunningApp, ids: dict[str, str]) -> None:
    api, at = app.api(), begin(app, ids)
    [first] = frames(app)
    api.call("POST", f"{at}/frames", {"do": "insert", "after": first})
    other = str(uuid4())
    api.call("POST", f"{at}/copy", {"id": other})
    there = {one["id"]: one for one in api.call("GET", "/api/show")["chases"]}
    cut = [one["id"] for one in there[other]["frames"]]
    paste = {"do": "paste", "source": other, "after": "", "moved": True}
    with pytest.raises(HeliographError, match="keeps one frame"):
        api.call("POST", f"{at}/frames", {**paste, "frames": cut})
    assert len(frames(app)) == 2  # nothing is half done
    api.call("POST", f"{at}/frames", {**paste, "frames": cut[:1]})
    counts = [len(one["frames"]) for one in api.call("GET", "/api/show")["chases"]]
    assert counts == [3, 1]
    api.call("POST", "/api/undo")
    assert [len(one["frames"]) for one in api.call("GET", "/api/show")["chases"]] == [2, 2]


@pytest.mark.slow
def test_a_line_is_unrolled_in_one_edit_and_plays_in_its_place(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    start(app, ids["look"])
    engine = app.engine()
    engine.ask({"do": "hold_time"})
    wait_for(lambda: engine.ask({"do": "status"})["state"]["running"], 8)
    status = engine.ask({"do": "status"})
    begun = status["state"]["show_s"] - status["state"]["running"][0]["since_s"]
    relay = []
    for n in range(7):
        engine.ask({"do": "set_time", "seconds": begun + n + 0.5})
        wait_for(partial(lit, app, n), 8, "the relay does not run")
        relay.append(wall(app))
    engine.ask({"do": "run_time"})
    asked = f"/api/chases/unroll/{ids['look']}?line={ids['line']}"
    assert api.call("GET", asked) == {"count": 7, "length": 7.0, "unit": "s", "own": True, "over": "Windows"}
    api.call("POST", "/api/chases/unroll", {"id": ids["chase"], "look": ids["look"], "line": ids["line"]})
    made = chase(app)
    assert (len(made["frames"]), made["length"]) == (7, pytest.approx(7.0))
    assert "unrolled from Swell, line 1, 7 frames of 7 s" in made["origin"]
    lines = api.call("GET", "/api/show")["looks"][0]["lines"]
    assert [(one["paints"], one["mute"]) for one in lines] == [("effect", True), ("chase", False)]
    start(app, ids["look"])
    seen: dict[int, Any] = {}

    def all_seen() -> bool:
        now = wall(app)
        seen.update({int(column): now for column in np.flatnonzero(now.any(axis=(0, 2)))})
        return len(seen) == 7

    wait_for(all_seen, 12, "not every frame shows")
    for n in range(7):
        assert (seen[n] == relay[n]).all()
    api.call("POST", "/api/undo")
    found = api.call("GET", "/api/show")
    assert (found["chases"], [one["mute"] for one in found["looks"][0]["lines"]]) == ([], [False])
    api.call("POST", "/api/chases/unroll", {"id": ids["chase"], "look": ids["look"], "count": 3})
    assert len(chase(app)["frames"]) == 3


def test_steps_by_hand_reach_the_lamps_and_the_frame_is_told(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    api.call("POST", "/api/chases/unroll", {"id": ids["chase"], "look": ids["look"], "line": ids["line"]})
    lines = api.call("GET", "/api/show")["looks"][0]["lines"]
    api.call("PATCH", f"/api/looks/{ids['look']}/lines/{lines[1]['id']}", {"speed": "0 %"})  # by hand alone
    start(app, ids["look"])

    def told() -> Any:
        running = app.engine().ask({"do": "status"})["state"]["running"]
        return running[0]["chases"] if running else None

    wait_for(lambda: told() and told()[0]["left_s"] is None, 8, "its speed of 0 is not taken")
    for handle, column in (("next", 1), ("next", 2), ("previous", 1)):
        api.call("POST", "/api/engine", move(f"look/{ids['look']}/{lines[1]['id']}/{handle}", None))
        wait_for(partial(lit, app, column), 6, f"{handle} does not arrive")
        assert told()[0]["frame"] == column


def test_what_is_sent_is_taken_and_a_show_keeps_its_chases(
    app: RunningApp, ids: dict[str, str], tmp_path: Path
) -> None:
    api, at = app.api(), begin(app, ids)
    api.call("PATCH", f"/api/looks/{ids['look']}/lines/{ids['line']}", {"effect": "Flat", "ramp": [[0, 120, 7, 9]]})
    start(app, ids["look"])
    wait_for(lambda: wall(app)[3, 6].tolist() == [120, 7, 9], 8)
    api.call("POST", f"{at}/frames", {"do": "take", "after": frames(app)[0]})
    assert (picture(app, 1) == [120, 7, 9, 255]).all()
    before = chase(app)
    with saved_show(app) as answer:
        (tmp_path / "again.show").write_bytes(answer.read())
    for kind, begins in (("gif", b"GIF89a"), ("csv", b"frame,fade s,hold s,row,1,2")):
        asked = urllib.request.Request(f"{app.address}{at}/chase.{kind}", method="POST")
        with urllib.request.urlopen(asked, timeout=40) as answer:
            assert answer.read().startswith(begins)
    key = str(uuid4())
    api.upload("/api/shows/file", key, "again.show", tmp_path / "again.show")
    api.call("POST", f"/api/shows/{key}/open")
    again = chase(app)
    assert again["id"] != before["id"]
    assert (again["frames"], again["name"], again["columns"]) == (before["frames"], before["name"], 7)
    assert again["matrix"] == api.call("GET", "/api/show")["matrices"][0]["id"]


def test_frames_are_taken_from_a_gif_and_from_pictures(app: RunningApp, ids: dict[str, str], tmp_path: Path) -> None:
    """Against Pillow's own means of the pictures it wrote."""
    api, at = app.api(), begin(app, ids)
    api.call("POST", f"{at}/frames", {"do": "times", "frames": frames(app), "hold": 0.7, "fade": 0.2})
    chance = np.random.default_rng(8)
    still = Image.fromarray(chance.integers(0, 256, (40, 70, 4), dtype=np.uint8))
    still.save(tmp_path / "still.png")
    colours = [(250, 20, 20), (20, 250, 20), (20, 20, 250)]
    moving = [Image.new("RGB", (14, 8), colour) for colour in colours]
    moving[0].save(tmp_path / "three.gif", save_all=True, append_images=moving[1:], duration=[200, 400, 600], loop=0)
    api.upload(f"{at}/pictures?after={frames(app)[0]}", "", "still.png", tmp_path / "still.png")
    wanted = np.asarray(still.resize((7, 4), Image.Resampling.BOX))
    assert np.abs(picture(app, 1).astype(int) - wanted).max() <= 1
    api.upload(f"{at}/pictures?after={frames(app)[1]}", "", "three.gif", tmp_path / "three.gif")
    times = [(one["fade"], one["hold"]) for one in chase(app)["frames"]]
    assert times[:2] == [(0.2, 0.7)] * 2
    assert [hold for _, hold in times[2:]] == [pytest.approx(one) for one in (0.2, 0.4, 0.6)]
    for n, colour in enumerate(colours):
        assert np.abs(picture(app, 2 + n)[:, :, :3].astype(int) - colour).max() <= 4
    (tmp_path / "notes.gif").write_text("no picture")
    with pytest.raises(HeliographError, match=r"notes\.gif"):
        api.upload(f"{at}/pictures?after=", "", "notes.gif", tmp_path / "notes.gif")
    assert len(chase(app)["frames"]) == 5
    api.call("POST", "/api/undo")
    assert len(chase(app)["frames"]) == 2


def test_a_frame_sets_attributes_too_as_they_are_typed(app: RunningApp, ids: dict[str, str], tmp_path: Path) -> None:
    """Of the fixtures it is drawn on, by their words; the wire shows it, and a file keeps it."""
    api = app.api()
    api.call("POST", "/api/chases", {"id": ids["chase"], "name": "Steps", "matrix": ids["matrix"]})
    [first] = frames(app)
    at = f"/api/chases/{ids['chase']}"
    api.call("POST", f"{at}/typed", {"frame": first, "text": "red = 40 %"})
    assert chase(app)["frames"][0]["sets"] == [{"attribute": "ColorAdd_R", "word": "red", "text": "40 %"}]
    for text, what in (("red = loud", "'loud'"), ("zoom = 12 %", "zoom"), ("nonsense", "does not say")):
        with pytest.raises(HeliographError) as error:
            api.call("POST", f"{at}/typed", {"frame": first, "text": text})
        assert what in error.value.what
    line = {"id": str(uuid4()), "paints": "chase", "chase": ids["chase"], "matrix": ids["matrix"]}
    api.call("POST", f"/api/looks/{ids['look']}/lines", line)
    api.call("PATCH", f"/api/looks/{ids['look']}/lines/{ids['line']}", {"mute": True})
    start(app, ids["look"])
    wait_for(lambda: wall(app)[..., 0].tolist() == [[102] * 7] * 4, 8, "what the frame sets is not sent")
    api.call("POST", f"{at}/frames", {"do": "insert", "after": first})
    assert chase(app)["frames"][1]["sets"] == []
    api.call("POST", f"{at}/frames", {"do": "paste", "frames": [first], "after": first})
    assert chase(app)["frames"][1]["sets"] == chase(app)["frames"][0]["sets"]
    file, key = tmp_path / "again.show", str(uuid4())
    with saved_show(app) as answer:
        file.write_bytes(answer.read())
    api.call("POST", f"{at}/typed", {"frame": first, "text": "red ="})
    api.call("POST", f"{at}/typed", {"frame": frames(app)[1], "text": "red ="})
    assert all(frame["sets"] == [] for frame in chase(app)["frames"])
    wait_for(lambda: not wall(app).any(), 8, "it is still sent")
    api.upload("/api/shows/file", key, "again.show", file)
    api.call("POST", f"/api/shows/{key}/open")
    assert [one["text"] for frame in chase(app)["frames"] for one in frame["sets"]] == ["40 %", "40 %"]
