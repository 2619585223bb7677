"""What every route needs: clients of the other processes, the publisher, the newest sent frame."""

from __future__ import annotations

import time
from typing import Any

import msgspec

from heliograph.api.incoming_feeds import said_of
from heliograph.api.preview import Pictures, plan_pictures
from heliograph.api.publisher import Published, Publisher
from heliograph.api.saved_files import SavedFiles
from heliograph.api.sessions import Sessions
from heliograph.api.settings import Settings
from heliograph.api.shown import ShownShow
from heliograph.api.walking import WalkKeeper
from heliograph.core.errors import HeliographError
from heliograph.ipc.control import ControlClient, ControlClients
from heliograph.ipc.frames import FrameReader
from heliograph.ipc.incoming import IncomingReader
from heliograph.ipc.messages.base import A_co, Answer, Request
from heliograph.ipc.messages.engine import (
    AskStatus,
    AskValues,
    Command,
    EngineStatus,
    LightWalk,
    Renew,
    StateAnswer,
    ValuesTold,
    is_urgent,
)
from heliograph.ipc.messages.inputs import AskClock, ClockTold
from heliograph.ipc.messages.media import AskMedia, MediaStatus
from heliograph.ipc.messages.receiver import AskReceiver, ReceiverStatus
from heliograph.ipc.places import fast_folder
from heliograph.network.cards import Card, list_cards
from heliograph.store.database import database_answers

STATUS = ("engine", "media", "receiver")
"""Processes whose status screens show."""


ENGINE_FRESH_S = 0.2

ENGINE_CONNECTIONS = 12
"""So many commands and questions may wait for the engine's next frame at once."""

URGENT_CONNECTIONS = 4
"""Of their own, for what makes dark and safe."""


class Context:
    def __init__(self, settings: Settings) -> None:
        self.settings = settings
        self.saved = SavedFiles(settings.data / "saving")
        self.sessions = Sessions(settings.data / "access" / "sessions.json")
        self.engine = ControlClients(settings.socket("engine"), "engine", ENGINE_CONNECTIONS)
        self._urgent = ControlClients(settings.socket("engine"), "engine", URGENT_CONNECTIONS)
        self.receiver = ControlClient(settings.socket("receiver"), "receiver", timeout_s=1.0)
        self.media = ControlClient(settings.socket("media"), "media process", timeout_s=120.0)
        self._status_engine = ControlClient(settings.socket("engine"), "engine", timeout_s=1.0)
        self._status_media = ControlClient(settings.socket("media"), "media process", timeout_s=1.0)
        self.frames = FrameReader(fast_folder(settings.data) / "sent.frames")
        self.incoming = IncomingReader(fast_folder(settings.data) / "incoming.frames")
        self.pictures: Pictures | None = None
        publisher_media = ControlClient(settings.socket("media"), "media process", timeout_s=2.0)
        publisher_engine = ControlClient(settings.socket("engine"), "engine", timeout_s=20.0)
        publisher_preview = ControlClient(settings.socket("preview"), "preview", timeout_s=20.0)
        publisher_receiver = ControlClient(settings.socket("receiver"), "receiver", timeout_s=2.0)
        publisher_inputs = ControlClient(settings.socket("inputs"), "inputs process", timeout_s=2.0)
        self._inputs = ControlClient(settings.socket("inputs"), "inputs process", timeout_s=1.0)
        self.publisher = Publisher(
            publisher_engine,
            publisher_preview,
            publisher_media,
            publisher_receiver,
            publisher_inputs,
            self._adopt,
            settings.feed_hosts,
        )
        self.preview = ControlClient(settings.socket("preview"), "preview", timeout_s=3.0)
        self.shown = ShownShow()
        self._engine_now: EngineStatus | None = None
        self._engine_at = 0.0
        self.tell: Any = lambda _message, _but="": None
        self._walk_engine = ControlClient(settings.socket("engine"), "engine", timeout_s=3.0)
        self.walk = WalkKeeper(self._walk_engine, lambda: self.publisher.current, lambda message: self.tell(message))

    def _adopt(self, published: Published) -> None:
        self.pictures = plan_pictures(published.rig, published.sections)
        self.walk.fit()
        self.tell({"type": "revision", "revision": published.show["revision"], "show": published.show["id"]})

    def begin(self) -> None:
        """Ends a test walk that an earlier web process left on the lamps: nobody else could end it."""
        _quiet(self._walk_engine, LightWalk())

    def changed(self) -> None:
        """To be called after every edit."""
        self.publisher.changed()

    def cards(self) -> list[Card]:
        return list_cards(self.settings.cards)

    def live_status(self) -> dict[str, Any]:
        """What the live strip shows besides pictures; a part that does not answer is None."""
        parts = {name: self.status_of(name) for name in STATUS}
        return {**parts, "revision": self.publisher.current.show.get("revision")}

    def engine_status(self) -> EngineStatus | None:
        return _quiet(self._status_engine, AskStatus())

    def newest_engine(self) -> EngineStatus | None:
        """As `engine_status`, for those who look ten times a second: asked at most four times a second."""
        now = time.monotonic()
        if now - self._engine_at > ENGINE_FRESH_S:
            self._engine_now, self._engine_at = self.engine_status(), now
        return self._engine_now

    def ask_values(self, handles: list[str]) -> ValuesTold:
        return self._status_engine.ask(AskValues(handles=handles))

    def receiver_status(self) -> ReceiverStatus | None:
        return _quiet(self.receiver, AskReceiver())

    def clock_told(self) -> ClockTold | None:
        return _quiet(self._inputs, AskClock())

    def media_status(self) -> MediaStatus | None:
        status = _quiet(self._status_media, AskMedia())
        if status is None:
            return None
        incoming = said_of(self.publisher.current.shown_universes, self.incoming)
        return msgspec.structs.replace(status, feeds=[*status.feeds, *incoming]) if incoming else status

    def status_of(self, process: str) -> Answer | None:
        """What one process says of itself; None where it does not answer in a second."""
        asks = {"engine": self.engine_status, "media": self.media_status, "receiver": self.receiver_status}
        return asks[process]()

    def command(self, request: Command) -> StateAnswer:
        """Acts on the next frame. A lease is renewed only while the database answers too: without it nobody could
        change what the lasers do."""
        if isinstance(request, Renew):
            database_answers()
        return (self._urgent if is_urgent(request) else self.engine).ask(request)


def _quiet(client: ControlClient, request: Request[A_co]) -> A_co | None:
    try:
        return client.ask(request)
    except HeliographError:
        return None
