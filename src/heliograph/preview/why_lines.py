"""Why a cell is as its looks paint it: what each line lays on it, with numbers."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.indexes import as_array
from heliograph.core.look.line import PARAMS, RecolourLine
from heliograph.core.playing.state import Painting
from heliograph.power import Step
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.driving import driven, now_of, phase_of
from heliograph.render.masking import Masking, masking_of, share_of
from heliograph.render.mixing import Playing
from heliograph.render.painting import Painter
from heliograph.render.points import averaged, painted_points


def look_steps(playing: Playing, painter: Painter, painting: Painting, cell: int, named_look: str) -> Iterator[Step]:
    """What each line of one look paints on the one cell of a `painter`."""
    lines, run = playing.lines, playing.run
    now = now_of(painting)
    solo = any(one.line.solo and one.line.paints_itself for one in lines)
    for place, stored in enumerate(lines, start=1):
        if not stored.line.pictured:
            continue
        one = driven(stored, run, now)
        phase = phase_of(one, run, now)
        named = f"{named_look}, line {place}"
        silent = _silent(one, solo)
        if phase is None or silent:
            yield Step("silent", f"{named} is {silent}.", {"look": run.look, "line": one.line.id})
            continue
        masking = masking_of(one, run, now)
        onto = painter if one.plane is None else painter.over_emitter(one.plane)
        before = rgb_of(onto.pixels)
        found = _laid(onto, one, phase, masking, cell)
        if found is None:
            continue
        colour, cover = found
        by_hand = ", moved by hand," if one.line.id in painting.held else ""
        by_hand += f", {_listed(one)} driven," if one.line.drives else ""
        only = f", only its {one.line.only}" if one.line.only else ""
        if one.plane is not None:
            share = f"{colour[0] * 100:.0f} % on {one.line.emitter} alone"
            said = f"{named}{by_hand} lays {share}, covering {cover * 100:.0f} %"
        elif isinstance(one.line, RecolourLine):
            said = f"{named}{by_hand} recolours {cover * 100:.0f} % of what lies beneath{only}, {one.line.blend}"
        else:
            said = f"{named}{by_hand} paints {percent_of(colour)}, covering {cover * 100:.0f} %{only}, {one.line.blend}"
        if one.mask is not None and masking is not None:
            said += f", through line {1 + [other.line.id for other in lines].index(one.mask.line.id)}"
        numbers = {
            "look": run.look,
            "line": one.line.id,
            "blend": one.line.blend,
            "only": one.line.only,
            "colour": colour,
            "cover": cover,
            "before": before,
            "after": rgb_of(onto.pixels),
        }
        yield Step("line", f"{said}: {percent_of(rgb_of(onto.pixels))}.", numbers)


def _silent(one: CompiledLine, solo: bool) -> str:
    """Why a line paints nothing itself; "" where it does."""
    if one.line.mute:
        return "muted"
    if one.line.stencil:
        return "a stencil: others are painted through it"
    if solo and not one.line.solo:
        return "not solo"
    return "at 0 %" if one.opacity <= 0.0 else ""


def _listed(one: CompiledLine) -> str:
    """ "width and opacity": what is driven of a line."""
    names = [name.removeprefix(PARAMS) for name in one.line.drives]
    return f"{', '.join(names[:-1])} and {names[-1]}" if len(names) > 1 else names[0]


def _laid(
    painter: Painter, one: CompiledLine, phase: float, masking: Masking | None, cell: int
) -> tuple[list[float], float] | None:
    """Lays a line on the one cell of a `painter`, as it is painted on all: its colour there and its cover 0..1; None
    where its matrix does not reach it."""
    opacity, line = one.opacity, one.line
    own = np.array([0])
    if isinstance(line, RecolourLine):
        for part, cells in one.matrix.parts:
            there = np.flatnonzero(as_array(cells) == cell)
            if there.size:
                share = share_of(one, masking, part)
                at = part.start + int(there[0])
                lets = None if share is None else share[there[:1]]
                painter.recolour(one, phase, opacity, slice(at, at + 1), own, lets)
                return rgb_of(painter.pixels), opacity * (1.0 if lets is None else float(lets[0]))
        return None
    found = _on_cell(one, phase, masking, cell)
    if found is None:
        return None
    colour, cover = painter.own(found[0]), found[1]
    painter.blend(line.blend, own, colour, np.array([cover], dtype=np.float32), line.writes)
    return rgb_of(colour), cover


def _on_cell(one: CompiledLine, phase: float, masking: Masking | None, cell: int) -> tuple[Floats, float] | None:
    """Colour (3, 1) and cover 0..1 of a line on one cell; None where its matrix does not reach it."""
    opacity = one.opacity
    for spread in one.matrix.spreads:
        there = np.flatnonzero(spread.cells == cell)
        if there.size:
            share = share_of(one, masking, spread.part)
            points = painted_points(one, spread.part, phase, opacity, share)
            return _nth(*averaged(*points, spread.starts, spread.weight), int(there[0])) if points else None
    for part, cells in one.matrix.parts:
        there = np.flatnonzero(as_array(cells) == cell)
        if there.size:
            points = painted_points(one, part, phase, opacity, share_of(one, masking, part))
            return _nth(*points, int(there[0])) if points else None
    return None


def _nth(colour: Floats, cover: Floats, n: int) -> tuple[Floats, float]:
    return colour[:, n : n + 1], float(cover[n])


def rgb_of(pixel: Floats) -> list[float]:
    return [float(value) for value in pixel[:, 0]]


def percent_of(rgb: list[float]) -> str:
    return " ".join(f"{part * 100:.0f}" for part in rgb) + " %"
