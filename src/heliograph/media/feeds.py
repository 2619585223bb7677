"""All live pictures that looks show: each address is opened once, for all matrices that show it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.look.feeds import LOST_S, Feed, feed_from
from heliograph.core.matrix.fitting import fitting_from_json
from heliograph.ipc.messages.media import FeedWork, WantedFeed
from heliograph.media.feed import FeedReader, Size

FEEDS_MAX = 8


class Feeds:
    def __init__(self, folder: Path, log: Any) -> None:
        self._folder, self._log = folder, log
        self._readers: dict[str, FeedReader] = {}
        self._faults: dict[str, str] = {}
        for left in (*folder.glob("feed-*.live"), *folder.glob("feed-*.making")):  # of a process that ended
            left.unlink(missing_ok=True)

    def want(self, feeds: Sequence[WantedFeed], hosts: Sequence[str]) -> None:
        """Those that are shown now: others are closed, new ones opened."""
        sizes: dict[str, list[Size]] = {}
        files: dict[str, str] = {}
        self._faults = {}
        for one in feeds:
            size = Size(one.width, one.height, fitting_from_json(one.fitting))
            sizes.setdefault(one.address, []).append(size)
            files[one.address] = one.file
        for address in [key for key, reader in self._readers.items() if files.get(key) != reader.file]:
            self._readers.pop(address).stop()
        for address, wanted in sizes.items():
            reader = self._readers.get(address) or self._open(address, hosts, files[address])
            if reader is not None:
                reader.want(dict.fromkeys(wanted))

    def said(self) -> list[FeedWork]:
        read = [_said(address, reader) for address, reader in self._readers.items()]
        return read + [FeedWork(address, 0.0, -1.0, True, "", fault) for address, fault in self._faults.items()]

    def _open(self, address: str, hosts: Sequence[str], file: str) -> FeedReader | None:
        try:
            feed = feed_from(address, hosts)
            if feed.clip:
                if not file:
                    raise InputError(f"There is no clip {feed.clip}.", where="address", repair="Name another one.")
                feed = Feed(str(self._folder.parent / "files" / file), clip=feed.clip)
            if len(self._readers) >= FEEDS_MAX:
                raise InputError(f"{FEEDS_MAX} live pictures at once are the most.", where="address")
        except InputError as error:
            self._faults[address] = f"{error.what} {error.repair}".strip()
            return None
        reader = self._readers[address] = FeedReader(address, feed, self._folder, self._log, file)
        return reader


def _said(address: str, reader: FeedReader) -> FeedWork:
    seen, age_s = reader.seen, reader.age_s()
    lost = not 0.0 <= age_s < LOST_S
    return FeedWork(address, round(seen.rate, 1), round(age_s, 2), lost, seen.size, seen.fault)
