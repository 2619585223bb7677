"""How a clip lies on a matrix, and which part of it plays."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, Literal, get_args

from heliograph.core.errors import InputError

Fit = Literal["fill", "fit", "stretch"]
Mirror = Literal["none", "across", "down", "both"]
ROTATIONS = (0, 90, 180, 270)


@dataclass(frozen=True, slots=True)
class Fitting:
    """`fit`: *fill* covers the matrix and cuts what is over, *fit* shows all and leaves the rest clear,
    *stretch* bends it to the matrix. `rotate` degrees clockwise, then `mirror` across or down.

    `in_s` to `out_s` of the clip plays; `out_s` 0 is its end.
    """

    fit: Fit = "fill"
    rotate: int = 0
    mirror: Mirror = "none"
    in_s: float = 0.0
    out_s: float = 0.0

    def __post_init__(self) -> None:
        if self.fit not in get_args(Fit):
            raise InputError(f"There is no fit '{self.fit}'.", where="fitting", repair="Use fill, fit or stretch.")
        if self.mirror not in get_args(Mirror):
            raise InputError(
                f"There is no mirror '{self.mirror}'.", where="fitting", repair="Use none, across, down or both."
            )
        if self.rotate not in ROTATIONS:
            raise InputError(f"A clip turns by 0, 90, 180 or 270 degrees, not {self.rotate}.", where="fitting.rotate")
        if self.in_s < 0 or (self.out_s and self.out_s <= self.in_s):
            raise InputError(
                f"A clip cannot play from {self.in_s:g} s to {self.out_s:g} s.",
                where="fitting.out_s",
                repair="The out point lies after the in point; 0 means the end.",
            )

    @property
    def shape(self) -> str:
        """What the decoded frames depend on, for the name of their file."""
        return f"{self.fit}-{self.rotate}-{self.mirror}"

    @property
    def stored(self) -> dict[str, Any]:
        return asdict(self)

    def span_s(self, duration_s: float) -> tuple[float, float]:
        """(first, last) second that plays of a clip of `duration_s`; never empty."""
        last = min(self.out_s or duration_s, duration_s)
        first = min(self.in_s, max(last - 0.02, 0.0))
        return first, max(last, first + 0.02)


def frames_name(content: str, width: int, height: int, shape: str) -> str:
    """The file of the frames of a clip (by its content's hash) for a matrix size and a fitting."""
    return f"{content}-{width}x{height}-{shape}.frames"


def fitting_from_json(data: Mapping[str, Any]) -> Fitting:
    return Fitting(
        data.get("fit", "fill"),
        int(data.get("rotate", 0)),
        data.get("mirror", "none"),
        float(data.get("in_s", 0.0)),
        float(data.get("out_s", 0.0)),
    )
