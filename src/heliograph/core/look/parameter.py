"""A parameter of what a line paints: its range and unit, its choices, or a text; and what values it takes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.errors import InputError

Kind = Literal["number", "choice", "text"]

TEXT_MAX = 500
"""Characters of a text."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """`minimum` to `maximum` in `unit`, one of `choices`, or any text. `each`: it may be another number for each cell.
    `drawn`: the choices a surprise takes from, where not all: one that waits for a drive would stand still."""

    name: str
    kind: Kind
    default: float | str
    minimum: float = 0.0
    maximum: float = 1.0
    unit: str = ""
    choices: tuple[str, ...] = ()
    each: bool = False
    drawn: tuple[str, ...] = ()

    def check(self, value: Any, of: str = "") -> float | str:
        """The value, if the parameter takes it; InputError otherwise."""
        if self.kind == "choice":
            if value not in self.choices:
                raise InputError(
                    f"{self.name} '{value}' is not one of {', '.join(self.choices)}.",
                    where=f"params.{self.name}",
                    repair=f"Choose one of them for {of}." if of else "",
                )
            return str(value)
        if self.kind == "text":
            if not isinstance(value, str) or len(value) > TEXT_MAX:
                raise InputError(
                    f"{self.name} is a text of at most {TEXT_MAX} characters.", where=f"params.{self.name}"
                )
            return value
        number = isinstance(value, (int, float)) and not isinstance(value, bool)
        if not number or not self.minimum <= value <= self.maximum:
            limits = f"{self.minimum:g} to {self.maximum:g} {self.unit}".strip()
            raise InputError(f"{self.name} {value} is outside {limits}.", where=f"params.{self.name}")
        return value  # type: ignore[no-any-return]  # as it was typed: 40 stays 40


def complete(parameters: Iterable[Parameter], given: Mapping[str, Any], of: str) -> dict[str, Any]:
    """All parameters, missing ones at their default. `of`: whose they are, for the sentence.

    Raises InputError for an unknown name, a value outside its range or not among the choices.
    """
    known = {parameter.name: parameter for parameter in parameters}
    for name in given:
        if name not in known:
            raise InputError(
                f"{of} has no parameter '{name}'.",
                where=f"params.{name}",
                repair=f"It has: {', '.join(known) or 'none'}.",
            )
    return {name: one.check(given[name]) if name in given else one.default for name, one in known.items()}
