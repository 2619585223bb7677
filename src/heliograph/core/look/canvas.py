"""What a line is painted over: a matrix, a group, or whatever a typed selection means, each cell a
square of one row."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import NAMESPACE_OID, uuid5

from heliograph.core.errors import InputError

OVER = ("matrix", "group", "selection")
"""The fields of a line of which one says what it is painted over."""


def canvas_of(line: Mapping[str, Any]) -> str:
    """The id of what a stored line is painted over; a selection's is made of its words."""
    if line.get("selection"):
        return str(uuid5(NAMESPACE_OID, str(line["selection"])))
    return str(line.get("group") or line["matrix"])


def painted_over(line: Mapping[str, Any], given: Mapping[str, Any]) -> dict[str, Any]:
    """The fields of `OVER` once `given` says something of them: what is not named then is none."""
    named = {name: given[name] for name in OVER if given.get(name)}
    if not named:
        return {name: line.get(name) or "" for name in OVER}
    return {name: named.get(name, "") for name in OVER}


def check_over(line: Mapping[str, Any]) -> None:
    """Raises InputError unless a stored line is painted over just one thing."""
    if sum(bool(line.get(name)) for name in OVER) != 1:
        raise InputError(
            "A line is painted over a matrix, a group or a selection.", where="matrix", repair="Give one of them."
        )
