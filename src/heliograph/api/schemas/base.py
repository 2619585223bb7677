"""What all requests and answers share."""

from __future__ import annotations

from typing import Annotated, Literal

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


class Said(BaseModel):
    """A sentence for people, or ""."""

    says: str


class FirstStep(BaseModel):
    """One of the steps from an empty show to light: `says` what to do or, once it is `done`, what is there."""

    name: str
    station: Literal["rig", "patch", "matrices", "looks"]
    says: str
    done: bool
