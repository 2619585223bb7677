"""How the program is, in sentences: what is well in one line each, what is not with what it means for the lights."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

TIGHT = 0.8
"""From this share of its period on, a frame that takes a little longer is late."""

STOLEN_MS = 50
"""So much of a second in which the machine was elsewhere is worth a word."""

BEHIND_FRAMES = 2
NAMED = 3


@dataclass(frozen=True, slots=True)
class Said:
    text: str
    good: bool = True


@dataclass(frozen=True, slots=True)
class Facts:
    """What is known. `stats`: the engine's of the last second, times in ms, {} where it does not answer; `period_ms`:
    of a frame. `failing`: outputs whose packets fail, with the reason; `nodes`: (name, seconds since it answered,
    silent). `database_ms`, `spool_behind` (frames): None where there is no answer. `down`: cards that are down;
    `malformed`: (sender, packets, what was wrong with the last)."""

    stats: Mapping[str, float]
    period_ms: float
    failing: Mapping[str, str] = field(default_factory=dict)
    nodes: Sequence[tuple[str, float, bool]] = ()
    database_ms: float | None = None
    spool_behind: int | None = None
    down: Sequence[str] = ()
    malformed: Sequence[tuple[str, int, str]] = ()


def said_of(facts: Facts) -> list[Said]:
    """What is not well first, each part in its order otherwise."""
    return sorted(_each(facts), key=lambda one: one.good)


def _each(facts: Facts) -> Iterator[Said]:
    yield from _frames(facts)
    for name, reason in facts.failing.items():
        yield Said(f"{name} does not get its packets out: {reason}", False)
    yield from _nodes(facts.nodes)
    for card in facts.down:
        yield Said(f"The network card {card} is down; what is sent through it goes nowhere.", False)
    if facts.database_ms is None:
        yield Said("The database does not answer: what plays goes on, nothing can be edited.", False)
    else:
        yield Said(f"The database answers in {facts.database_ms:.1f} ms.")
    if facts.spool_behind is None:
        yield Said("Nothing is kept of what plays: after a restart nothing would go on.", False)
    elif facts.spool_behind > BEHIND_FRAMES:
        yield Said(f"After a restart it would go on from {facts.spool_behind} frames back.", False)
    else:
        yield Said("After a restart it goes on in the same frame.")
    for sender, packets, last in facts.malformed[:NAMED]:
        yield Said(f"{packets} malformed {_plural(packets, 'packet')} of {sender} were refused: {last}.", False)


def _frames(facts: Facts) -> Iterator[Said]:
    stats = facts.stats
    if not stats:
        yield Said("The engine does not answer this page; it is started again by itself.", False)
        return
    rate, skipped = stats.get("frames_per_s", 0.0), int(stats.get("skipped", 0))
    stolen = min(int(stats.get("skipped_stolen", 0)), skipped)
    own = skipped - stolen
    if not skipped:
        yield Said(f"{rate:.1f} frames a second, none left out since the start.", _in_time(rate, facts.period_ms))
    else:
        said = f"{rate:.1f} frames a second; {skipped} left out since the start"
        if not own:
            said += f", {'all' if skipped > 1 else 'it'} while the machine was taken away from us"
        elif stolen:
            said += f", {stolen} of them while the machine was taken away from us, {own} of our own"
        yield Said(f"{said}.", not own and _in_time(rate, facts.period_ms))
    takes = stats.get("render_ms", 0.0) + stats.get("send_ms", 0.0)
    said = f"A frame takes {takes:.1f} of its {facts.period_ms:.1f} ms"
    if takes > TIGHT * facts.period_ms:
        yield Said(f"{said}: whatever is added now may come late.", False)
    else:
        yield Said(f"{said}.")
    gone = stats.get("stolen_ticks", 0) * 10
    if gone > STOLEN_MS:
        yield Said(f"The machine was taken away from us for {gone:.0f} ms of the last second.", False)


def _in_time(rate: float, period_ms: float) -> bool:
    return rate * period_ms > 975


def _nodes(nodes: Sequence[tuple[str, float, bool]]) -> Iterator[Said]:
    silent = [(name, ago) for name, ago, gone in nodes if gone]
    for name, ago in silent[:NAMED]:
        yield Said(f"{name} is silent for {ago:.0f} s; it is sent to all the same.", False)
    if len(silent) > NAMED:
        yield Said(f"{len(silent) - NAMED} more nodes are silent.", False)
    if nodes:
        answer = len(nodes) - len(silent)
        yield Said(f"{answer} of {len(nodes)} {_plural(len(nodes), 'node')} {'answers' if answer == 1 else 'answer'}.")


def _plural(count: int, word: str) -> str:
    return word if count == 1 else f"{word}s"
