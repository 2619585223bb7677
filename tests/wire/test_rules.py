"""Sequence rules and hostile bytes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.wire import artnet, sacn

# Vectors (last, new, accept): standards 3.2, computed in Python from E1.31's rule [S].
SACN_SEQUENCES = [
    (100, 101, True),
    (100, 100, False),
    (100, 99, False),
    (100, 81, False),
    (100, 80, True),
    (255, 0, True),
    (0, 255, False),
    (0, 236, True),
    (10, 250, False),
    (10, 246, True),
]


@pytest.mark.parametrize(("last", "new", "accept"), SACN_SEQUENCES)
def test_sacn_sequence(last: int, new: int, accept: bool) -> None:
    if (last, new) == (0, 236):
        # The difference is -20 as in (100, 80), and -20 is outside the rejected range.
        assert (new - last + 128) % 256 - 128 == -20
    assert sacn.accepts_sequence(last, new) is accept


def test_art_net_sequence_skips_zero() -> None:
    assert [artnet.next_sequence(n) for n in (0, 1, 254, 255)] == [1, 2, 255, 1]
    assert artnet.accepts_sequence(255, 1)
    assert artnet.accepts_sequence(7, 0)
    assert not artnet.accepts_sequence(7, 7)
    assert not artnet.accepts_sequence(7, 6)


@given(st.binary(max_size=700))
def test_any_bytes_are_read_or_refused_in_one_way(raw: bytes) -> None:
    for decode in (artnet.decode_dmx, artnet.decode_poll, artnet.decode_poll_reply, sacn.decode):
        for packet in (raw, artnet.ID + raw, sacn._PREAMBLE + raw):
            try:
                decode(packet)
            except artnet.MalformedPacketError:
                continue


@given(st.integers(0, 637), st.integers(0, 255))
def test_a_flipped_byte_never_passes_for_longer_data(at: int, value: int) -> None:
    raw = bytearray(sacn.encode_data(bytes(16), "x", 7, bytes(512), 1))
    raw[at] = value
    try:
        read = sacn.decode(bytes(raw))
    except artnet.MalformedPacketError:
        return
    assert not isinstance(read, sacn.Data) or len(read.slots) <= 512
