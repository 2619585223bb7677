"""Nothing that arrives fills the memory: discovery pages, universes, sentences for the event log."""

from __future__ import annotations

from heliograph.ipc.incoming import IDLE_NS, SLOTS_MAX, IncomingReader, IncomingWriter
from heliograph.receiver.announced import FOLLOWED_MAX, PAGES_MAX, Announced
from heliograph.receiver.intake import NEWS_A_MINUTE, Intake
from heliograph.receiver.streams import IDLE_S, UNIVERSES_MAX, Packet, Streams
from heliograph.wire import sacn


def packet(number: int, key: str = "a", ends: bool = False) -> Packet:
    return Packet("sacn", number, key, "Desk", "192.0.2.9", 100, 1, bytes(512), ends=ends)


def test_pages_of_a_source_and_what_is_followed_are_bounded() -> None:
    heard = Announced()
    for page in range(256):
        numbers = tuple(range(page * 600 + 1, page * 600 + 601))
        heard.hear(sacn.Discovery(bytes(16), "Flood", page, 255, numbers), "192.0.2.9", 0.0)
    [source] = heard.sources.values()
    assert len(source.pages) == PAGES_MAX
    assert max(map(len, source.pages.values())) == 512
    assert len(heard.universes) == FOLLOWED_MAX
    for n in range(2000):
        heard.hear(sacn.Discovery(n.to_bytes(16, "big"), "Flood", 0, 0, (n + 1,)), "192.0.2.9", 0.0)
    assert len(heard.sources) == 256


def test_a_universe_that_nobody_sends_any_more_makes_room() -> None:
    streams = Streams()
    for number in range(1, UNIVERSES_MAX + 100):
        streams.take(packet(number), 0.0)
    assert len(streams.universes) == UNIVERSES_MAX
    assert streams.take(packet(60_000), 1.0) is None
    streams.look(10.0)  # all silent for longer than 2.5 s
    streams.look(10.0 + IDLE_S / 2)
    assert len(streams.universes) == UNIVERSES_MAX
    streams.look(11.0 + IDLE_S)
    assert streams.universes == {}
    assert streams.take(packet(60_000), 80.0) is not None


def test_a_flood_of_changes_is_told_in_part_and_counted() -> None:
    intake = Intake()
    for number in range(1, 2000):
        intake.streams.take(packet(number), 0.0)
    assert len(intake.news(1.0)) == NEWS_A_MINUTE
    intake.streams.take(packet(1, "b"), 2.0)
    assert intake.news(2.0) == []
    intake.streams.take(packet(2, "b"), 62.0)
    told = intake.news(62.0)
    assert told[0] == f"{1999 - NEWS_A_MINUTE + 1} more changes on the network were not told"
    assert len(told) == 2


def test_idle_slots_are_freed_and_busy_ones_kept(tmp_path: object) -> None:
    from pathlib import Path

    path = Path(str(tmp_path)) / "incoming.frames"
    writer = IncomingWriter(path)
    for number in range(1, SLOTS_MAX + 1):
        assert writer.write("sacn", number, 100, b"x", number, bytes(512))
    late = IDLE_NS + SLOTS_MAX
    assert not writer.write("artnet", 1, 100, b"x", 1000, bytes(512)), "nobody has been idle for long"
    assert writer.write("sacn", 2, 100, b"x", late, bytes(512))
    assert writer.write("artnet", 1, 100, b"x", late, b"\x07" * 512)
    found = IncomingReader(path).read()
    assert len(found) == SLOTS_MAX
    assert ("sacn", 1) not in found
    assert ("sacn", 2) in found
    assert found["artnet", 1].data[:1] == b"\x07"
