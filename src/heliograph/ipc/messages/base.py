"""What a request and an answer are, and the envelopes they travel in."""

from __future__ import annotations

from typing import Any, ClassVar, Generic, TypeVar

import msgspec

from heliograph.core.errors import HeliographError


class Answer(msgspec.Struct, frozen=True, kw_only=True):
    """What is answered to a request that was done."""


class Done(Answer, frozen=True):
    """It was done, and there is nothing to say about it."""


A_co = TypeVar("A_co", bound=Answer, covariant=True)


class Request(msgspec.Struct, Generic[A_co], frozen=True, kw_only=True, tag_field="do", forbid_unknown_fields=True):
    """One thing that is asked; `answers` is what comes back. Its tag names it on the wire."""

    answers: ClassVar[type[Any]] = Done


class Asked(msgspec.Struct, frozen=True):
    """A request under its id. `again`: its answer got lost; only what was answered comes back, and nothing is done
    twice."""

    id: str
    ask: msgspec.Raw = msgspec.Raw(b"null")
    again: bool = False


class Answered(msgspec.Struct, frozen=True):
    """What was answered or, where `ok` is False, the error: its kind by name, and its sentence, place and repair."""

    ok: bool
    answer: msgspec.Raw = msgspec.Raw(b"null")
    kind: str = ""
    what: str = ""
    where: str = ""
    repair: str = ""

    @property
    def error(self) -> HeliographError:
        kinds = {cls.__name__: cls for cls in HeliographError.__subclasses__()}
        return kinds.get(self.kind, HeliographError)(self.what, where=self.where, repair=self.repair)


def refused(error: HeliographError) -> Answered:
    return Answered(False, kind=type(error).__name__, what=error.what, where=error.where, repair=error.repair)
