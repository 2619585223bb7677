"""The playback state as bytes and back: for the spool, and for whoever repeats a frame. One schema, the records
themselves; forms of older versions are read too."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import msgspec

from heliograph.core.playing.level import Level
from heliograph.core.playing.state import PlaybackState

STATE_VERSION = 3

_encoder = msgspec.json.Encoder()
_decoder = msgspec.json.Decoder(PlaybackState)


def encode_state(state: PlaybackState) -> bytes:
    """`decode_state` reads it back unchanged where it is `live`."""
    return _encoder.encode(state)


def decode_state(raw: bytes, *, version: int = STATE_VERSION, live: bool = False) -> PlaybackState:
    """What is armed, highlighted, walked or held of a line is read only of a `live` engine: after every start lasers
    are safe, and nobody holds anything. Raises ValueError for what is no state of that version."""
    if version == STATE_VERSION:
        state = _decoder.decode(raw)
    elif version == 2:
        state = msgspec.convert(_of_version_2(msgspec.json.decode(raw)), PlaybackState)
    else:
        raise ValueError(f"a state of version {version}")
    return state if live else replace(state, armed=frozenset(), highlight=frozenset(), walk=None, held={})


def _of_version_2(old: dict[str, Any]) -> dict[str, Any]:
    """Version 2 knew one run of a look, levels that stood still, and freeze as a yes or no: a picture frozen then is
    not known any more, and moves on."""
    plain = ("master", "blackout", "masters", "manual", "raw", "armed", "highlight", "walk", "left")
    new = {key: old[key] for key in plain if key in old}
    bpm, since_ns, beat = old["tempo"]
    new["tempo"] = {"bpm": bpm, "since_ns": since_ns, "beat": beat}
    new["runs"] = [
        {
            "id": f"r{number}",
            "look": run["look"],
            "since_ns": run["since_ns"],
            "phases": {
                line: dict(zip(("phase", "since", "unit", "rate"), anchor, strict=True))
                for line, anchor in run["phases"].items()
            },
        }
        for number, run in enumerate(old["running"], start=1)
    ]
    new["begun"] = len(new["runs"])
    new["levels"] = {
        run["look"]: msgspec.to_builtins(Level(run["level"])) for run in old["running"] if run["level"] != 1.0
    }
    return new
