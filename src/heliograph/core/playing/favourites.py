"""Favourites: kept values of chosen handles, called up by one trigger."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from heliograph.core.errors import InputError

VALUES_MAX = 200


@dataclass(frozen=True, slots=True)
class Favourite:
    """`values`: handles with what they were when it was kept."""

    id: str
    name: str
    values: tuple[tuple[str, Any], ...] = ()


def favourite_from_json(data: Mapping[str, Any]) -> Favourite:
    """Of a section."""
    return Favourite(data["id"], data["name"], tuple((one["handle"], one["value"]) for one in data["values"]))


def check_values(values: Any) -> None:
    if not values:
        raise InputError("A favourite keeps values of some handles.", where="handles", repair="Choose a level, a look.")
    if len(values) > VALUES_MAX:
        raise InputError(f"{len(values)} handles are more than {VALUES_MAX}.", where="handles")
    own = [one["handle"] for one in values if one["handle"].startswith("favourite/")]
    if own:
        raise InputError("A favourite keeps no other favourite.", where="handles")
