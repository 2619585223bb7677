"""Pages on the live connection: touches in, the true state of every item out.

A finger that is down is kept three times a second by whoever has the page open. Where nobody keeps it any more, the
engine lifts it after a second: a tablet that fell asleep holds nothing.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Awaitable, Callable, Iterable
from typing import TYPE_CHECKING, Any

from heliograph.api.context import Context
from heliograph.api.live_outbox import as_text
from heliograph.api.page_state import addresses_of, states_of
from heliograph.core.errors import AccessError, HeliographError, NotFoundError
from heliograph.core.pages import Moved, faded, touched
from heliograph.core.roles import may, refusal
from heliograph.ipc.messages import engine as to_engine
from heliograph.store.rows import Record

if TYPE_CHECKING:
    from heliograph.api.live import Browser

FINGERS_OF_ONE = 20

HERE_MOST = 12
"""Names that are told; more would not fit a line."""

Do = Callable[["Browser", to_engine.Command], Awaitable[None]]
InThread = Callable[..., Awaitable[Any]]


class LivePages:
    def __init__(self, context: Context, do: Do, in_thread: InThread) -> None:
        self._context, self._do, self._in_thread = context, do, in_thread

    async def take(self, browser: Browser, message: dict[str, Any]) -> None:
        """`what`: open, touch, keep, lift, fade, or echo, which is answered at once with its `number`."""
        try:
            match message["what"]:
                case "open":
                    browser.page = str(message.get("page", ""))[:36]
                    browser.beside = bool(message.get("beside", False))
                case "echo":
                    if not isinstance(number := message["number"], int):
                        raise ValueError(number)
                    browser.outbox.tell(as_text({"type": "page", "echo": number}))
                case "keep":
                    named = (_whole(browser, str(one)) for one in message["fingers"])
                    kept = [one for one in named if one in browser.fingers]
                    if kept:
                        await self._do(browser, to_engine.KeepFingers(fingers=kept))
                case "lift":
                    await self._lift(browser, str(message["finger"]), bool(message.get("others", False)))
                case "touch":
                    await self._touch(browser, message)
                case "fade":
                    await self._fade(browser, message)
                case what:
                    raise ValueError(what)
        except HeliographError as error:
            told = {"type": "error", "what": error.what, "where": error.where, "repair": error.repair}
            browser.outbox.tell(as_text(told))

    async def _touch(self, browser: Browser, message: dict[str, Any]) -> None:
        item = self._item(browser, str(message["item"]))
        finger = f"{browser.hand}/{int(message['finger'])}"
        if len(browser.fingers) >= FINGERS_OF_ONE:
            await self._lift(browser, browser.fingers.pop())
        values: dict[str, Any] = {}
        if item["touch"]["do"] == "turn" and any(one["kind"] != "switch" for one in item["handles"]):
            asked = to_engine.AskValues(handles=addresses_of([item]))
            told = await self._in_thread(self._context.engine.ask, asked)
            values = {one.handle: one.value for one in told.values}
        now, lift, beats = touched(item, str(message.get("part", "")), values)
        if beats:  # it counts by itself, one for all who touch it
            finger = f"{item['id']}/beats"
        else:
            browser.fingers.add(finger)
        await self._do(
            browser,
            to_engine.Touch(
                finger=finger,
                item=item["id"],
                moves=_moves(now),
                lift=_moves(lift),
                beats=beats,
                held=bool(lift) or item["kind"] != "pad",
                who=browser.name,
                by=browser.hand,
                role=browser.role,
            ),
        )

    async def _lift(self, browser: Browser, finger: str, others: bool = False) -> None:
        """One's own; and, where somebody says so, another's: anybody may let go what a hand holds."""
        own = _whole(browser, finger)
        if own in browser.fingers or others:
            browser.fingers.discard(own)
            await self._do(browser, to_engine.Lift(finger=own, at_once=others))

    async def _fade(self, browser: Browser, message: dict[str, Any]) -> None:
        item = self._item(browser, str(message["item"]))
        on: dict[str, bool] = {}
        if item["kind"] == "crossfader":
            asked = to_engine.AskValues(handles=addresses_of([item]))
            told = await self._in_thread(self._context.engine.ask, asked)
            on = {one.handle.split("/")[1]: bool(one.value) for one in told.values if one.handle.endswith("/on")}
        moves = _moves(faded(item, float(message["share"]), on))
        if moves:
            await self._do(browser, to_engine.MoveHandles(moves=moves, by=browser.hand, role=browser.role))

    def _item(self, browser: Browser, key: str) -> Record:
        if not may(browser.role, "run"):
            raise AccessError(refusal(browser.role, "run"), where="access")
        for page in self._context.publisher.current.pages:
            for item in page["items"]:
                if item["id"] == key:
                    return dict(item)
        raise NotFoundError("That item is not on the page any more.", where="item")

    def states(self, browsers: Iterable[Browser], everybody: Iterable[Browser]) -> list[tuple[Browser, str]]:
        """What each of them is told of its page; `here`: the names of all others who have anything open; `open`: on
        how many others this page is all there is."""
        names, tablets = {}, Counter[str]()
        for one in everybody:
            names[one.key or one.hand] = one.name
            tablets[one.page] += not one.beside
        current = self._context.publisher.current
        pages = {page["id"]: page for page in current.pages}
        lists = {section["id"]: section for key, section in current.sections.items() if key.startswith("list:")}
        told: dict[str, to_engine.ValuesTold] = {}
        status = self._context.newest_engine()
        state = status.state if status is not None else None
        found = []
        for browser in browsers:
            page = pages.get(browser.page)
            if page is None:
                found.append((browser, as_text({"type": "page", "page": browser.page, "gone": True})))
                continue
            try:
                if page["id"] not in told:
                    told[page["id"]] = self._context.ask_values(addresses_of(page["items"]))
            except HeliographError:
                continue
            now = told[page["id"]]
            items = states_of(page["items"], now, state, lists, browser.hand)
            here = sorted(name for key, name in names.items() if key != (browser.key or browser.hand))[:HERE_MOST]
            others = tablets[page["id"]] - (not browser.beside)
            facts = {"items": items, "beat": now.beat, "bpm": now.bpm, "here": here, "open": others}
            found.append((browser, as_text({"type": "page", "page": page["id"], **facts})))
        return found


def _whole(browser: Browser, finger: str) -> str:
    """A finger by its name, or by the number that a page has for its own."""
    return finger if "/" in finger else f"{browser.hand}/{finger}"


def _moves(moved: Iterable[Moved]) -> list[to_engine.OneMove]:
    return [to_engine.OneMove(one.handle, one.value) for one in moved]
