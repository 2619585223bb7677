"""Keeps the show that other processes hand over: its sections, and it compiled.

The engine and the preview process each have one; both get the same messages. Runs in control threads.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

import structlog

from heliograph.core.errors import HeliographError, InputError, InternalError
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.engine import ClipAsked
from heliograph.ipc.messages.show import Adopt, Adopted, HandSections, Missing, OfferManifest, ShowRequest
from heliograph.ipc.sections import SectionStore
from heliograph.render.chases import ChaseFrames
from heliograph.render.clips import ClipFrames
from heliograph.render.compiled import CompiledShow, compile_show, empty_show
from heliograph.render.incoming import IncomingFrames
from heliograph.render.live import LiveFrames
from heliograph.render.renderer import Renderer

TRIED_LOOKS = 64
"""New looks that are tried before a show is taken; further ones are met by the frame loop's own caution."""

ALWAYS_ANEW = (LiveFrames, IncomingFrames)
"""Pictures whose file another one may replace at any time."""

TakeShow = Callable[[CompiledShow, CompiledShow, bool], None]

log = structlog.get_logger("engine")


class ShowKeeper:
    """`adopt(new, last, switched)` is called with every newly compiled show; `switched`: it is another one."""

    def __init__(self, store: SectionStore, frames: Path, adopt: TakeShow) -> None:
        self.store = store
        self.show: CompiledShow = empty_show()
        self._frames, self._adopt_show = frames, adopt
        self._lock = threading.Lock()
        self._refused: tuple[dict[str, str], HeliographError] | None = None
        self._told_full = False

    def load(self) -> bool:
        """Compiles the last show known on disk; False where there is none. `adopt` is not called."""
        with self._lock:
            if not self.store.load():
                return False
            self.show = compile_show(self.store.sections(self.store.manifest), self._frames)
        return True

    def answer(self, request: ShowRequest) -> Answer | None:
        """What handing over a show asks of its keeper."""
        match request:
            case OfferManifest():
                self._write_again()
                store = self.store
                return Missing(store.missing(request.manifest), store.manifest, store.revision, store.show_id)
            case HandSections():
                for section in request.sections:
                    self.store.add(section)
                return None
            case Adopt():
                return self._adopt(request)

    def _write_again(self) -> None:
        """A show that could not be written to disk (it was full) is written when there is room."""
        if self.store.is_kept:
            return
        with self._lock:
            try:
                self.store.keep()
            except OSError as error:
                if not self._told_full:
                    self._told_full = True
                    log.warning(
                        f"the show cannot be written to disk: {error.strerror}; it plays on from memory",
                        event_for_people=True,
                    )
                return
            if self._told_full:
                self._told_full = False
                log.info("the show is on disk again", event_for_people=True)

    def _adopt(self, request: Adopt) -> Adopted:
        """Compiles and tries the show first; only one that works becomes the current one."""
        manifest, show_id = request.manifest, request.show
        missing = self.store.missing(manifest)
        if missing:
            raise InputError(f"{len(missing)} sections have not arrived.", where="manifest")
        with self._lock:
            if (manifest, show_id) == (self.store.manifest, self.store.show_id):
                # An edit that changed nothing, or came to what there was: only the revision is another one.
                self.store.use(manifest, request.revision, show_id)
                return Adopted(revision=request.revision)
            if self._refused is not None and self._refused[0] == manifest:
                raise self._refused[1]
            try:
                show = compile_show(self.store.sections(manifest), self._frames, self.show, manifest)
                _try_looks(show, self.show)
            except Exception as error:
                refused = error if isinstance(error, HeliographError) else InternalError(f"{error!r}")
                said = f"The show of revision {request.revision} cannot be used: {refused.what}"
                self._refused = (dict(manifest), InternalError(said, repair="The last one that works goes on."))
                log.exception("a show cannot be compiled", exc_info=error)
                raise self._refused[1] from error
            self._refused = None
            switched = bool(self.store.show_id) and show_id != self.store.show_id
            self._adopt_show(show, self.show, switched)
            self.show = show
            self.store.use(manifest, request.revision, show_id)
        self._write_again()
        return Adopted(revision=self.store.revision)

    def open_clips(self) -> None:
        """Opens clips' frames that the media process has made meanwhile."""
        for lines in self.show.looks.values():
            for one in lines:
                if one.clip is None or isinstance(one.clip, ChaseFrames):
                    continue
                if isinstance(one.clip, ALWAYS_ANEW) or not one.clip.is_open:
                    one.clip.try_open()
        for chosen in tuple(self.show.chosen.values()):
            if not chosen.frames.is_open:
                chosen.frames.try_open()

    def clips_asked(self) -> list[ClipAsked]:
        """Clips painted since this was called last whose frames are not all there."""
        found = []
        for lines in self.show.looks.values():
            for one in lines:
                if isinstance(one.clip, ClipFrames) and one.clip.asked_ns is not None:
                    found.append(ClipAsked(one.clip.path.name, one.clip.asked_ns))
                    one.clip.asked_ns = None
        for clip in tuple(self.show.chosen.values()):
            if clip.frames.asked_ns is not None:
                shape = (clip.width, clip.height, clip.fitting.stored)
                found.append(ClipAsked(clip.frames.path.name, clip.frames.asked_ns, clip.content, clip.suffix, *shape))
                clip.frames.asked_ns = None
        return found


def _try_looks(show: CompiledShow, last: CompiledShow) -> None:
    """Renders one frame of every look that is new, and one of the rig where that is: raises what a frame would."""
    changed = [key for key, lines in show.looks.items() if lines is not last.looks.get(key)][:TRIED_LOOKS]
    if not changed and show.rig is last.rig and show.emission is last.emission:
        return
    state = PlaybackState()
    for look in changed:
        state = state.started(look, 0)
    state = advance(state, show.lines, 0)
    Renderer().render(show, state, 1_000_000_000)
