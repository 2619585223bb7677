"""Cue lists from hostile files and hands: bounded in work and not only in bytes, refused whole, nothing half done."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import InputError
from heliograph.core.handles import Ground
from heliograph.core.handles.advancing import ACTIONS_MAX, WAITING_MAX, advance_all
from heliograph.core.playing import lists
from heliograph.core.playing.cues import ACTIONS_MAX as OF_A_CUE
from heliograph.core.playing.cues import CUES_MAX, LOOKS_MAX, cue_list_from_json
from heliograph.core.playing.kept_state import encode_state
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.typed_actions import read_actions
from heliograph.core.playing.typed_cues import read_looks, read_then, read_time
from heliograph.edits.cue_lists import check_cues
from heliograph.formats.cue_table import TEXT_MAX, read_cues

LOOK = [{"id": "L", "name": "Lamp"}]


def stored(count: int, **fields: Any) -> dict[str, Any]:
    cues = [{"id": f"c{n}", "number": n + 1, "looks": [{"look": "L"}], **fields} for n in range(count)]
    return {"id": "E", "name": "E", "cues": cues}


@pytest.mark.slow
def test_the_largest_list_that_goes_round_without_time_costs_a_frame_no_more_than_its_share() -> None:
    acts = [{"handle": "list/E/go"}] * OF_A_CUE
    one = cue_list_from_json({**stored(CUES_MAX, then="follow", actions=acts), "rounds": 0})
    ground = Ground(lists={"E": one})
    state = lists.go(PlaybackState(), one, 0)
    refused: list[str] = []
    for frame in range(1, 50):
        state = advance_all(state, ground, {}, frame * 22_727_273, lambda one, _error: refused.append(one.handle))
        assert len(state.acting) <= WAITING_MAX + OF_A_CUE
        assert len(refused) <= frame * ACTIONS_MAX
        assert len(encode_state(state)) < 400_000  # of the 8 MB of a slot of the spool
    assert len(state.lists["E"].parts) <= 7
    assert refused


@pytest.mark.parametrize(
    ("change", "what"),
    [
        ({"cues": stored(1, looks=[{"look": "L"}] * (LOOKS_MAX + 1))["cues"]}, "looks in one cue"),
        ({"cues": stored(1, fade_in=1e9)["cues"]}, "A fade in of 1e+09 is outside"),
        ({"cues": stored(1, fade_in=float("nan"))["cues"]}, "A fade in of nan is outside"),
        ({"cues": stored(1, then="explode")["cues"]}, "After a cue there is no 'explode'."),
        ({"cues": stored(1, curve="bouncy")["cues"]}, "A fade does not go 'bouncy'."),
        ({"cues": stored(1, looks=[{"look": "L", "level": 7}])["cues"]}, "A level of 700 %"),
        ({"cues": [*stored(1)["cues"], *stored(1)["cues"]]}, "There is a cue 1 already."),
        ({"cues": stored(CUES_MAX + 1)["cues"]}, "A list has at most"),
        ({"priority": 100_000}, "A priority of"),
        ({"rounds": -1}, "-1 rounds are outside"),
        ({"order": "sideways"}, "A list does not go 'sideways'."),
        ({"letting_go": "never"}, "A list does not let go 'never'."),
    ],
)
def test_what_is_no_list_is_refused_with_what_is_wrong(change: dict[str, Any], what: str) -> None:
    with pytest.raises(InputError) as error:
        check_cues({**stored(2), **change})
    assert what in error.value.what


NO_TIMES = ["x" * 5_000, "9" * 400 + " s", "\x00", "1e999 s", "-4 s", "NaN s", "٣ s s", "4 s; drop"]


@pytest.mark.parametrize("text", NO_TIMES)
def test_times_and_thens_that_are_none(text: str) -> None:
    for read in (lambda typed: cue_list_from_json(stored(1, fade_in=read_time(typed).value)), read_then):
        with pytest.raises(InputError):
            read(text)


NO_LOOKS = ['"' * 1_999, "Lamp 40 % over " * 100, "Lamp 1000 %", "Lamp over Lamp over Lamp", "Lamp over"]


@pytest.mark.parametrize("text", NO_LOOKS)
def test_looks_that_are_none(text: str) -> None:
    with pytest.raises(InputError) as error:
        read_looks(text, LOOK, [])
    assert error.value.where == "looks"


def test_tables_are_bounded_and_said_by_row() -> None:
    for table, what in (
        ("x" * (TEXT_MAX + 1), "A table of more than"),
        ("", "The table is empty."),
        ("number\nfour", "Row 2: 'four' is no number."),
        ("number,looks\n1,Lamp\n2,Fog", "Row 3: There is no look 'Fog'."),
        ("number\n" + "\n".join(str(n) for n in range(CUES_MAX + 5)), "cues are more than"),
        ("name\nx", "The table has no column 'number'."),
    ):
        with pytest.raises(InputError) as error:
            read_cues(table, LOOK, [])
        assert what in error.value.what


def test_no_typed_action_arms_anything() -> None:
    asked: list[str] = []

    def find(words: str) -> list[Any]:
        asked.append(words)
        return []

    for text in ("arm", "Arm 811 on", "lasers armed on", f"arm/{uuid4()} on"):
        with pytest.raises(InputError):
            read_actions(text, find)
    assert asked
