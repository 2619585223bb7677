"""Whether a line can be painted: one rule for what is typed, what is imported and what is moved."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from heliograph.core.errors import InputError
from heliograph.core.look.any_line import CYCLE, OPACITY, SHIFT, SPEED
from heliograph.core.look.attributes import check_sets, driven_attribute
from heliograph.core.look.drive import Drive
from heliograph.core.look.line import PARAMS, AttributeLine, ChaseLine, EffectLine, FeedLine, Line, RecolourLine
from heliograph.core.look.parameter import Parameter, complete
from heliograph.core.look.recolour import RECOLOUR
from heliograph.effects.registry import complete_params, effect_named, parameters_of


def check_line(line: Line, clip_ns: Callable[[str], int | None]) -> None:
    """Raises InputError for an effect or parameters there are not, and for a part that lies past its clip's end.
    `clip_ns`: how long a clip lasts, None for one that is not known."""
    for name, drive in line.drives.items():
        _check_drive(line, name, drive)
    if isinstance(line, EffectLine):
        complete_params(effect_named(line.effect), line.params)
        return
    if isinstance(line, RecolourLine):
        complete(RECOLOUR, line.params, "A line that recolours")
        return
    if isinstance(line, AttributeLine):
        check_sets(line.params)
        return
    if isinstance(line, (FeedLine, ChaseLine)):
        return
    duration_ns = clip_ns(line.clip)
    if duration_ns is not None and line.fitting.in_s * 1e9 >= duration_ns:
        raise InputError(
            f"The in point at {line.fitting.in_s:g} s lies past the clip's end.",
            where="fitting.in_s",
            repair=f"The clip lasts {duration_ns / 1e9:.2f} s.",
        )


def check_through(line: Line, among: Mapping[str, str]) -> None:
    """Raises InputError for a line painted through one that is not in its look, or paints nothing. `among`: what each
    line of the look paints, by its id."""
    if line.through is None:
        return
    if line.through.line not in among:
        raise InputError(
            "The line to paint through is not in this look.", where="through.line", repair="Choose one of its lines."
        )
    if among[line.through.line] == AttributeLine.paints:
        raise InputError(
            "A line that sets attributes has no picture to paint through.",
            where="through.line",
            repair="Choose one that paints.",
        )


COVERS = Parameter(OPACITY, "number", 1.0, 0.0, 1.0)
FACTOR = Parameter(SPEED, "number", 1.0, -8.0, 8.0, "times")
SHIFTED = Parameter(SHIFT, "number", 0.0, -1.0, 1.0, each=True)
STANDS = Parameter(CYCLE, "number", 0.0, 0.0, 1.0)
OF_LINE = {one.name: one for one in (COVERS, FACTOR, SHIFTED, STANDS)}
"""Numbers of every line that drives move beside its parameters."""


def driven_parameter(line: Line, name: str) -> Parameter:
    """The number that a drive of that name moves; InputError where the line has none."""
    has = (line.timed or name not in (SPEED, CYCLE)) and (line.pictured or name != SHIFT)
    if name in OF_LINE and has:
        return OF_LINE[name]
    if isinstance(line, AttributeLine) and name.startswith(PARAMS):
        return driven_attribute(name.removeprefix(PARAMS))
    known = {f"{PARAMS}{one.name}": one for one in parameters_of(line) if one.kind == "number"}
    if name not in known:
        repair = f"Drives move {', '.join([*OF_LINE, *known])}."
        raise InputError(f"No drive can move '{name}' of this line.", where="drives", repair=repair)
    return known[name]


def _check_drive(line: Line, name: str, drive: Drive) -> None:
    one = driven_parameter(line, name)
    for value in (drive.low, drive.high):
        if not one.minimum <= value <= one.maximum:
            limits = f"{one.minimum:g} to {one.maximum:g} {one.unit}".strip()
            raise InputError(f"A drive of {one.name} to {value:g} leaves {limits}.", where=f"drives.{name}")
    if name == SPEED:
        _check_factor(line, drive)
    if isinstance(line, AttributeLine) and drive.source == "curve" and drive.by == "cycle":
        raise InputError("A line that sets attributes has no cycle.", where=f"drives.{name}.by", repair="Run by time.")
    if drive.alternate and not isinstance(line, AttributeLine):
        raise InputError("Only attributes of fixtures go the other way by turns.", where=f"drives.{name}.alternate")
    if drive.over and not one.each:
        raise InputError(
            f"{one.name} is one number for all cells.",
            where=f"drives.{name}",
            repair="Let the drive be alike for all of them.",
        )


def _check_factor(line: Line, drive: Drive) -> None:
    """A driven speed has to add up to the same way everywhere, whatever moved before."""
    if drive.source not in ("wave", "beat") or drive.by_chance or drive.smoothed:
        raise InputError(
            "A speed is driven by a wave or the beat, not by chance and not smoothed.", where=f"drives.{SPEED}"
        )
    unit = line.rate.unit
    if drive.period.unit != unit:
        right = "seconds" if unit == "s" else "beats"
        raise InputError(
            f"This line runs by {right}: its speed is driven by them too.",
            where=f"drives.{SPEED}.period",
            repair="Type 8 s." if unit == "s" else "Type 8 beats.",
        )
