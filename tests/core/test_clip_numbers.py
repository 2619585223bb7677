"""Clips' numbers: kept where they can be, given anew where two agree or one has none."""

from __future__ import annotations

import pytest

from heliograph.core.errors import InputError
from heliograph.core.show.clip_numbers import NUMBER_MAX, check_number, next_number, numbers_of


def clip(key: str, number: int = 0) -> dict[str, object]:
    return {"id": key, "name": key.upper(), "number": number}


def test_own_numbers_stay_and_others_get_the_next() -> None:
    assert numbers_of([clip("b"), clip("a", 7), clip("c", 3)]) == {"a": 7, "c": 3, "b": 8}
    assert numbers_of([clip("z", 4), clip("a", 4)]) == {"a": 4, "z": 5}  # undone and made again: the first by name
    assert numbers_of([]) == {}


def test_the_highest_number_leaves_gaps_to_be_filled() -> None:
    assert next_number({1, 2, NUMBER_MAX}) == 3
    assert next_number(set()) == 1


def test_one_that_another_has_is_refused_by_its_name() -> None:
    clips = [clip("a", 7), clip("b", 8)]
    check_number(7, "a", clips)
    with pytest.raises(InputError, match="7 is the number of A") as refused:
        check_number(7, "b", clips)
    assert refused.value.repair == "9 is free."
