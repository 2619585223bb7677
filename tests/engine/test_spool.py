"""The spool: a restart goes on in the same place, whatever the moment of death."""

from pathlib import Path

import pytest

from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import ShowClock
from heliograph.engine import spool as module
from heliograph.engine.spool import Spool

KEYS = ("artnet 127.0.0.9 0", "sacn multicast 1")


def write(spool: Spool, frame: int, sequences: bytes) -> None:
    spool.write(frame, ShowClock(frame * 10, 1000), PlaybackState(master=0.5).started("look", 7), KEYS, sequences)


def test_it_goes_on_where_it_was(tmp_path: Path) -> None:
    first = Spool(tmp_path / "spool", 0)
    assert first.resumed is None
    for frame in range(1, 6):
        write(first, frame, bytes([frame, 100 + frame]))
    first.close()
    again = Spool(tmp_path / "spool", 5000)
    assert again.cid == first.cid
    assert again.resumed is not None
    assert again.resumed.frame == 5
    assert again.resumed.sequences == {KEYS[0]: 5, KEYS[1]: 105}
    assert again.resumed.state == PlaybackState(master=0.5).started("look", 7)
    assert again.resumed.clock.at(5000) == 50 + 4000  # show time went on while nobody was there


def test_a_torn_slot_leaves_the_one_before(tmp_path: Path) -> None:
    spool = Spool(tmp_path / "spool", 0)
    for frame in (1, 2, 3):
        write(spool, frame, bytes([frame, frame]))
    spool.close()
    raw = bytearray((tmp_path / "spool").read_bytes())
    newest = module._HEAD.size + 3 % 2 * module._SLOT_SIZE
    raw[newest + module._SLOT.size + 40] ^= 0xFF
    (tmp_path / "spool").write_bytes(bytes(raw))
    again = Spool(tmp_path / "spool", 0)
    assert again.resumed is not None
    assert again.resumed.frame == 2


def test_another_start_of_the_machine_goes_on_from_the_stored_moment(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(module, "boot_id", lambda: "before")
    spool = Spool(tmp_path / "spool", 0)
    write(spool, 4, b"\1\2")
    spool.close()
    monkeypatch.setattr(module, "boot_id", lambda: "after")
    again = Spool(tmp_path / "spool", 77_000)
    assert again.resumed is not None
    assert again.resumed.clock.at(77_000) == 40


def test_the_copy_on_disk_survives_a_power_cut(tmp_path: Path) -> None:
    spool = Spool(tmp_path / "spool", 0, tmp_path / "kept")
    for frame in (1, 2):
        write(spool, frame, bytes([frame, frame]))
    spool.keep()
    write(spool, 3, b"\3\3")
    (tmp_path / "spool").unlink()
    again = Spool(tmp_path / "spool", 0, tmp_path / "kept")
    assert again.resumed is not None
    assert (again.resumed.frame, again.cid) == (2, spool.cid)
    (tmp_path / "kept").write_bytes(b"damaged")
    assert Spool(tmp_path / "new", 0, tmp_path / "kept").resumed is None


@pytest.mark.parametrize("content", [b"", b"\0" * 100, b"HGSPOOL\0" + b"\xff" * 5000])
def test_anything_else_begins_anew(tmp_path: Path, content: bytes) -> None:
    (tmp_path / "spool").write_bytes(content)
    spool = Spool(tmp_path / "spool", 0)
    assert spool.resumed is None
    write(spool, 1, b"\1\1")


def test_a_reader_beside_the_engine_sees_frame_and_state(tmp_path: Path) -> None:
    """What the preview process does: it reads while another process writes, and never disturbs it."""
    from heliograph.engine.spool import SpoolReader

    path = tmp_path / "spool"
    reader = SpoolReader(path)
    assert reader.read() is None
    spool = Spool(path, 0)
    state = PlaybackState(master=0.4, masters={"g": 0.5}).started("L", 5)
    spool.write(7, ShowClock(0, 0), state, (), b"")
    first = reader.read()
    assert first == (7, state)
    spool.write(8, ShowClock(0, 0), state, (), b"")
    again = reader.read()
    assert again is not None
    assert first is not None
    assert (again[0], again[1] is first[1]) == (8, True)  # the same object while nothing changed
    other = Spool(tmp_path / "other", 0)
    other.write(1, ShowClock(0, 0), PlaybackState(), (), b"")
    (tmp_path / "other").replace(path)  # a new engine wrote a new file
    assert reader.read() == (1, PlaybackState())
