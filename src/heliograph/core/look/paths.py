"""Ready paths of motion: both drives, of pan and of tilt, set at once; each part can be changed afterwards.

A knot is a Lissajous figure: two sines whose periods are to one another as small whole numbers.
"""

from __future__ import annotations

from dataclasses import dataclass

from heliograph.core.errors import InputError
from heliograph.core.look.drive import DRIFT, Drive
from heliograph.core.playing.tempo import Speed

QUARTER = 0.25
PAN, TILT = "Pan", "Tilt"


@dataclass(frozen=True, slots=True)
class Path:
    """`across`, `up`: how often pan and tilt go there and back in a round; 0 stands still. `ahead`: by how much of its
    own period tilt is ahead of pan."""

    name: str
    says: str
    across: int
    up: int
    ahead: float = 0.0
    wave: str = "sine"


PATHS: dict[str, Path] = {
    one.name: one
    for one in (
        Path("ring", "round and round", 1, 1, QUARTER),
        Path("sweep", "there and back, level", 1, 0),
        Path("knot 2:1", "a lying eight", 1, 2, QUARTER),
        Path("knot 3:2", "a knot of three and two", 2, 3, QUARTER),
        Path("knot 3:4", "a knot of three and four", 4, 3, QUARTER),
        Path("drift", "here and there, smoothly, each head by itself", 1, 1, wave=DRIFT),
    )
}

REACH_DEG = {PAN: 24.0, TILT: 11.0}


def path_drives(
    name: str,
    heads: int = 1,
    period: Speed | None = None,
    reach: tuple[float, float] = (REACH_DEG[PAN], REACH_DEG[TILT]),
) -> dict[str, Drive | None]:
    """By attribute; None for one that stands still. `heads`: spread evenly over a period of what drives them. `period`:
    of a whole round; `reach`: degrees each way."""
    path = PATHS.get(name)
    if path is None:
        raise InputError(f"There is no path '{name}'.", where="path", repair=f"There are {', '.join(PATHS)}.")
    whole = period or Speed(16.0, "beat")
    found: dict[str, Drive | None] = {}
    for index, (attribute, often, wide) in enumerate(((PAN, path.across, reach[0]), (TILT, path.up, reach[1]))):
        if often == 0:
            found[attribute] = None
            continue
        found[attribute] = Drive(
            low=-wide,
            high=wide,
            wave=path.wave,
            period=Speed(whole.value / often, whole.unit),
            phase=path.ahead if attribute == TILT else 0.0,
            over="address",
            spread=round((heads - 1) / max(heads, 1) * often, 3),
            seed=index if path.wave == DRIFT else 0,
        )
    return found
