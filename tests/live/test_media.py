"""The media process killed in mid-clip: the last frame is held, decoding is resumed by itself, the log says so."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from uuid import uuid4

import av
import numpy as np

from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

FRAMES, RATE = 900, 60
PER_GREY = 4


def counting(path: Path) -> Path:
    """720p; frame n is a grey of n / 4: a frame tells its place, and decoding all of them takes some seconds."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(RATE))
        stream.width, stream.height, stream.pix_fmt = 1280, 720, "yuv420p"
        stream.options = {"crf": "8", "preset": "ultrafast"}
        for n in range(FRAMES):
            image = np.full((720, 1280, 3), n // PER_GREY, dtype=np.uint8)
            container.mux(stream.encode(av.VideoFrame.from_ndarray(image, format="rgb24")))
        container.mux(stream.encode())
    return path


def test_killed_in_mid_clip(own_app: Callable[..., RunningApp], node: Callable[..., Node], tmp_path: Path) -> None:
    receiver = node("127.0.71.2", wall_hang())
    app = own_app("127.0.71.1")
    ids = light_wall(app, "127.0.71.2", [[0, 1, 1, 1]])
    api = app.api()
    clip = str(uuid4())
    api.upload("/api/clips", clip, "counting.mp4", counting(tmp_path / "counting.mp4"))
    app.engine().ask({"do": "hold_time"})
    now = app.engine().ask({"do": "status"})["state"]["show_s"]
    line = {"id": str(uuid4()), "paints": "clip", "clip": clip, "matrix": ids["matrix"]}
    api.call("POST", f"/api/looks/{ids['look']}/lines", {**line, "speed": {"value": 1, "unit": "times"}})

    def ready() -> float:
        clips = (api.call("GET", "/api/status")["media"] or {"clips": []})["clips"]
        return float(clips[0]["ready"]) if clips else 0.0

    wait_for(lambda: ready() > 0.05, 20, "decoding did not begin")
    app.engine().ask({"do": "set_time", "seconds": now + (FRAMES - 2) / RATE})  # far beyond what is decoded
    pid = app.kill("media")
    held = wait_for(lambda: receiver.picture()[0] > 3 and receiver.picture()[0], 5, "no frame was held")
    assert held < FRAMES // PER_GREY - 10, "it had all been decoded before the kill: the test proves nothing"
    assert receiver.picture() == [held] * 54 or receiver.picture()[0] >= held
    wait_for(lambda: app.pid("media") != pid, 10, "media was not started again")
    last = (FRAMES - 2) // PER_GREY
    wait_for(lambda: abs(receiver.picture()[0] - last) <= 2, 60, "decoding was not resumed")

    def said(words: str) -> bool:
        return any(words in event["text"] for event in api.call("GET", "/api/events"))

    assert said("media ended (SIGKILL), it is started again")
    wait_for(lambda: said(f"clip decoded: {FRAMES} frames"), 10, "the log does not say that it was decoded")
