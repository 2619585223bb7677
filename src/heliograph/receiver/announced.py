"""Sources that announce their universes by sACN universe discovery, page by page, every ten seconds [S]."""

from __future__ import annotations

from dataclasses import dataclass, field

from heliograph.ipc.messages import receiver as told
from heliograph.wire import sacn

FORGET_S = 2 * sacn.DISCOVERY_INTERVAL_S + 1.0
"""A source that missed two announcements is gone (common practice)."""

SOURCES_MAX = 256
PAGES_MAX = 8
"""Pages of one source that are kept: 4,096 universes, more than are followed."""

FOLLOWED_MAX = 1_024
"""Announced universes whose groups are joined, lowest first: about what 100 Mbit/s carry is 400."""


@dataclass(slots=True)
class Source:
    name: str
    ip: str
    last_s: float
    pages: dict[int, tuple[int, ...]] = field(default_factory=dict)

    @property
    def universes(self) -> list[int]:
        return sorted({number for page in self.pages.values() for number in page})


@dataclass(slots=True)
class Announced:
    sources: dict[str, Source] = field(default_factory=dict)

    def hear(self, page: sacn.Discovery, ip: str, now_s: float) -> None:
        key = page.cid.hex()
        source = self.sources.get(key)
        if source is None:
            if len(self.sources) >= SOURCES_MAX:
                return
            source = self.sources[key] = Source(page.name, ip, now_s)
        source.name, source.ip, source.last_s = page.name, ip, now_s
        source.pages = {n: numbers for n, numbers in source.pages.items() if n <= page.last_page}
        if page.page < PAGES_MAX:
            source.pages[page.page] = page.universes[: sacn.DISCOVERY_PER_PAGE]

    def look(self, now_s: float) -> None:
        for key, source in list(self.sources.items()):
            if now_s - source.last_s > FORGET_S:
                del self.sources[key]

    @property
    def universes(self) -> set[int]:
        found = {number for source in self.sources.values() for number in source.universes}
        return set(sorted(found)[:FOLLOWED_MAX])

    def listed(self, now_s: float) -> list[told.HeardSource]:
        return [
            told.HeardSource(key, one.name, one.ip, list(one.universes), round(now_s - one.last_s))
            for key, one in sorted(self.sources.items(), key=lambda pair: pair[1].name)
        ]
