"""What all requests and answers share."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, StringConstraints

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
Square = tuple[int, int]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Fault(BaseModel):
    """What every refused request answers."""

    what: str
    where: str
    repair: str


class Done(BaseModel):
    """An edit is stored; `revision` is the show's new one."""

    revision: int
