"""What the items of a page are at a moment, as everybody who has it open sees them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from heliograph.core.pages import share_of
from heliograph.ipc.messages.engine import FingerTold, HandleNow, ValuesTold
from heliograph.ipc.messages.engine_state import EngineState
from heliograph.store.rows import Record


def addresses_of(items: Iterable[Record]) -> list[str]:
    """Every handle whose value says something of an item."""
    found: dict[str, None] = {}
    for item in items:
        for one in item["handles"]:
            found[one["handle"]] = None
            if item["kind"] == "crossfader":
                found[one["handle"].rpartition("/")[0] + "/on"] = None
    return list(found)


def states_of(
    items: Iterable[Record], told: ValuesTold, state: EngineState | None, lists: Mapping[str, Record], who: str
) -> dict[str, dict[str, Any]]:
    """By item: `on`, `level` 0..1, what is `said` and what is `left`, `who` holds it. `lists`: cue lists as stored;
    `who`: the hand that looks."""
    values = {one.handle: one for one in told.values}
    fingers: dict[str, FingerTold] = {}
    for one in told.fingers:
        if one.item not in fingers or one.finger.startswith(who):
            fingers[one.item] = one
    return {item["id"]: _state(item, values, fingers.get(item["id"]), state, lists, who) for item in items}


def _state(
    item: Record,
    values: Mapping[str, HandleNow],
    finger: FingerTold | None,
    state: EngineState | None,
    lists: Mapping[str, Record],
    who: str,
) -> dict[str, Any]:
    handles = [(one, values.get(one["handle"])) for one in item["handles"]]
    gone = [one["words"] or one["handle"] for one, now in handles if now is None or not now.known]
    if gone and item["kind"] not in ("tap", "words"):
        return {"on": False, "level": 0.0, "said": f"{gone[0]} is gone", "left": "", "gone": True}
    if item["kind"] == "list":
        return _list_state(item, state, lists)
    if item["kind"] == "crossfader":
        shares = [now.fade or 0.0 if now is not None else 0.0 for _, now in _switches(item, values)]
        whole = sum(shares)
        level = shares[1] / whole if whole > 0.0 else 0.0
        said = " / ".join(f"{share * 100:.0f} %" for share in shares)
        return {"on": whole > 0.0, "level": level, "said": said, "left": "", "sides": shares}
    if not handles:
        return {"on": False, "level": 0.0, "said": "", "left": ""}
    first, now = handles[0]
    assert now is not None
    level = now.fade if now.fade is not None else share_of(first, now.value)
    if item["kind"] == "fader":
        return {"on": level > 0.0, "level": level, "said": _text(first, now.value, level), "left": ""}
    return _pad_state(now, level, finger, who)


def _pad_state(now: HandleNow, level: float, finger: FingerTold | None, who: str) -> dict[str, Any]:
    on = bool(now.value) or (finger is not None and now.value is None)
    said, left, held = ("on" if on else "off"), "", ""
    if now.left_s > 0.0:
        said, left = ("coming in" if on else "going out"), f"{now.left_s:.1f} s left"
    if finger is not None and finger.beats_left > 0.0:
        said, left = "running", f"{finger.beats_left:.0f} beats left"
    elif finger is not None:
        mine = finger.finger.startswith(who)
        said, left = ("your finger" if mine else f"{finger.who or 'somebody'} holds"), f"{finger.held_s:.0f} s held"
        held = "mine" if mine else "other"
    return {
        "on": on,
        "level": level,
        "said": said,
        "left": left,
        "held": held,
        "finger": finger.finger if finger else "",
    }


def _switches(item: Record, values: Mapping[str, HandleNow]) -> list[tuple[Record, HandleNow | None]]:
    return [(one, values.get(one["handle"].rpartition("/")[0] + "/on")) for one in item["handles"]]


def _list_state(item: Record, state: EngineState | None, lists: Mapping[str, Record]) -> dict[str, Any]:
    key = item["handles"][0]["handle"].split("/")[1] if item["handles"] else ""
    stored = lists.get(key)
    if stored is None:
        return {"on": False, "level": 0.0, "said": "no list", "left": "", "gone": True}
    cues = {one["id"]: f"{one['number']:g} {one['name']}".strip() for one in stored["cues"]}
    plays = next((one for one in state.lists if one.of == key), None) if state is not None else None
    first = stored["cues"][0]["id"] if stored["cues"] else ""
    return {
        "on": plays is not None and plays.cue != "",
        "level": 1.0,
        "said": cues.get(plays.cue, "stands") if plays is not None else "does not run",
        "left": f"{plays.fade_left_s:.1f} s left" if plays is not None and plays.fade_left_s > 0.0 else "",
        "next": cues.get(plays.next, "") if plays is not None else cues.get(first, ""),
        "before": cues.get(plays.before, "") if plays is not None else "",
        "list": stored["name"],
    }


def _text(handle: Mapping[str, Any], value: Any, level: float) -> str:
    if handle["kind"] in ("level", "switch"):
        return f"{level * 100:.0f} %"
    return f"{value:g}" if isinstance(value, (int, float)) else str(value)
