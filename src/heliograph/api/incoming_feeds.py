"""What is said of incoming universes that lines show as pictures: as of every other live picture."""

from __future__ import annotations

import time
from collections.abc import Iterator, Mapping

from heliograph.core.look.feeds import LOST_S, Universes, universes_from
from heliograph.core.patch.incoming_picture import laid_on
from heliograph.core.rig.arrays import Rig, placed_cells
from heliograph.ipc.incoming import IncomingReader, Key
from heliograph.ipc.messages.media import FeedWork
from heliograph.ipc.sections import Section


def read_as_pictures(sections: Mapping[str, Section], rig: Rig) -> dict[str, list[Key]]:
    """By address, the universes that its lines show."""
    found: dict[str, set[Key]] = {}
    for line, incoming in _lines(sections):
        matrix = sections.get(f"matrix:{line['matrix']}")
        if matrix is not None:
            cells = placed_cells(rig, matrix["placements"]).cell
            numbers = laid_on(incoming, rig.emitters[cells]).numbers
            found.setdefault(line["address"], set()).update((incoming.protocol, one) for one in numbers)
    return {address: sorted(keys) for address, keys in found.items()}


def said_of(universes: Mapping[str, list[Key]], reader: IncomingReader) -> list[FeedWork]:
    """How old the newest of each is, how many arrive, and which do not."""
    if not universes:
        return []
    came, now_ns = reader.read(), time.monotonic_ns()
    works = []
    for address, keys in universes.items():
        ages = [(now_ns - came[key].steady_ns) / 1e9 for key in keys if key in came]
        fresh = sum(age < LOST_S for age in ages)
        missing = [number for protocol, number in keys if (protocol, number) not in came]
        fault = f"Nothing arrives for {', '.join(map(str, missing[:8]))}." if missing else ""
        age = round(min(ages), 2) if ages else -1.0
        works.append(FeedWork(address, 0.0, age, not fresh, f"{fresh} of {len(keys)} universes", fault))
    return works


def _lines(sections: Mapping[str, Section]) -> Iterator[tuple[Section, Universes]]:
    for key, look in sections.items():
        for line in look["lines"] if key.startswith("look:") else ():
            incoming = universes_from(line["address"]) if line["paints"] == "feed" else None
            if incoming is not None:
                yield line, incoming
