"""What deleting something, or opening another show, would do to the light at this moment: said before it is done."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator, Mapping
from typing import Any, Literal, NamedTuple

from heliograph.api.context import Context
from heliograph.core.errors import NotFoundError
from heliograph.ipc.messages.engine_state import EngineState, RunningLook
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Author
from heliograph.store.rows import Record

Doing = Literal["look", "group", "list", "score", "open"]


class Beforehand(NamedTuple):
    """`says` what will happen, to whoever is about to do it; `told`: to all others, after their name; "" for both where
    no lamp would change."""

    says: str = ""
    told: str = ""


NOTHING = Beforehand()


def beforehand(doing: Doing, key: str, state: EngineState | None) -> Beforehand:
    """`key`: of what is deleted, or of the show that is opened. NotFoundError where it is not there."""
    return NOTHING if state is None else _SAYS[doing](key, state)


def _look(key: str, state: EngineState) -> Beforehand:
    look = _row("look", key)
    runs = [one for one in state.running if one.look == key]
    if not runs:
        return NOTHING
    name = look["name"]
    return Beforehand(f"{name} is running{_by(runs)}: its light goes out.", f"deleted {name}, which was running.")


def _by(runs: list[RunningLook]) -> str:
    """By hand, or the names of what plays it."""
    names = {one["id"]: one["name"] for kind in ("cue_list", "score") for one in _all(kind)}
    found = dict.fromkeys(names.get(one.of, "") if one.of else "by hand" for one in runs)
    said = [one if one == "by hand" else f"in {one}" for one in found if one]
    return f", {' and '.join(said)}" if said else ""


def _group(key: str, state: EngineState) -> Beforehand:
    group = _row("group", key)
    playing = {one.look for one in state.running}
    over = [look["name"] for look in _all("look") if look["id"] in playing and _lies_over(look, key)]
    running = {one.of for one in state.scores if one.running}
    over += [one["name"] for one in _all("score") if one["id"] in running and _has_stave(one, key)]
    if over:
        names, verb = " and ".join(over), "plays" if len(over) == 1 else "play"
        says = f"{names} {verb} over {group['name']}: that light goes out."
        return Beforehand(says, f"deleted {group['name']}, over which {names} played.")
    level = state.masters.get(key, 1.0)
    if level >= 1.0 or not state.running:
        return NOTHING
    name, at = group["name"], f"{level * 100:.0f} %"
    says = f"The master of {name} stands at {at}: without it what runs there goes to full."
    return Beforehand(says, f"deleted {name}, whose master stood at {at}.")


def _lies_over(look: Record, group: str) -> bool:
    return any(line.get("group") == group for line in look["lines"])


def _has_stave(score: Record, group: str) -> bool:
    return any(stave["group"] == group for stave in score["staves"])


def _list(key: str, state: EngineState) -> Beforehand:
    one = _row("cue_list", key)
    plays = next((each for each in state.lists if each.of == key), None)
    if plays is None:
        return NOTHING
    cue = next((cue for cue in one["cues"] if cue["id"] == plays.cue), None)
    where = f"cue {cue['number']:g}" if cue else "a cue"
    return Beforehand(
        f"{one['name']} plays {where}: its light goes out.", f"deleted {one['name']}, which played {where}."
    )


def _score(key: str, state: EngineState) -> Beforehand:
    one = _row("score", key)
    if not any(each.of == key and each.running for each in state.scores):
        return NOTHING
    return Beforehand(f"{one['name']} is playing: its light goes out.", f"deleted {one['name']}, which was playing.")


def _open(key: str, state: EngineState) -> Beforehand:
    runs = len({one.look for one in state.running})
    if not runs or key == rows.running_show()["id"]:
        return NOTHING
    name = next((one["name"] for one in rows.shows() if one["id"] == key), "the other show")
    what, was = (
        ("1 look is running", "1 look was") if runs == 1 else (f"{runs} looks are running", f"{runs} looks were")
    )
    return Beforehand(
        f"{what}: the lamps go dark until something is started in {name}.", f"opened {name} while {was} running."
    )


_SAYS: Mapping[Doing, Callable[[str, EngineState], Beforehand]] = {
    "look": _look,
    "group": _group,
    "list": _list,
    "score": _score,
    "open": _open,
}


def _all(kind: Any) -> list[Record]:
    return rows.all_of(kind, rows.running_show()["id"])


def _row(kind: Any, key: str) -> Record:
    for one in _all(kind):
        if one["id"] == key:
            return one
    raise NotFoundError("It is not in the running show any more.", where="key")


@contextlib.contextmanager
def telling_others(context: Context, author: Author, doing: Doing, key: str) -> Iterator[None]:
    """Around what is done: all others hear by name who did it, where it changes the light."""
    was = NOTHING
    status = context.engine_status()
    with connected(), contextlib.suppress(NotFoundError):
        was = beforehand(doing, key, status.state if status else None)
    yield
    if was.told:
        context.tell({"type": "told", "what": f"{author.name} {was.told}", "where": "", "repair": ""}, author.key)
