"""Numbers of clips: by them a hand, a page or a desk chooses one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError

NUMBER_MAX = 65_535


def numbers_of(clips: Sequence[Mapping[str, Any]]) -> dict[str, int]:
    """Each clip's number, by id. One without a number, or with one that another has, gets the next that is free: a show
    file may lack them, and undoing may bring one back twice."""
    found: dict[str, int] = {}
    taken: set[int] = set()
    waiting = []
    for clip in sorted(clips, key=lambda one: (one.get("number") or NUMBER_MAX + 1, one["name"], one["id"])):
        number = clip.get("number") or 0
        if number and number not in taken:
            found[clip["id"]] = number
            taken.add(number)
        else:
            waiting.append(clip["id"])
    for key in waiting:
        found[key] = next_number(taken)
        taken.add(found[key])
    return found


def next_number(taken: set[int]) -> int:
    """One more than the highest, or the first gap where that would be too high."""
    highest = max(taken, default=0) + 1
    return highest if highest <= NUMBER_MAX else next(n for n in range(1, NUMBER_MAX + 1) if n not in taken)


def check_number(number: int, key: str, clips: Sequence[Mapping[str, Any]]) -> None:
    """InputError where another clip has it, which is named."""
    for other, taken in numbers_of(clips).items():
        if taken == number and other != key:
            name = next(one["name"] for one in clips if one["id"] == other)
            raise InputError(
                f"{number} is the number of {name}.",
                where="number",
                repair=f"{next_number(set(numbers_of(clips).values()))} is free.",
            )
