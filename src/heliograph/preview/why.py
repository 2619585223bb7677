"""Why a channel has its value: the whole chain that made it, step by step with numbers, for one sent frame.

Each step works with the same functions as the engine, on one cell; a step's `numbers` are enough to do it again.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import dimmer_values
from heliograph.core.colour.extraction import EMITTER_ATTRIBUTES, HUE, SATURATION, extract
from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.response import respond
from heliograph.core.colour.tinting import Tint, tint
from heliograph.core.indexes import as_array
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import Painting, PlaybackState
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.core.profiles.attributes import word_of
from heliograph.power import Chain, Stage, Step
from heliograph.render.compiled import CompiledLine, CompiledShow
from heliograph.render.emission import GroupPlan
from heliograph.render.mixing import Playing, laid
from heliograph.render.painting import Painter, averaged, painted_points
from heliograph.render.resolving import Resolver

Ints = npt.NDArray[np.int64]


def why(
    show: CompiledShow,
    stages: Sequence[Stage],
    state: PlaybackState,
    show_ns: int,
    position: int,
    names: Mapping[str, str],
) -> Chain:
    """The chain of the channel at `position` (absolute, from 0). `stages`: the show's; `names`: of looks and groups."""
    emission = show.emission
    universe = position // SLOTS + 1
    row = int(np.searchsorted(emission.universes, universe))
    if row >= emission.universes.size or emission.universes[row] != universe:
        return Chain(0, [Step("nothing", f"U{universe} carries no fixture and no output sends it.")])
    at = row * SLOTS + position % SLOTS
    chain = Chain(0, [])
    _made(chain, show, state, show_ns, int(emission.source[at]), names)
    for stage in stages:
        stage.explain(chain, state, at)
    return chain


def _made(
    chain: Chain, show: CompiledShow, state: PlaybackState, show_ns: int, source: int, names: Mapping[str, str]
) -> None:
    """What looks, masters and rest values make of the channel."""
    emission, cells = show.emission, show.rig.cell_count
    if source >= emission.constants_at:
        chain.value = source - emission.constants_at
        chain.steps.append(Step("rest", f"Its rest value is {chain.value}; no look drives it.", {"value": chain.value}))
    elif source >= emission.dimmers_at:
        _dimmer(chain, show, state, source - emission.dimmers_at, names)
    elif source == 0:
        chain.steps.append(Step("nothing", "Nothing drives it.", {"value": 0}))
    elif source <= 3 * cells:
        plane, cell = divmod(source - 1, cells)
        _emitter(chain, show, state, show_ns, cell, plane, False, names)
    else:
        for group in emission.groups:
            for emitter, span in zip(group.colour.recipe.extras, group.extras, strict=True):
                if span.start <= source < span.stop:
                    cell = int(group.colour.cells[source - span.start])
                    _emitter(chain, show, state, show_ns, cell, emitter, False, names)
            for emitter, span in group.fines.items():
                if span.start <= source < span.stop:
                    cell = int(group.colour.cells[source - span.start])
                    _emitter(chain, show, state, show_ns, cell, emitter, True, names)


def _emitter(
    chain: Chain,
    show: CompiledShow,
    state: PlaybackState,
    show_ns: int,
    cell: int,
    plane: int,
    low: bool,
    names: Mapping[str, str],
) -> None:
    pixel = np.zeros((3, 1), dtype=np.float32)
    for step in paint_steps(show, state, show_ns, cell, pixel, names):
        chain.steps.append(step)
    if state.walk and state.walk.alone:
        pixel[:] = 0.0
        chain.steps.append(Step("alone", "A test walk keeps everything dark that it does not light.", {}))
    scaled = np.clip(pixel, 0.0, 1.0)
    factors = _factors(show, state, int(show.rig.fixture_of[cell]), bool(show.emission.virtual[cell]), names)
    level = np.float32(1.0)
    for _, factor in factors:
        level = np.float32(level * np.float32(factor))
    before = _rgb(scaled)
    scaled = scaled * level
    said = " × ".join(f"{name} {factor * 100:g} %" for name, factor in factors) or "no master stands above it"
    chain.steps.append(
        Step("level", f"Masters: {said}.", {"factors": factors, "before": before, "after": _rgb(scaled)})
    )
    group = next((one for one in show.emission.groups if cell in one.colour.cells), None)
    value = float(scaled[plane, 0]) if plane < 3 else 0.0
    wide = False
    if group is not None:
        value, wide = _of_group(chain, group, scaled, plane)
    name = word_of(EMITTER_ATTRIBUTES[plane])
    if wide:
        both = int(np.float32(value) * np.float32(65535.0) + np.float32(0.5))
        chain.value = both & 255 if low else both >> 8
        said = f"{name} {value * 100:.1f} % in 16 bit is {both >> 8}, {both & 255}"
    else:
        chain.value = int(np.float32(value) * np.float32(255.0) + np.float32(0.5))
        said = f"{name} {value * 100:.1f} % is {chain.value} of 255"
    part = "low" if low else "high" if wide else "whole"
    chain.steps.append(Step("byte", f"{said}.", {"level": value, "part": part, "value": chain.value}))


def _of_group(chain: Chain, group: GroupPlan, scaled: Floats, plane: int) -> tuple[float, bool]:
    recipe, response = group.colour.recipe, group.colour.response
    rest, extras = extract(recipe, scaled)
    found = {n: float(rest[n, 0]) for n in range(3)}
    found |= {emitter: float(extras[n, 0]) for n, emitter in enumerate(recipe.extras)}
    named = {EMITTER_ATTRIBUTES[n]: level for n, level in found.items() if n in recipe.emitters}
    if recipe.extras:
        said = ", ".join(f"{word_of(name)} {level * 100:.1f} %" for name, level in named.items())
        used = {"use": recipe.extra, "before": _rgb(scaled), "after": named}
        chain.steps.append(Step("emitters", f"The colour on its emitters ({recipe.extra}): {said}.", used))
    value = found.get(plane, 0.0)
    if response != "as is" and plane not in (HUE, SATURATION):
        answer = float(respond(response, np.array([value], dtype=np.float32))[0])
        numbers = {"name": response, "before": value, "after": answer}
        chain.steps.append(
            Step("response", f"Response {response}: {value * 100:.1f} % becomes {answer * 100:.1f} %.", numbers)
        )
        value = answer
    return value, plane in group.fines


def paint_steps(
    show: CompiledShow, state: PlaybackState, show_ns: int, cell: int, pixel: Floats, names: Mapping[str, str]
) -> Iterator[Step]:
    """What each line of each running look paints on the cell, how looks are laid on one another, and tints; `pixel`
    (3, 1) is left as they make it."""
    painting = state.painting(show_ns)
    if state.freeze:
        said = f"Frozen: it is painted as at show time {painting.time_ns / NS_PER_S:.2f} s."
        yield Step("frozen", said, {"show_ns": painting.time_ns})
    first = True
    for playing in Resolver().playing(show, painting):
        look, level = playing.run.look, playing.level
        named = names.get(look, "a look")
        if not playing.lines:
            continue
        if level <= 0.0:
            yield Step("silent", f"{named} is at 0 %.", {"look": look})
            continue
        picture, cover = np.zeros((3, 1), dtype=np.float32), np.zeros(1, dtype=np.float32)
        yield from _look_steps(playing, Painter(picture, cover), painting, cell, named)
        yield from _tint_steps(picture, playing.tint, named)
        if first and level >= 1.0:
            pixel[:] = picture
        else:
            before, own, covered = _rgb(pixel), _rgb(picture), float(cover[0])
            laid(pixel, picture, cover, level)
            said = f"{named} at {level * 100:.0f} %, covering {covered * 100:.0f} % beneath it"
            numbers = {"look": look, "level": level, "cover": covered, "picture": own, "before": before}
            yield Step("look", f"{said}: {_percent(_rgb(pixel))}.", numbers | {"after": _rgb(pixel)})
        first = False
    yield from _tint_steps(pixel, painting.tint, "The show")
    for group, tinted in painting.group_tints.items():
        if group in show.groups and show.rig.fixture_of[cell] in show.groups[group]:
            yield from _tint_steps(pixel, tinted, names.get(group, "A group"))


def _tint_steps(pixel: Floats, by: Tint, named: str) -> Iterator[Step]:
    if by.amount <= 0.0:
        return
    before = _rgb(pixel)
    tint(pixel, by)
    said = f"{named} is tinted {by.amount * 100:.0f} % towards {by.hue:.0f} degrees: {_percent(_rgb(pixel))}."
    yield Step("tint", said, {"hue": by.hue, "amount": by.amount, "before": before, "after": _rgb(pixel)})


def _look_steps(playing: Playing, painter: Painter, painting: Painting, cell: int, named_look: str) -> Iterator[Step]:
    """What each line of one look paints on the one cell of a `painter`."""
    lines, run = playing.lines, playing.run
    solo = any(one.line.solo and not one.line.mute for one in lines)
    for place, one in enumerate(lines, start=1):
        anchor = run.phases.get(one.line.id)
        named = f"{named_look}, line {place}"
        if anchor is None or one.line.opacity <= 0.0 or one.line.mute or (solo and not one.line.solo):
            silent = "muted" if one.line.mute else "not solo" if solo else "at 0 %"
            yield Step("silent", f"{named} is {silent}.", {"look": run.look, "line": one.line.id})
            continue
        found = _on_cell(one, anchor.phase_at(painting.time_ns, painting.beat), one.line.opacity, cell)
        if found is None:
            continue
        colour, cover = found
        before = _rgb(painter.pixels)
        painter.blend(one.line.blend, np.array([0]), colour, np.array([cover], dtype=np.float32))
        by_hand = ", moved by hand," if one.line.id in painting.held else ""
        said = f"{named}{by_hand} paints {_percent(_rgb(colour))}, covering {cover * 100:.0f} %, {one.line.blend}"
        numbers = {
            "look": run.look,
            "line": one.line.id,
            "blend": one.line.blend,
            "colour": _rgb(colour),
            "cover": cover,
            "before": before,
            "after": _rgb(painter.pixels),
        }
        yield Step("line", f"{said}: {_percent(_rgb(painter.pixels))}.", numbers)


def _on_cell(one: CompiledLine, phase: float, opacity: float, cell: int) -> tuple[Floats, float] | None:
    """Colour (3, 1) and cover 0..1 of a line on one cell; None where its matrix does not reach it."""
    for spread in one.matrix.spreads:
        there = np.flatnonzero(spread.cells == cell)
        if there.size:
            points = painted_points(one, spread.part, phase, opacity)
            return _nth(*averaged(*points, spread.starts, spread.weight), int(there[0])) if points else None
    for part, cells in one.matrix.parts:
        there = np.flatnonzero(as_array(cells) == cell)
        if there.size:
            points = painted_points(one, part, phase, opacity)
            return _nth(*points, int(there[0])) if points else None
    return None


def _nth(colour: Floats, cover: Floats, n: int) -> tuple[Floats, float]:
    return colour[:, n : n + 1], float(cover[n])


def _dimmer(chain: Chain, show: CompiledShow, state: PlaybackState, index: int, names: Mapping[str, str]) -> None:
    dimmers = show.rig.dimmers
    low, index = index >= dimmers.count, index % dimmers.count
    drive = next(drive for drive, which in dimmers.drives if index in which)
    factors = _factors(show, state, int(dimmers.fixture[index]), True, names)
    inner = bool(dimmers.inner[index])
    if inner:  # it dims below another one, which takes the masters: this one stays open
        factors = []
    if state.walk and state.walk.alone:
        factors = [("test walk", 0.0)]
    level = np.float32(1.0)
    for _, factor in factors:
        level = np.float32(level * np.float32(factor))
    both = int(dimmer_values(drive, np.array([level], dtype=np.float32))[0])
    chain.value = both & 255 if low else both >> 8
    said = " × ".join(f"{name} {factor * 100:g} %" for name, factor in factors) or "nothing dims it"
    numbers = {"factors": factors, "level": float(level), "value": chain.value}
    chain.steps.append(Step("dimmer", f"A dimmer held open for the pixels: {said} is {chain.value}.", numbers))


def _factors(
    show: CompiledShow, state: PlaybackState, fixture: int, dims: bool, names: Mapping[str, str]
) -> list[tuple[str, float]]:
    """Masters above a fixture, one by one; none where a real dimmer takes them."""
    if not dims:
        return []
    factors = [("grand master", state.master)]
    for group, level in state.masters.items():
        if group in show.groups and fixture in show.groups[group]:
            factors.append((names.get(group, "a group"), level))
    return factors


def _rgb(pixel: Floats) -> list[float]:
    return [float(value) for value in pixel[:, 0]]


def _percent(rgb: list[float]) -> str:
    return " ".join(f"{part * 100:.0f}" for part in rgb) + " %"
