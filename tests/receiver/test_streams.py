"""Who counts on a universe that arrives. Rules: E1.31-2018 6.2.3, 6.2.6, 6.7.2, Art-Net 4 merging, as recalled in the
standards 2.3 and 3.2 [S]; merging equal sACN priorities by the highest value is common practice, no source."""

from __future__ import annotations

import itertools
import random
from typing import Any

import pytest

from heliograph.receiver.streams import Packet, Streams

A, B, C = "aa" * 16, "bb" * 16, "cc" * 16


def packet(key: str, sequence: int, values: list[int], priority: int = 100, **more: object) -> Packet:
    fields = {"protocol": "sacn", "number": 1, "name": key[:2], "ip": "127.0.0.7"} | more
    return Packet(key=key, priority=priority, sequence=sequence, data=bytes(values), **fields)  # type: ignore[arg-type]


def levels(streams: Streams, protocol: str = "sacn") -> list[int]:
    return list(streams.universes[(protocol, 1)].levels())


def test_three_senders_of_unequal_priority_hand_over_as_they_end() -> None:
    streams = Streams()
    streams.take(packet(A, 1, [10, 200]), 0.0)
    streams.take(packet(B, 1, [50, 50], priority=150), 0.0)
    streams.take(packet(C, 1, [7, 7], priority=120), 0.1)
    assert levels(streams) == [50, 50]
    assert [one.counts for one in streams.listed(0.1, 9)] == [False, True, False]
    streams.take(packet(B, 2, [99, 99], priority=150, ends=True), 0.2)
    assert levels(streams) == [7, 7]  # what the last packet of a stream carries is not taken
    streams.take(packet(A, 2, [10, 200]), 2.0)
    assert len(streams.look(2.7)) == 1  # C has been silent for 2.6 s
    assert levels(streams) == [10, 200]
    assert streams.changes[-2:] == ["sACN 1: bb (127.0.0.7) ended", "sACN 1: cc (127.0.0.7) silent for 2.6 s"]


def test_a_priority_that_changes_counts_from_its_packet_on() -> None:
    streams = Streams()
    streams.take(packet(A, 1, [1]), 0.0)
    streams.take(packet(B, 1, [2], priority=90), 0.0)
    assert levels(streams) == [1]
    streams.take(packet(B, 2, [2], priority=110), 0.1)
    assert levels(streams) == [2]


def test_equal_priorities_merge_by_the_highest_value_whatever_their_lengths() -> None:
    streams = Streams()
    streams.take(packet(A, 1, [255, 0, 10]), 0.0)
    streams.take(packet(B, 1, [0, 128]), 0.0)
    assert levels(streams) == [255, 128, 10]


# standards 3.2: a packet is dropped where -20 < new - last <= 0, as signed 8 bits.
@pytest.mark.parametrize(
    ("last", "new", "taken"),
    [
        (10, 11, True),
        (10, 10, False),
        (10, 9, False),
        (10, 247, False),
        (10, 246, True),
        (255, 0, True),
        (0, 237, False),
        (0, 236, True),
    ],
)
def test_a_sequence_out_of_order(last: int, new: int, taken: bool) -> None:
    streams = Streams()
    streams.take(packet(A, last, [1]), 0.0)
    streams.take(packet(A, new, [2]), 0.01)
    assert levels(streams) == [2 if taken else 1]
    assert streams.listed(0.0, 1)[0].late == (0 if taken else 1)


def test_loss_is_counted_from_the_sequence_and_rate_from_the_clock() -> None:
    streams = Streams()
    dice = random.Random(7)
    left_out = set(dice.sample(range(1, 900), 40))
    for n in range(900):
        if n not in left_out:
            streams.take(packet(A, n % 256, [1]), n / 44)
    line = streams.listed(900 / 44, 1)[0]
    assert line.lost == 40
    assert line.packets == 860
    assert 38 <= line.rate <= 45


def test_a_sender_that_comes_back_after_silence_is_not_locked_out() -> None:
    streams = Streams()
    streams.take(packet(A, 200, [1]), 0.0)
    streams.take(packet(A, 190, [2]), 3.0)
    assert levels(streams) == [2]


def test_another_start_code_keeps_a_sender_alive_and_carries_no_values() -> None:
    streams = Streams()
    streams.take(packet(A, 1, [5]), 0.0)
    assert streams.take(packet(A, 2, [200], levels=False), 2.0) is None
    assert streams.look(4.0) == []
    assert levels(streams) == [5]


def test_art_net_merges_two_senders_and_leaves_a_third_out_until_one_is_gone() -> None:
    streams = Streams()
    art: dict[str, Any] = {"protocol": "artnet"}
    # vectors: standards 2.3 [S]
    streams.take(packet("127.0.0.7", 1, [255, 0, 10], **art), 0.0)
    streams.take(packet("127.0.0.8", 1, [0, 128, 20], **art), 0.0)
    assert streams.take(packet("127.0.0.9", 1, [1, 1, 255], **art), 0.0) is None
    assert levels(streams, "artnet") == [255, 128, 20]
    assert streams.listed(0.0, 1)[0].left_out == 1
    streams.take(packet("127.0.0.8", 2, [0, 128, 20], **art), 9.0)
    streams.look(10.1)
    assert levels(streams, "artnet") == [0, 128, 20]
    assert streams.take(packet("127.0.0.9", 2, [1, 1, 255], **art), 10.2) is not None
    assert levels(streams, "artnet") == [1, 128, 255]


def test_whatever_comes_in_whatever_order_the_highest_living_priority_counts() -> None:
    """Against a plain list of what each sender said last: 40 random runs of 200 packets."""
    for run in range(40):
        dice = random.Random(run)
        streams, said = Streams(), dict[str, tuple[int, float, int]]()
        sequences = {key: itertools.count() for key in (A, B, C)}
        now = 0.0
        for _ in range(200):
            now += dice.choice((0.02, 0.3, 1.0))
            streams.look(now)
            said = {key: one for key, one in said.items() if now - one[1] <= 2.5}
            key, priority, value = dice.choice((A, B, C)), dice.choice((50, 100, 150)), dice.randrange(256)
            ends = dice.random() < 0.1
            streams.take(packet(key, next(sequences[key]) % 256, [value], priority, ends=ends), now)
            if ends:
                said.pop(key, None)
            else:
                said[key] = (priority, now, value)
            top = max((one[0] for one in said.values()), default=0)
            expected = max((one[2] for one in said.values() if one[0] == top), default=None)
            universe = streams.universes.get(("sacn", 1))
            assert (list(universe.levels()) if universe else []) == ([] if expected is None else [expected])
