"""Videos whose transparency lies beside the picture: VP8 and VP9 keep it as a second stream of the same codec, which
only the library of their makers reads."""

from __future__ import annotations

from collections.abc import Iterator

import av
import av.error

READERS = {"vp8": "libvpx", "vp9": "libvpx-vp9"}


def has_hidden_cover(stream: av.VideoStream) -> bool:
    """Whether a video's frames have a cover that its usual decoder leaves out (WebM's "alpha_mode")."""
    told = {name.lower(): value for name, value in stream.metadata.items()}
    return stream.codec_context.name in READERS and told.get("alpha_mode") == "1"


def frames_with_cover(container: av.container.InputContainer, stream: av.VideoStream) -> Iterator[av.VideoFrame]:
    """Frames in order, with their cover."""
    reader = av.CodecContext.create(READERS[stream.codec_context.name], "r")
    assert isinstance(reader, av.VideoCodecContext)
    for packet in container.demux(stream):
        yield from reader.decode(packet if packet.size else None)
