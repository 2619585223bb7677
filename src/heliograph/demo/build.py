"""Builds the demo show in a running Heliograph, through the API, and starts its list."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from heliograph.demo.evening import NAME as EVENING
from heliograph.demo.looks import add_storm, build_looks
from heliograph.demo.midwinter import build_clock
from heliograph.demo.names import key
from heliograph.demo.plan import build_plan
from heliograph.demo.quay import build_page
from heliograph.demo.rig import build_rig

NAME = "Skerry Point Winter Lights"
TEMPO = 112.0
HANG_LISTS = tuple(Path(__file__).parent / f"{name}_hang.json" for name in ("tower", "quay", "lantern"))
"""What hangs on the simulated nodes: the Tower by sACN, the quay by Art-Net, heads and lasers by both."""


def build_demo(api: ApiClient, card: str, nodes: Sequence[str]) -> None:
    """Opens the demo show, building it if it is not there yet; its list begins where nothing runs.

    `nodes`: addresses of the simulated nodes, as in `HANG_LISTS`.
    """
    listed = {show["id"]: show for show in api.call("GET", "/api/shows")}
    if key("show") not in listed:
        api.call("POST", "/api/shows", {"id": key("show"), "name": NAME})
    elif not listed[key("show")]["is_open"]:
        api.call("POST", f"/api/shows/{key('show')}/open")
    show = api.call("GET", "/api/show")
    if not show["undo"] and not show["fixtures"]:
        build_rig(api, card, nodes)
        build_looks(api)
        build_plan(api, HANG_LISTS, nodes)
    _start(api)


def add_reel(api: ApiClient, data: Path, run: Callable[[list[str]], None]) -> None:
    """Draws the clip in a process of its own (`run` starts it and waits) and adds it with its look, once in a
    show's life. Takes half a minute, while everything else runs already.
    """
    done, reel = data / "media" / "storm_reel.done", data / "media" / "storm_reel.mp4"
    if done.exists():
        return
    if not any(clip["id"] == key("reel") for clip in api.call("GET", "/api/show")["clips"]):
        run([sys.executable, "-m", "heliograph.demo.reel", str(reel)])
        api.upload("/api/clips", key("reel"), "Storm reel.mp4", reel)
    if not any(look["id"] == key("Storm reel") for look in api.call("GET", "/api/show")["looks"]):
        add_storm(api)
    reel.unlink(missing_ok=True)
    done.touch()


def _start(api: ApiClient) -> None:
    """The first Go of its list once the engine has the show; leaves alone what runs already."""
    until = time.monotonic() + 10
    while time.monotonic() < until:
        try:
            if not api.call("GET", "/api/engine")["state"]["running"]:
                api.call("POST", "/api/engine", _move("tempo", TEMPO))
                api.call("POST", "/api/engine", _move(f"list/{key(EVENING)}/go", None))
            if not api.call("GET", "/api/show")["clocks"]:
                build_clock(api)
                build_page(api)
            return
        except HeliographError:
            time.sleep(0.1)  # the show is on its way to the engine


def _move(handle: str, value: object) -> dict[str, object]:
    return {"do": "move", "moves": [{"handle": handle, "value": value}]}
