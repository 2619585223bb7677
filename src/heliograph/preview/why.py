"""Why a channel has its value: the whole chain that made it, step by step with numbers, for one sent frame.

Each step works with the same functions as the engine, on one cell; a step's `numbers` are enough to do it again.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import dimmer_values
from heliograph.core.colour.extraction import BLUE, EMITTER_ATTRIBUTES, GREEN, HUE, RED, SATURATION, Recipe, extract
from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.response import respond
from heliograph.core.colour.tinting import tint
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.core.profiles.attributes import word_of
from heliograph.power import Chain, Stage, Step, set_by_lines
from heliograph.preview.why_lines import percent_of, rgb_of
from heliograph.preview.why_lists import list_steps, painted_steps, tint_steps
from heliograph.render.compiled import CompiledShow
from heliograph.render.direct import Direct
from heliograph.render.driving import now_of
from heliograph.render.emission import Beside, GroupPlan
from heliograph.render.layers import laid
from heliograph.render.mixing import ListMixed
from heliograph.render.resolving import Resolver
from heliograph.render.setting import told_of

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
    painting = state.painting(show_ns)
    by_lines = set_by_lines(stages)
    by_lines.told, by_lines.names = (
        told_of(Resolver().stack(show, painting), now_of(painting), show.groups, show.rig),
        names,
    )
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
        for beside in emission.beside:
            if beside.span.start <= source < beside.span.stop:
                which = source - beside.span.start
                _beside(chain, show, state, show_ns, beside, which, names)
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
    chain.plane = plane
    pixel, direct = np.zeros((3, 1), dtype=np.float32), Direct.nothing(1)
    for step in paint_steps(show, state, show_ns, cell, pixel, names, (plane, direct)):
        chain.steps.append(step)
    if state.walk and state.walk.alone:
        pixel[:] = 0.0
        direct.clear()
        chain.steps.append(Step("alone", "A test walk keeps everything dark that it does not light.", {}))
    scaled = np.clip(pixel, 0.0, 1.0)
    factors = _factors(show, state, int(show.rig.fixture_of[cell]), bool(show.emission.virtual[cell]), names)
    level = np.float32(1.0)
    for _, factor in factors:
        level = np.float32(level * np.float32(factor))
    before = rgb_of(scaled)
    scaled = scaled * level
    said = " × ".join(f"{name} {factor * 100:g} %" for name, factor in factors) or "no master stands above it"
    chain.steps.append(
        Step("level", f"Masters: {said}.", {"factors": factors, "before": before, "after": rgb_of(scaled)})
    )
    group = next((one for one in show.emission.groups if cell in one.colour.cells), None)
    said_alone = direct if direct.cover[0] > 0.0 else None
    value = float(scaled[plane, 0]) if plane < 3 else 0.0
    wide = False
    if group is not None:
        value, wide = _of_group(chain, group, scaled, plane, said_alone, level)
    elif said_alone is not None:
        value = _alone(chain, Recipe((RED, GREEN, BLUE)), plane, said_alone, level)
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


def _beside(
    chain: Chain,
    show: CompiledShow,
    state: PlaybackState,
    show_ns: int,
    beside: Beside,
    which: int,
    names: Mapping[str, str],
) -> None:
    """An emitter that no colour drives: at home, but for what lines say of it."""
    cell, home = int(beside.cells[which]), int(beside.home[which])
    pixel, direct = np.zeros((3, 1), dtype=np.float32), Direct.nothing(1)
    steps = list(paint_steps(show, state, show_ns, cell, pixel, names, (beside.plane, direct)))
    alone = state.walk is not None and state.walk.alone
    cover = min(float(direct.cover[0]), 1.0)
    if alone or cover <= 0.0:
        chain.value = home
        chain.steps.append(Step("rest", f"Its rest value is {home}; no look drives it.", {"value": home}))
        return
    chain.steps.extend(steps)
    factors = _factors(show, state, int(show.rig.fixture_of[cell]), bool(show.emission.virtual[cell]), names)
    level = float(np.prod([factor for _, factor in factors], dtype=np.float32)) if factors else 1.0
    said = " × ".join(f"{name} {factor * 100:g} %" for name, factor in factors) or "no master stands above it"
    chain.steps.append(Step("level", f"Masters: {said}.", {"factors": factors}))
    value = min(home / 255.0 * (1.0 - cover) + min(float(direct.level[0]), 1.0) * level, 1.0)
    chain.value = int(np.float32(value) * np.float32(255.0) + np.float32(0.5))
    name = word_of(EMITTER_ATTRIBUTES[beside.plane])
    chain.steps.append(Step("byte", f"{name} {value * 100:.1f} % is {chain.value} of 255.", {"level": value}))


def _alone(chain: Chain, recipe: Recipe, plane: int, direct: Direct, level: np.float32) -> float:
    """What lines say of one emitter, and what the rest of the picture makes of it by its colour: 0..1."""
    kept, others = extract(recipe, np.clip(direct.rest, 0.0, 1.0) * level)
    by_colour = float(kept[plane, 0] if plane < 3 else others[recipe.extras.index(plane), 0])
    own = float(direct.level[0]) * float(level)
    value = min(by_colour + own, 1.0)
    name = word_of(EMITTER_ATTRIBUTES[plane])
    said = f"{name} by itself {own * 100:.1f} %, by what is left of the colour {by_colour * 100:.1f} %"
    numbers = {"own": own, "by_colour": by_colour, "value": value}
    chain.steps.append(Step("alone on it", f"{said}: {value * 100:.1f} %.", numbers))
    return value


def _of_group(
    chain: Chain, group: GroupPlan, scaled: Floats, plane: int, alone: Direct | None, level: np.float32
) -> tuple[float, bool]:
    recipe, response = group.colour.recipe, group.colour.response
    rest, extras = extract(recipe, scaled)
    found = {n: float(rest[n, 0]) for n in range(3)}
    found |= {emitter: float(extras[n, 0]) for n, emitter in enumerate(recipe.extras)}
    named = {EMITTER_ATTRIBUTES[n]: level for n, level in found.items() if n in recipe.emitters}
    if recipe.extras:
        said = ", ".join(f"{word_of(name)} {level * 100:.1f} %" for name, level in named.items())
        used = {"use": recipe.extra, "before": rgb_of(scaled), "after": named}
        chain.steps.append(Step("emitters", f"The colour on its emitters ({recipe.extra}): {said}.", used))
    value = found.get(plane, 0.0)
    if alone is not None and (plane < 3 or plane in recipe.extras):
        value = _alone(chain, recipe, plane, alone, level)
    if response != "as is" and plane not in (HUE, SATURATION):
        answer = float(respond(response, np.array([value], dtype=np.float32))[0])
        numbers = {"name": response, "before": value, "after": answer}
        chain.steps.append(
            Step("response", f"Response {response}: {value * 100:.1f} % becomes {answer * 100:.1f} %.", numbers)
        )
        value = answer
    return value, plane in group.fines


def paint_steps(
    show: CompiledShow,
    state: PlaybackState,
    show_ns: int,
    cell: int,
    pixel: Floats,
    names: Mapping[str, str],
    over: tuple[int, Direct] | None = None,
) -> Iterator[Step]:
    """What each line of each running look paints on the cell, how looks are laid on one another, and tints; `pixel`
    (3, 1) is left as they make it, and so is what they say of one emitter, `over`: its plane, and where that goes."""
    painting = state.painting(show_ns)
    if state.freeze:
        said = f"Frozen: it is painted as at show time {painting.time_ns / NS_PER_S:.2f} s."
        yield Step("frozen", said, {"show_ns": painting.time_ns})
    first = True
    for one in Resolver().stack(show, painting):
        if isinstance(one, ListMixed):
            yield from list_steps(show, one, painting, cell, pixel, names, over)
            first = False
            continue
        look, level = one.run.look, one.level
        named = names.get(look, "a look")
        if not one.lines:
            continue
        if level <= 0.0:
            yield Step("silent", f"{named} is at 0 %.", {"look": look})
            continue
        painter = yield from painted_steps(show, one, painting, cell, named)
        picture, cover = painter.pixels, painter.cover
        assert cover is not None
        if over is not None:
            over[1].lay(picture, cover, painter.levels.get(over[0]), level)
        if first and level >= 1.0 and not one.group:
            pixel[:] = picture
        else:
            before, own, covered = rgb_of(pixel), rgb_of(picture), float(cover[0])
            laid(pixel, picture, cover, level)
            said = f"{named} at {level * 100:.0f} %, covering {covered * 100:.0f} % beneath it"
            numbers = {"look": look, "level": level, "cover": covered, "picture": own, "before": before}
            yield Step("look", f"{said}: {percent_of(rgb_of(pixel))}.", numbers | {"after": rgb_of(pixel)})
        first = False
    yield from tint_steps(pixel, painting.tint, "The show")
    if over is not None:
        tint(over[1].rest, painting.tint)
    for group, tinted in painting.group_tints.items():
        if group in show.groups and show.rig.fixture_of[cell] in show.groups[group]:
            yield from tint_steps(pixel, tinted, names.get(group, "A group"))
            if over is not None:
                tint(over[1].rest, tinted)


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
