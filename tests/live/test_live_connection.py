"""The live connection: previews for who asks for them, and nothing held by a browser that is gone."""

from __future__ import annotations

import asyncio
import contextlib
import json
import struct
from typing import Any
from uuid import UUID, uuid4

import pytest
import websockets

from heliograph.api.live import _going_on
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import goes_on, light_wall, running
from tests.moves import line_moved, off, on


def ask(app: RunningApp, messages: list[dict[str, Any]], until: Any, seconds: float = 6.0) -> Any:
    """Sends messages and returns the first answer that `until` finds good; then hangs up."""

    async def talk() -> Any:
        async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", close_timeout=0.5) as live:
            for message in messages:
                await live.send(json.dumps(message))
            async with asyncio.timeout(seconds):
                while True:
                    found = until(await live.recv())
                    if found is not None:
                        return found

    return asyncio.run(talk())


def previews(message: Any) -> dict[tuple[int, str], tuple[int, int, bytes]] | None:
    """(kind, id) -> (state, difference, rgb) of a preview message."""
    if not isinstance(message, bytes) or message[0] != 3:
        return None
    at, found = 24, {}
    for _ in range(struct.unpack_from("<H", message, 2)[0]):
        key, columns, rows, _, kind, state, difference, _ = struct.unpack_from("<16sHHHBBhH", message, at)
        size = columns * rows * 3
        found[(kind, str(UUID(bytes=key)))] = (state, difference, message[at + 28 : at + 28 + size])
        at += 28 + size
    return found


def test_previews_come_from_the_same_code_and_know_the_frame(app: RunningApp) -> None:
    ids = light_wall(app, "127.0.65.2", [[0, 200, 100, 40]])
    watch = {"type": "watch", "look": ids["look"], "looks": [ids["look"]]}

    def compared(message: Any) -> Any:
        found = previews(message)
        return found if found and found.get((4, ids["matrix"]), (0, -1, b""))[1] == 0 else None

    found = ask(app, [watch], compared)
    whole = bytes([200, 100, 40]) * 18
    for kind, key in ((1, ids["line"]), (2, ids["look"]), (3, ids["matrix"]), (4, ids["matrix"])):
        assert found[(kind, key)][0] == 0  # part of what is sent
        assert found[(kind, key)][2] == whole
    app.engine().ask(off(ids["look"]))
    alone = ask(app, [watch], lambda m: ((p := previews(m)) and p[(3, ids["matrix"])][0] == 1 and p) or None)
    assert alone[(3, ids["matrix"])][2] == whole  # off: shown as if it were on, and said so


def test_what_is_held_of_a_line_moves_the_preview_too_until_the_page_is_gone(app: RunningApp) -> None:
    ids = light_wall(app, "127.0.65.3", [[0, 200, 100, 40]])
    watch = {"type": "watch", "look": ids["look"], "looks": []}
    move = {"type": "command", "command": line_moved(ids["look"], ids["line"], opacity=0.5)}

    def moved(message: Any) -> Any:
        found = previews(message)
        return found if found and found[(4, ids["matrix"])][2][:3] == bytes([100, 50, 20]) else None

    assert ask(app, [watch, move], moved)
    wait_for(lambda: running(app)["state"]["held_lines"] == [], 5, "it stayed under the hand of a page that is gone")


@pytest.mark.parametrize("command", [{"do": "highlight", "fixtures": ["f"]}])
def test_what_a_browser_held_is_let_go_when_it_disappears(app: RunningApp, command: dict[str, Any]) -> None:
    light_wall(app, "127.0.65.4", [[0, 1, 2, 3]])
    fixture = app.api().call("GET", "/api/show")["fixtures"][0]["id"]
    held = {"type": "command", "command": {**command, "fixtures": [fixture]}}
    state = ask(app, [held], lambda _m: running(app)["state"]["highlight"] or None)
    assert state == [fixture]
    wait_for(lambda: running(app)["state"]["highlight"] == [], 5, "it stayed lit up")


def test_a_bad_message_is_answered_or_ends_only_its_own_connection(app: RunningApp) -> None:
    light_wall(app, "127.0.65.5", [[0, 1, 2, 3]])
    bad = {"type": "command", "command": on(str(uuid4()))}

    def fault(message: Any) -> Any:
        told = json.loads(message) if isinstance(message, str) else {}
        return told if told.get("type") == "error" else None

    told = ask(app, [bad], fault)
    assert told["what"] == "That look is not in the running show."
    goes_on(app)


@pytest.mark.parametrize(
    "rubbish", ["[1, 2]", "7", "{", '{"type": "watch", "levels": 5}', '{"type": "command", "command": 3}']
)
def test_a_message_that_is_none_ends_its_own_connection_and_no_other(app: RunningApp, rubbish: str) -> None:
    async def talk() -> None:
        address = f"ws://127.0.0.1:{app.port}/api/live"
        async with (
            websockets.connect(address, close_timeout=0.5) as good,
            websockets.connect(address, close_timeout=0.5) as bad,
        ):
            await bad.send(rubbish)
            async with asyncio.timeout(6):
                with contextlib.suppress(websockets.ConnectionClosed):
                    async for _ in bad:
                        pass
                assert (bad.close_code, bad.close_reason) == (1003, "This message is none of Heliograph's.")
                while not isinstance(await good.recv(), str):
                    pass

    said = len(trouble(app))
    asyncio.run(talk())
    assert len(trouble(app)) == said


def trouble(app: RunningApp) -> list[str]:
    """Tracebacks the web process has written down."""
    return [
        line for log in (app.data / "log").glob("web*") for line in log.read_text().splitlines() if "Traceback" in line
    ]


def test_a_fault_in_one_part_of_the_live_connection_is_not_the_end_of_the_others() -> None:
    """A picture that could not be read ended everything that goes to pages, until somebody started it anew."""
    turns: list[int] = []

    async def fails_at_first() -> None:
        turns.append(len(turns))
        if len(turns) == 1:
            raise ValueError("a picture of ours")
        await asyncio.sleep(60)

    async def run() -> None:
        going = asyncio.create_task(_going_on(fails_at_first))
        async with asyncio.timeout(5):
            while len(turns) < 2:
                await asyncio.sleep(0.05)
        going.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await going

    asyncio.run(run())
    assert turns == [0, 1]
