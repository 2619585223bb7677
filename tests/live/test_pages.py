"""Pages over the live connection: touches on the wire, the true state to everybody, and how every finger ends: lifted,
asleep, gone, the engine killed under it."""

from __future__ import annotations

import asyncio
import contextlib
import json
import urllib.error
import urllib.request
from collections.abc import AsyncIterator, Callable
from types import SimpleNamespace
from typing import Any
from uuid import uuid4

import pytest
import websockets

from heliograph.api.routes.pages import address_of_page
from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, at_rest, saved_show, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import level_of, off, on

MakeNode = Callable[..., Node]
LIT = [10, 120, 240]


class Quay:
    """A wall with a look that is off, and a page."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        self.ids = light_wall(app, "127.0.66.71", [[0, *LIT]])
        app.engine().ask(off(self.ids["look"]))
        self.page = str(uuid4())
        self.api.call("POST", "/api/pages", {"id": self.page, "name": "Quay"})

    def item(self, kind: str, *handles: str, **fields: Any) -> str:
        key = str(uuid4())
        body = {"id": key, "kind": kind, "handles": list(handles), **fields}
        self.api.call("POST", f"/api/pages/{self.page}/items", body)
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: self.app.engine().ask({"do": "status"})["revision"] >= revision, 8, "the show does not arrive")
        return key

    def pad(self, touch: Any = None, lift: Any = None) -> str:
        halves = {"touch": touch or {"do": "on"}, "lift": lift or {"do": "off"}}
        return self.item("pad", f"look/{self.ids['look']}/on", **halves)

    @property
    def stored(self) -> dict[str, Any]:
        found: dict[str, Any] = self.api.call("GET", "/api/show")["pages"][0]
        return found

    @contextlib.asynccontextmanager
    async def tablet(self, name: str = "Teal") -> AsyncIterator[Tablet]:
        async with websockets.connect(
            f"ws://127.0.0.1:{self.app.port}/api/live", max_size=None, close_timeout=0.5
        ) as live:
            tablet = Tablet(live)
            await live.send(json.dumps({"type": "hello", "person": str(uuid4()), "name": name}))
            await tablet.says("open", page=self.page)
            yield tablet


class Tablet:
    def __init__(self, live: Any) -> None:
        self._live = live

    async def says(self, what: str, **rest: Any) -> None:
        await self._live.send(json.dumps({"type": "page", "what": what, **rest}))

    async def sees(self, item: str, wanted: Callable[[dict[str, Any]], bool], seconds: float = 10.0) -> dict[str, Any]:
        """What an item is told to be, once it is as wanted."""
        async with asyncio.timeout(seconds):
            while True:
                message = await self._next()
                if message["type"] == "page" and item in message.get("items", ()) and wanted(message["items"][item]):
                    return dict(message["items"][item])

    async def told(self, wanted: Callable[[dict[str, Any]], bool]) -> dict[str, Any]:
        """The next word of its page that is as wanted."""
        async with asyncio.timeout(10):
            while True:
                message = await self._next()
                if message["type"] == "page" and wanted(message):
                    return message

    async def _next(self) -> dict[str, Any]:
        """The next message that is no picture."""
        while True:
            raw = await self._live.recv()
            if isinstance(raw, str):
                found: dict[str, Any] = json.loads(raw)
                return found

    async def refused(self) -> str:
        async with asyncio.timeout(5):
            while True:
                message = await self._next()
                if message["type"] == "error":
                    return str(message["what"])


@pytest.fixture
def quay(app: RunningApp) -> Any:
    made = Quay(app)
    yield made
    at_rest(app)


@pytest.fixture
def receiver(node: MakeNode) -> Node:
    return node("127.0.66.71", wall_hang())


async def lit(receiver: Node, wanted: bool, why: str) -> None:
    await asyncio.to_thread(wait_for, lambda: any(receiver.picture()) == wanted, 6, why)


async def kept(tablet: Tablet, fingers: list[str], seconds: float) -> None:
    for _ in range(round(seconds / 0.3)):
        await tablet.says("keep", fingers=fingers)
        await asyncio.sleep(0.3)


def test_held_by_a_finger_and_lifted_seen_by_another_tablet(quay: Quay, receiver: Node) -> None:
    pad = quay.pad()

    async def evening() -> None:
        async with quay.tablet() as mine, quay.tablet("Petrel") as other:
            await mine.says("touch", item=pad, finger=1)
            await lit(receiver, True, "a touch lights nothing")
            seen = await mine.sees(pad, lambda one: one["held"] == "mine")
            assert (seen["on"], seen["said"]) == (True, "your finger")
            seen = await other.sees(pad, lambda one: one["held"] == "other")
            assert seen["said"] == "Teal holds"
            finger = (await mine.sees(pad, lambda one: bool(one["finger"])))["finger"]
            await kept(mine, [finger], 2.4)
            assert any(receiver.picture()), "a finger that is kept went by itself"
            await mine.says("lift", finger="1")
            await lit(receiver, False, "lifting does nothing")
            await other.sees(pad, lambda one: not one["on"] and not one["held"])

    asyncio.run(evening())


def test_each_is_told_who_else_is_here_and_how_far_away_it_is(quay: Quay) -> None:
    quay.pad()

    async def evening() -> None:
        async with quay.tablet() as mine, quay.tablet("Petrel") as other:
            await other.says("open", page=quay.page, beside=True)  # a desk that shows it beside other things
            seen = await other.told(lambda one: one.get("here") == ["Teal"] and one["open"] == 1)
            assert seen["page"] == quay.page
            await mine.told(lambda one: one.get("here") == ["Petrel"] and one["open"] == 0)
            await mine.says("echo", number=7)
            await mine.told(lambda one: one.get("echo") == 7)
        async with quay.tablet() as alone:
            await alone.told(lambda one: one.get("here") == [] and one["open"] == 0)

    asyncio.run(evening())


def test_a_tablet_that_falls_asleep_or_is_gone_lets_go(quay: Quay, receiver: Node) -> None:
    pad = quay.pad()

    async def evening() -> None:
        async with quay.tablet() as asleep:
            await asleep.says("touch", item=pad, finger=1)
            await lit(receiver, True, "a touch lights nothing")
            await lit(receiver, False, "nobody keeps the finger, and it holds")
        async with quay.tablet() as gone:
            await gone.says("touch", item=pad, finger=2)
            await lit(receiver, True, "a touch lights nothing")
        await lit(receiver, False, "the tablet is gone, and its finger holds")

    asyncio.run(evening())


def test_two_fingers_on_one_pad_and_a_third_hand_that_lets_go(quay: Quay, receiver: Node) -> None:
    pad = quay.pad()

    async def evening() -> None:
        async with quay.tablet() as one, quay.tablet("Petrel") as two:
            await one.says("touch", item=pad, finger=1)
            await two.says("touch", item=pad, finger=1)
            await lit(receiver, True, "a touch lights nothing")
            mine = (await two.sees(pad, lambda each: each["held"] == "mine"))["finger"]
            await one.says("lift", finger="1")
            await kept(two, [mine], 0.9)
            assert any(receiver.picture()), "the first who lifted took it from the other"
            async with quay.tablet("Skua") as three:
                await three.says("lift", finger=mine, others=True)
                await lit(receiver, False, "a third hand cannot let go")

    asyncio.run(evening())


def test_the_engine_killed_under_a_finger_still_lets_go(quay: Quay, receiver: Node) -> None:
    pad = quay.pad()

    async def evening() -> None:
        async with quay.tablet() as mine:
            await mine.says("touch", item=pad, finger=1)
            await lit(receiver, True, "a touch lights nothing")
            quay.app.kill("engine")
            await asyncio.sleep(0.5)
        await lit(receiver, False, "it is held for ever")

    asyncio.run(evening())
    wait_for(lambda: answers(quay.app), 15, "the engine is away")


def answers(app: RunningApp) -> bool:
    with contextlib.suppress(HeliographError):
        return bool(app.engine().ask({"do": "status"}))
    return False


def test_for_so_many_beats_whatever_the_finger_does(quay: Quay, receiver: Node) -> None:
    pad = quay.pad({"do": "beats", "beats": 4}, {"do": "nothing"})  # 2 s at 120 BPM

    async def evening() -> None:
        async with quay.tablet() as mine:
            await mine.says("touch", item=pad, finger=1)
            await mine.says("lift", finger="1")
            seen = await mine.sees(pad, lambda one: one["said"] == "running")
            assert seen["left"].endswith("beats left")
        await asyncio.sleep(0.8)
        assert any(receiver.picture()), "it ended with the finger"
        await lit(receiver, False, "its beats are over and it goes on")

    asyncio.run(evening())


def test_faders_and_crossfaders_are_on_the_wire(quay: Quay, receiver: Node) -> None:
    fader = quay.item("fader", "master")
    other = str(uuid4())
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": quay.ids["matrix"]}
    quay.api.call("POST", "/api/looks", {"id": other, "name": "Red", "lines": [{**line, "ramp": [[0, 200, 0, 0]]}]})
    quay.app.engine()
    wait_for(lambda: other in str(quay.app.engine().ask({"do": "handles", "words": "Red", "most": 9})), 8, "no handle")
    cross = quay.item("crossfader", f"look/{quay.ids['look']}/on", f"look/{other}/on")

    async def evening() -> None:
        async with quay.tablet() as mine:
            await mine.says("fade", item=cross, share=0.5)
            await mine.sees(cross, lambda one: one["sides"] == [0.5, 0.5])
            await mine.says("fade", item=cross, share=0.0)
            await asyncio.to_thread(wait_for, lambda: receiver.picture()[:3] == LIT, 6, "the first side is not full")
            await mine.says("fade", item=fader, share=0.5)
            await asyncio.to_thread(wait_for, lambda: receiver.picture()[:3] == [5, 60, 120], 6, "it does nothing")
            assert (await mine.sees(fader, lambda one: one["level"] == 0.5))["said"] == "50 %"
            await mine.says("touch", item=str(uuid4()), finger=1)
            assert "not on the page" in await mine.refused()

    asyncio.run(evening())


def test_what_runs_shows_on_its_pad_however_it_was_started(quay: Quay) -> None:
    pad = quay.pad({"do": "turn"}, {"do": "nothing"})

    async def evening() -> None:
        async with quay.tablet() as mine:
            await mine.sees(pad, lambda one: not one["on"])
            await asyncio.to_thread(quay.app.engine().ask, on(quay.ids["look"]))
            await mine.sees(pad, lambda one: one["on"] and one["level"] == 1.0)
            await asyncio.to_thread(quay.app.engine().ask, level_of(quay.ids["look"], 0.25))
            await mine.sees(pad, lambda one: one["level"] == 0.25)
            await mine.says("touch", item=pad, finger=1)
            await mine.sees(pad, lambda one: not one["on"])
            quay.api.call("DELETE", f"/api/looks/{quay.ids['look']}")
            assert (await mine.sees(pad, lambda one: one.get("gone", False)))["said"].endswith("is gone")

    asyncio.run(evening())


def test_pages_are_laid_out_and_what_does_not_fit_says_why(quay: Quay) -> None:
    first = quay.pad()
    with pytest.raises(HeliographError, match="would lie over"):
        quay.item("tap", x=1, y=1)
    quay.item("tap")
    places = [(one["x"], one["y"], one["words"]) for one in quay.stored["items"]]
    assert places == [(0, 0, "Dusk"), (3, 0, "")]
    quay.api.call("PATCH", f"/api/pages/{quay.page}/items/{first}", {"x": 6, "y": 4, "w": 4, "words": "Net drops"})
    assert quay.stored["items"][0]["w"] == 4
    with pytest.raises(HeliographError, match="There is no handle"):
        quay.item("pad", "look/nowhere/on")
    with pytest.raises(HeliographError, match="cannot be part of an address"):
        quay.api.call("PATCH", f"/api/pages/{quay.page}", {"slug": "The Quay"})
    quay.api.call("PATCH", f"/api/pages/{quay.page}", {"slug": "lamp-room", "name": "Lamp room"})
    quay.api.call("POST", "/api/undo")
    assert quay.stored["slug"] == "quay"
    quay.api.call("POST", f"/api/pages/{quay.page}/copy", {"id": str(uuid4())})
    page, copied = quay.api.call("GET", "/api/show")["pages"]
    assert [one["words"] for one in copied["items"]] == [one["words"] for one in page["items"]]
    assert not {one["id"] for one in copied["items"]} & {one["id"] for one in page["items"]}
    quay.api.call("POST", f"/api/pages/{quay.page}/items/delete", {"items": [first]})
    assert len(quay.stored["items"]) == 1


def test_a_page_goes_with_the_show_file_and_moves_the_new_look(quay: Quay) -> None:
    quay.pad()
    path = quay.app.data / "page.zip"
    with saved_show(quay.app) as answer:
        path.write_bytes(answer.read())
    key = str(uuid4())
    quay.api.upload("/api/shows/file", key, "page.zip", path)
    quay.api.call("POST", f"/api/shows/{key}/open")
    [item] = quay.stored["items"]
    [look] = [one["id"] for one in quay.api.call("GET", "/api/show")["looks"]]
    assert item["handles"][0]["handle"] == f"look/{look}/on"
    assert look != quay.ids["look"]


def test_a_page_can_be_scanned_and_installed(quay: Quay) -> None:
    def fetched(path: str) -> tuple[str, bytes]:
        with urllib.request.urlopen(f"{quay.app.address}{path}", timeout=10) as answer:
            return str(answer.headers["content-type"]), answer.read()

    kind, raw = fetched("/api/pages/at/quay/manifest.webmanifest")
    made = json.loads(raw)
    assert kind == "application/manifest+json"
    assert (made["start_url"], made["display"], made["short_name"]) == ("/page/quay", "fullscreen", "Quay")
    kind, raw = fetched(f"/api/pages/{quay.page}/qr")
    assert kind == "image/svg+xml"
    assert b"<svg" in raw
    with pytest.raises(urllib.error.HTTPError, match="404"):
        fetched("/api/pages/at/gallery/manifest.webmanifest")
    context: Any = SimpleNamespace(
        settings=SimpleNamespace(host="192.0.2.7", port=7650, tls=False, asks_pass=True),
        sessions=SimpleNamespace(codes={"run": "lamp-3141"}),
    )
    assert address_of_page(context, "quay") == "http://192.0.2.7:7650/page/quay#lamp-3141"
