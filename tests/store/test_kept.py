"""What is kept for how long, and what is not undone: media nobody uses, edits of a show, shows that were loaded."""

from __future__ import annotations

import hashlib
import os
from contextlib import nullcontext
from pathlib import Path
from typing import Any
from uuid import uuid4

import orjson
import pytest

from heliograph.api import media_sweep
from heliograph.api.kept_files import is_whole, keep_received
from heliograph.core.errors import HeliographError
from heliograph.ipc.durable import write_durably
from tests.conftest import RunningApp

DAY = 86_400.0


def test_unused_media_go_after_thirty_days_and_what_is_used_or_could_be_undone_stays(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    contents = {name: hashlib.sha256(name.encode()).hexdigest() for name in ("used", "lost", "undoable", "returns")}
    files = tmp_path / "files"
    files.mkdir()
    (tmp_path / "thumbs").mkdir()
    for name, content in contents.items():
        (files / f"{content}.mp4").write_bytes(name.encode())
        (tmp_path / "thumbs" / f"{content}.png").touch()
    (files / "upload.part").touch()
    used = {contents["used"]}
    monkeypatch.setattr(media_sweep, "connected", nullcontext)
    monkeypatch.setattr(media_sweep, "used_contents", lambda: set(used))
    monkeypatch.setattr(media_sweep, "is_in_journal", lambda content: content == contents["undoable"])
    assert media_sweep.sweep(tmp_path, 0.0) == []
    assert media_sweep.sweep(tmp_path, 20 * DAY) == []
    used.add(contents["returns"])
    media_sweep.sweep(tmp_path, 25 * DAY)
    used.discard(contents["returns"])
    assert media_sweep.sweep(tmp_path, 31 * DAY) == [f"{contents['lost']}.mp4"]
    assert not (tmp_path / "thumbs" / f"{contents['lost']}.png").exists()
    assert media_sweep.sweep(tmp_path, 50 * DAY) == [], "its thirty days begin when it is unused again"
    assert media_sweep.sweep(tmp_path, 62 * DAY) == [f"{contents['returns']}.mp4"]
    left = {path.stem for path in files.glob("*.mp4")}
    assert left == {contents["used"], contents["undoable"]}
    assert (files / "upload.part").exists()
    (tmp_path / "unused.json").write_bytes(b"rubbish")
    assert media_sweep.sweep(tmp_path, 99 * DAY) == [], "without its note it begins to count anew"


def test_the_database_knows_what_is_used(app: RunningApp, show: str, tmp_path: Path) -> None:
    from PIL import Image

    from heliograph.store.database import connected, open_database
    from heliograph.store.media_use import is_in_journal, used_contents

    picture = tmp_path / "front.png"
    Image.new("RGB", (8, 6), (1, 2, 3)).save(picture)
    key = str(uuid4())
    app.api().upload("/api/clips", key, "front.png", picture)
    content = app.api().call("GET", "/api/show")["clips"][0]["content"]
    open_database(**orjson.loads((app.data / "run" / "database.json").read_bytes()))
    with connected():
        assert content in used_contents()
    app.api().call("DELETE", f"/api/clips/{key}")
    with connected():
        assert content not in used_contents()
        assert is_in_journal(content)
        assert not is_in_journal("0" * 64)


def test_a_damaged_kept_file_is_written_again(tmp_path: Path) -> None:
    raw = b"a clip"
    content = hashlib.sha256(raw).hexdigest()
    target = tmp_path / f"{content}.mp4"
    for damaged in (None, b"", b"half", raw):
        if damaged is not None:
            target.write_bytes(damaged)
        upload = tmp_path / "upload.part"
        upload.write_bytes(raw)
        assert keep_received(upload, target, content) is (damaged != raw)
        assert is_whole(target, content)
        assert not upload.exists()


def test_a_file_is_replaced_as_a_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "manifest.json"
    write_durably(path, b"first")

    def full(_handle: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(OSError, match="No space left"):
        write_durably(path, b"second")
    assert path.read_bytes() == b"first"
    assert [one.name for one in tmp_path.iterdir()] == ["manifest.json"]


def test_the_last_ten_thousand_edits_of_a_show_stay(
    app: RunningApp, show: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    from heliograph.store import journal
    from heliograph.store.database import connected, open_database
    from heliograph.store.models import Edit

    assert journal.EDITS_KEPT == 10_000
    monkeypatch.setattr(journal, "EDITS_KEPT", 20)
    monkeypatch.setattr(journal, "PRUNE_EVERY", 10)
    open_database(**orjson.loads((app.data / "run" / "database.json").read_bytes()))
    ramp = str(uuid4())
    author = journal.Author("t", "T")
    with connected():
        columns: dict[str, Any] = {"place": 1, "name": "0", "stops": [[0, 1, 2, 3]]}
        with journal.edit(show, author, "Made a ramp") as work:
            work.insert("ramp", [(ramp, columns)])
        for n in range(1, 40):
            with journal.edit(show, author, f"Named it {n}") as work:
                work.update("ramp", ramp, {"name": str(n)})
        kept = Edit.select().where(Edit.show == show).count()
        assert 20 <= kept < 30
        assert journal.undo(show, author) == "Named it 39"


def test_loading_or_copying_a_show_is_not_undone(app: RunningApp, show: str) -> None:
    api = app.api()
    api.call("POST", "/api/ramps", {"id": str(uuid4()), "name": "Dusk", "stops": [[0, 1, 2, 3]]})
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Copy", "like": show})
    whole = api.call("GET", "/api/show")
    assert whole["undo"] == ""
    with pytest.raises(HeliographError, match="nothing to undo"):
        api.call("POST", "/api/undo")
    assert [one["name"] for one in api.call("GET", "/api/show")["ramps"]] == ["Dusk"]


def test_a_new_name_of_a_show_is_a_revision_of_its_own(app: RunningApp, show: str) -> None:
    before = app.api().call("GET", "/api/show")["show"]["revision"]
    told = app.api().call("PATCH", "/api/show", {"name": "Winter front"})
    assert told["revision"] == before + 1


def test_a_show_with_a_picture_that_was_scaled_goes_out_and_in(app: RunningApp, show: str, tmp_path: Path) -> None:
    """It was kept scaled under the hash of the original, and its own file was refused as damaged."""
    from PIL import Image

    from tests.conftest import saved_show

    picture = tmp_path / "wide.png"
    Image.new("RGB", (4500, 9), (200, 30, 10)).save(picture)
    said = app.api().upload("/api/clips", str(uuid4()), "wide.png", picture)["said"]
    assert "kept at 4096 x 8" in said
    file = tmp_path / "show.zip"
    with saved_show(app) as answer:
        file.write_bytes(answer.read())
    loaded = app.api().upload("/api/shows/file", str(uuid4()), "show.zip", file)
    app.api().call("POST", f"/api/shows/{loaded['id']}/open")
    assert app.api().call("GET", "/api/show")["clips"][0]["width"] == 4096


def test_a_saved_file_is_read_back_before_it_is_told(app: RunningApp, show: str, tmp_path: Path) -> None:
    from PIL import Image

    picture = tmp_path / "front.png"
    Image.effect_noise((40, 30), 90).save(picture)
    app.api().upload("/api/clips", str(uuid4()), "front.png", picture)
    content = app.api().call("GET", "/api/show")["clips"][0]["content"]
    kept = app.data / "media" / "files" / f"{content}.png"
    whole = kept.read_bytes()
    kept.write_bytes(whole[:-4] + b"\0\0\0\0")
    with pytest.raises(HeliographError, match="is damaged"):
        app.api().call("POST", "/api/show/file")
    said = app.api().upload("/api/clips", str(uuid4()), "front.png", picture)["said"]  # as the sentence says
    assert said.endswith("its file was damaged and is mended.")
    assert kept.read_bytes() == whole
    assert app.api().call("POST", "/api/show/file")["bytes"] > len(whole)
    with pytest.raises(HeliographError, match="not kept any more"):
        app.api().call("GET", f"/api/show/file/{'x' * 32}")
