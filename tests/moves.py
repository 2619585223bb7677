"""Messages that move handles, as every road to the engine takes them."""

from __future__ import annotations

from typing import Any

Told = dict[str, Any]


def move(handle: str, value: Any = None, **rest: Any) -> Told:
    """One handle to a value, or turned over."""
    return moves({handle: value}, **rest)


def moves(values: dict[str, Any], **rest: Any) -> Told:
    return {"do": "move", "moves": [{"handle": key, "value": value} for key, value in values.items()], **rest}


def on(look: str) -> Told:
    return move(f"look/{look}/on", True)


def off(look: str) -> Told:
    return move(f"look/{look}/on", False)


def level_of(look: str, level: float) -> Told:
    return move(f"look/{look}/level", level)


def group_master(group: str, level: float) -> Told:
    return move(f"group/{group}/master", level)


def line_moved(look: str, line: str, **fields: Any) -> Told:
    """Fields of a line by their handles' names."""
    return moves({f"look/{look}/{line}/{name}": value for name, value in fields.items()})
