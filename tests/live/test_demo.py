"""The demo as a whole: both nodes show, by their own hang lists, what the program says it sent them."""

from __future__ import annotations

import asyncio
import json
import struct
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import UUID

import websockets

from heliograph.demo.build import HANG_LISTS
from heliograph.demo.names import key
from tests.conftest import RunningApp, wait_for

Pictures = dict[str, tuple[int, int, list[tuple[int, ...]]]]


def pictures(app: RunningApp) -> tuple[float, Pictures]:
    """(show time, name -> columns, rows, colours) of one message of the live connection."""
    names = {m["id"]: m["name"] for m in app.api().call("GET", "/api/show")["matrices"]}

    async def read() -> bytes:
        async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", close_timeout=0.5) as live:
            while True:
                message = await asyncio.wait_for(live.recv(), 20)
                if isinstance(message, bytes) and message[0] == 1:
                    return message

    message = asyncio.run(read())
    _, _, count, _, _, show_ns = struct.unpack_from("<BBHIQq", message)
    at, found = 24, {}
    for _ in range(count):
        matrix, columns, rows, step, _, _ = struct.unpack_from("<16sHHHBB", message, at)
        assert step == 1
        rgb = message[at + 24 : at + 24 + columns * rows * 3]
        key = str(UUID(bytes=matrix))
        if key in names:  # what a line is over may be a group
            found[names[key]] = (columns, rows, list(zip(*[iter(rgb)] * 3, strict=True)))
        at += 24 + columns * rows * 3
    return show_ns / 1e9, found


def lamps(address: str) -> Any:
    with urllib.request.urlopen(f"http://{address}/lamps.json", timeout=20) as answer:
        return json.load(answer)


def colours(node: Any, x: int, y: int, width: int, height: int, apart: int = 1) -> list[tuple[int, ...]]:
    """A part of what hangs at a node, row by row; `apart` squares between its lamps."""
    rgb, across = node["rgb"], node["width"]
    return [
        tuple(rgb[((y + row) * across + x + column * apart) * 3 :][:3])
        for row in range(height)
        for column in range(width)
    ]


def test_both_nodes_show_what_the_program_says_it_sent(own_app: Callable[..., RunningApp]) -> None:
    app = own_app("127.0.66.1", "--demo", "--node-address", "127.0.66.12", "--node-page-port", "7666")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["running"], 20, "the demo does not run")
    for command in ({"do": "hold_time"}, {"do": "set_time", "seconds": 9.7}):
        app.engine().ask(command)

    lasers: list[list[tuple[int, ...]]] = []

    def same() -> bool:
        shown_s, shown = pictures(app)
        pier, quay = lamps("127.0.66.12:7666"), lamps("127.0.66.13:7667")
        gallery = lamps("127.0.66.14:7668")
        rings = [one for n in range(4) for one in colours(gallery, 13 * n, 0, 12, 1)]
        lasers.append(colours(gallery, 0, 2, 8, 1, apart=4) + colours(gallery, 0, 4, 3, 1, apart=10))
        pairs = [
            (shown["Tower"][2], colours(pier, 0, 0, 18, 50)),
            (shown["Breakwater"][2], colours(quay, 0, 0, 70, 2)),
            (shown["Windows"][2], colours(quay, 0, 4, 6, 4)),
            (shown["Net drops"][2], colours(quay, 20, 5, 12, 1, apart=3)),
            (shown["Signal rings"][2], rings),
        ]
        lit = all(any(map(any, there)) for _, there in pairs)
        apart = max(
            abs(a - b)
            for here, there in pairs
            for p, q in zip(here, there, strict=True)
            for a, b in zip(p, q, strict=True)
        )
        return lit and apart <= 1 and abs(shown_s - 9.7) < 0.001

    wait_for(same, 15, "the lamps of a node are not what the program shows")
    assert not any(any(map(any, seen)) for seen in lasers)  # painted by the look, and safe: nobody armed them
    app.engine().ask({"do": "arm", "fixtures": [key("ray bar 0")], "lease": "0" * 16})
    wait_for(lambda: same() and any(map(any, lasers[-1][:8])), 15, "the armed laser bar stays dark")
    assert not any(map(any, lasers[-1][8:]))


def test_the_hang_lists_agree_with_the_demo_table() -> None:
    """Tower on U1 to U6 by sACN; Breakwater, Cottage windows and Net drops on U7 and U8 by Art-Net."""
    tower, quay, gallery = (json.loads(Path(path).read_text()) for path in HANG_LISTS)
    assert tower["listens"] == [f"sacn {n}" for n in range(1, 7)]
    assert sum(run["count"] for run in tower["lamps"]) == 900
    assert quay["listens"] == ["artnet 6", "artnet 7"]  # Port-Address = universe - 1
    bars = [run for run in quay["lamps"] if run["order"] == "RGBW"]
    assert [len([b for b in bars if b["universe"] == f"artnet {n}"]) for n in (6, 7)] == [11, 3]
    assert [run["channel"] for run in quay["lamps"] if run["order"] == "RGBK"] == list(range(161, 257, 4))
    assert [(run["channel"], run["count"]) for run in quay["lamps"] if run["order"] == "W"] == [(301, 12)]

    rings = [run for run in gallery["lamps"] if run["universe"] == "sacn 10"]
    assert [(run["channel"], run["count"]) for run in rings] == [(n, 12) for n in (1, 49, 97, 145)]
    assert [run["dimmer"] for run in rings] == [5, 36, 67, 98]  # of the heads' bases: 31 channels each on U9
    assert [run["channel"] for run in gallery["lamps"] if run["universe"] == "artnet 10"] == [105, 18, 38, 58]


def test_ids_of_the_demo_are_the_same_after_every_start() -> None:
    assert key("Tower") == key("Tower") != key("Breakwater")
