"""What is wrong with the shape of a request, in our words: none of the schema's own reach people."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

import pytest
from pydantic import Field, TypeAdapter, ValidationError

from heliograph.api.faults import sentence_of
from heliograph.api.schemas.base import Strict
from heliograph.api.sentences import shape_fault


class Body(Strict):
    first_number: int = Field(1, ge=1, le=512)
    rate_hz: int = Field(44, le=44)
    opacity: float = Field(1.0, gt=0.0)
    name: str = Field("a", min_length=1, max_length=3)
    key: UUID | None = None
    blend: Literal["over", "add"] = "over"
    on: bool = True
    items: list[int] = Field(default_factory=list, max_length=2)


@pytest.mark.parametrize(
    ("body", "what", "repair"),
    [
        ({"first_number": "one"}, "The first number is a whole number, not 'one'.", "Type a number such as 12."),
        ({"first_number": 1.5}, "The first number is a whole number, not 1.5.", "Type a number such as 12."),
        ({"first_number": 0}, "The first number 0 is too small.", "It is 1 or more."),
        ({"first_number": 900}, "The first number 900 is too large.", "It is 512 or less."),
        ({"rate_hz": 90}, "The frames a second 90 is too large.", "It is 44 or less."),
        ({"opacity": 0}, "The opacity 0 is too small.", "It is more than 0."),
        ({"opacity": "half"}, "The opacity is a number, not 'half'.", "Type a number such as 2.5."),
        ({"name": ""}, "The name is empty.", "It needs something in it."),
        ({"name": "long"}, "The name is too long.", "3 is the most."),
        ({"name": 3}, "The name is a text, not 3.", ""),
        ({"key": "x"}, "The key is no id: 'x'.", ""),
        ({"blend": "burn"}, "The blend is not 'burn'.", "Use 'over' or 'add'."),
        ({"on": "perhaps"}, "The on is on or off, not 'perhaps'.", ""),
        ({"items": [1, 2, 3]}, "The items is too long.", "2 is the most."),
        ({"items": [1, "x"]}, "The items of number 2 is a whole number, not 'x'.", "Type a number such as 12."),
        ({"glow": 1}, "The glow is not asked for here.", "Leave it out."),
    ],
)
def test_every_kind_of_fault_has_a_sentence(body: dict[str, Any], what: str, repair: str) -> None:
    with pytest.raises(ValidationError) as told:
        TypeAdapter(Body).validate_python(body)
    said = sentence_of(told.value)
    assert (said["what"], said["repair"]) == (what, repair)
    assert "nput should" not in said["what"]


def test_a_kind_that_is_not_known_is_said_in_the_schemas_words() -> None:
    assert shape_fault("strange_error", "size", 3, {}, "Something odd") == ("The size: Something odd.", "")
    assert shape_fault("missing", "", None, {}, "")[0] == "The request is missing."
