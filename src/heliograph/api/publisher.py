"""Keeps the engine and the media process in step with the stored show.

A thread: after every edit, and twice a second in case a process was restarted, it compares manifests
and sends what is missing. While the database is away it goes on with the last show it read.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import structlog

from heliograph.api.canvases import canvases
from heliograph.api.choosing import with_members
from heliograph.api.incoming_feeds import read_as_pictures
from heliograph.api.leaving import Leaving
from heliograph.api.sections import all_sections, clock_section
from heliograph.core.errors import HeliographError
from heliograph.core.look.feeds import universes_from
from heliograph.core.matrix.fitting import fitting_from_json, frames_name
from heliograph.core.rig.arrays import Rig, build_rig
from heliograph.edits.own_looks import own_looks
from heliograph.ipc.control import ControlClient
from heliograph.ipc.incoming import Key
from heliograph.ipc.messages.engine import AskClips, AskStatus, ClipAsked
from heliograph.ipc.messages.media import WantClips, WantedClip, WantedFeed
from heliograph.ipc.messages.receiver import Listen
from heliograph.ipc.messages.show import Adopt, HandSections, OfferManifest
from heliograph.ipc.sections import Section, content_hash
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

LOOK_S = 0.5

SETTLE_S = 0.12
"""After an edit the browser that made it reads the show first: compiling 2,000 fixtures meanwhile kept it waiting for
0.4 s (bench/rig.py). What has to act at once, commands, does not come this way."""


@dataclass(frozen=True, slots=True)
class Published:
    """The show as last read: its revision, sections by key, and the rig built from them."""

    show: dict[str, Any] = field(default_factory=dict)
    sections: dict[str, Section] = field(default_factory=dict)
    hashes: dict[str, str] = field(default_factory=dict)
    rig: Rig = field(default_factory=lambda: build_rig({"modes": {}, "fixtures": []}))
    shown_universes: dict[str, list[Key]] = field(default_factory=dict)
    """Incoming universes that lines show as pictures, by the lines' address."""
    clock: Section | None = None
    """What the inputs process gets; None of a show without a clock."""
    pages: tuple[Record, ...] = ()
    """As they are stored: what a touch moves is worked out here."""


class Publisher:
    def __init__(
        self,
        engine: ControlClient,
        preview: ControlClient,
        media: ControlClient,
        receiver: ControlClient,
        inputs: ControlClient,
        on_change: Callable[[Published], None],
        feed_hosts: Sequence[str] = (),
    ) -> None:
        self._feed_hosts = feed_hosts
        self._engine, self._preview, self._media, self._on_change = engine, preview, media, on_change
        self._receiver, self._inputs = receiver, inputs
        self._wake = threading.Event()
        self._stop = threading.Event()
        self._dirty = True
        self._edits = 0
        self._handed_edits = 0
        self._handed = threading.Condition()
        self._log = structlog.get_logger("web")
        self._failing: dict[str, str] = {}
        self._leaving = Leaving()
        self.current = Published()

    def start(self) -> None:
        threading.Thread(target=self._run, name="publisher", daemon=True).start()

    def stop(self) -> None:
        self._stop.set()
        self._wake.set()

    def changed(self) -> None:
        """The stored show has a new revision."""
        with self._handed:
            self._edits += 1
        self._dirty = True
        self._wake.set()

    def wait_handed(self, seconds: float) -> bool:
        """Waits until the engine plays every edit made before this call; False where it does not within `seconds`."""
        with self._handed:
            wanted = self._edits
            return self._handed.wait_for(lambda: self._handed_edits >= wanted, seconds)

    def _run(self) -> None:
        while not self._stop.is_set():
            if self._wake.wait(LOOK_S):
                self._stop.wait(SETTLE_S)
            self._wake.clear()
            with self._handed:
                edits = self._edits
            # Each by itself: a process that is away must not keep the show from the others.
            others = (self._to_media, self._to_preview, self._to_inputs, self._to_receiver)
            for task in (self._read, self._to_engine, *others):
                try:
                    task()
                    if task == self._to_engine and not self._dirty:
                        self._told(edits)
                    self._failing.pop(task.__name__, None)
                except HeliographError as error:
                    self._note(task.__name__, str(error))
                except Exception:
                    self._log.exception("publishing the show failed")

    def _told(self, edits: int) -> None:
        with self._handed:
            self._handed_edits = edits
            self._handed.notify_all()

    def _note(self, task: str, text: str) -> None:
        if text != self._failing.get(task):
            self._failing[task] = text
            self._log.warning(text)

    def _read(self) -> None:
        if not self._dirty:
            return
        self._dirty = False
        try:
            with connected():
                show = rows.running_show()
                tables = rows.whole_show(show)
                tables["own_look"] = self._leaving(show["id"], own_looks(tables))
                sections = all_sections({**tables, "group": with_members(tables), "canvas": canvases(tables)})
                clock = clock_section(tables, rows.saved_s(show["id"]))
            hashes = {key: content_hash(section) for key, section in sections.items()}
            same_rig = hashes.get("rig") == self.current.hashes.get("rig")
            rig = self.current.rig if same_rig else build_rig(sections["rig"])
            pictures = read_as_pictures(sections, rig)
            self.current = Published(show, sections, hashes, rig, pictures, clock, tuple(tables.get("page", ())))
            self._on_change(self.current)
        except BaseException:
            self._dirty = True  # what could not be published is published again
            raise

    def _to_engine(self) -> None:
        _hand_over(self._engine, self.current)

    def _to_preview(self) -> None:
        _hand_over(self._preview, self.current)

    def _to_inputs(self) -> None:
        """The clock alone: it starts things by itself, and keeps nothing else of the show."""
        sections = {} if self.current.clock is None else {"clock": self.current.clock}
        hashes = {key: content_hash(section) for key, section in sections.items()}
        _hand_over(self._inputs, replace(self.current, sections=sections, hashes=hashes))

    def _to_receiver(self) -> None:
        """Tells the receiver whose groups it has to join to hear who else sends our universes."""
        outputs = self.current.sections.get("outputs", {"outputs": []})["outputs"]
        sacn = [
            number
            for one in outputs
            if one["on"] and one["protocol"] == "sacn" and one["mode"] == "multicast"
            for number in range(one["first_number"], one["first_number"] + one["count"])
        ]
        shown = {key for keys in self.current.shown_universes.values() for key in keys}
        sacn += sorted(number for protocol, number in shown if protocol == "sacn")
        cid = self._engine.ask(AskStatus()).cid
        self._receiver.ask(Listen(cid=cid, sacn=sacn))

    def _asked(self) -> dict[str, ClipAsked]:
        """What the engine paints of clips that are not all there, by their frames' file; nothing where it is away."""
        try:
            return {one.file: one for one in self._engine.ask(AskClips()).clips}
        except HeliographError:
            return {}

    def _to_media(self) -> None:
        """Tells the media process which clips are needed at which size."""
        now = self.current
        if not now.show:
            return
        wanted: list[WantedClip] = []
        feeds = []
        asked = self._asked()
        clip_files = {
            f"clip:{one.get('number')}": f"{one['content']}{one['suffix']}"
            for key, one in now.sections.items()
            if key.startswith("clip:")
        }
        for key, look in now.sections.items():
            if not key.startswith("look:"):
                continue
            for line in look["lines"]:
                clip = now.sections.get(f"clip:{line.get('clip')}")
                matrix = now.sections.get(f"matrix:{line['matrix']}")
                if line["paints"] == "clip" and clip and matrix:
                    fitting = line.get("fitting") or {}
                    shape = (matrix["width"], matrix["height"])
                    name = frames_name(clip["content"], *shape, fitting_from_json(fitting).shape)
                    at = asked.pop(name).asked_ns if name in asked else None
                    wanted.append(WantedClip(clip["content"], clip["suffix"], *shape, fitting, at))
                if line["paints"] == "feed" and matrix and universes_from(line["address"]) is None:
                    lies = (matrix["width"], matrix["height"], line.get("fitting") or {})
                    feeds.append(WantedFeed(line["address"], *lies, clip_files.get(line["address"], "")))
        wanted += [
            WantedClip(one.content, one.suffix, one.width, one.height, one.fitting, one.asked_ns)
            for one in asked.values()
            if one.content
        ]
        self._media.ask(WantClips(clips=wanted, feeds=feeds, hosts=list(self._feed_hosts)))


def _hand_over(client: ControlClient, now: Published) -> None:
    """Sends the sections a process has not got, and lets it adopt the show."""
    if not now.show:
        return
    answer = client.ask(OfferManifest(manifest=now.hashes))
    if (answer.manifest, answer.revision, answer.show) == (now.hashes, now.show["revision"], now.show["id"]):
        return
    missing = set(answer.missing)
    sections = [now.sections[key] for key, value in now.hashes.items() if value in missing]
    client.ask(HandSections(sections=sections))
    client.ask(Adopt(manifest=now.hashes, revision=now.show["revision"], show=now.show["id"]))
