"""Why a cell is as cue lists mix it: what each cue makes of it, by which weight."""

from __future__ import annotations

from collections.abc import Generator, Iterator, Mapping

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.tinting import Tint, tint
from heliograph.core.playing.score import Score, written
from heliograph.core.playing.state import Painting
from heliograph.power import Step
from heliograph.preview.why_lines import look_steps, percent_of, rgb_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.direct import Direct
from heliograph.render.layers import Layer, only_there
from heliograph.render.mixing import CueMixed, ListMixed, Playing
from heliograph.render.painting import Painter

Names = Mapping[str, str]


def _entry_called(score: Score, mixed: CueMixed, names: Names) -> str:
    """An entry of a score by what it plays and from where."""
    entry = next((one for one in score.entries if one.id == mixed.cue.partition("@")[0]), None)
    plays = names.get(mixed.playing[0].run.look, "an entry") if mixed.playing else "an entry"
    return f"{plays} from {written(entry.at)}" if entry else "an entry that is gone"


def tint_steps(pixel: Floats, by: Tint, named: str) -> Iterator[Step]:
    if by.amount <= 0.0:
        return
    before = rgb_of(pixel)
    tint(pixel, by)
    said = f"{named} is tinted {by.amount * 100:.0f} % towards {by.hue:.0f} degrees: {percent_of(rgb_of(pixel))}."
    yield Step("tint", said, {"hue": by.hue, "amount": by.amount, "before": before, "after": rgb_of(pixel)})


def painted_steps(
    show: CompiledShow, one: Playing, painting: Painting, cell: int, named: str
) -> Generator[Step, None, Painter]:
    """What one run paints on the cell."""
    painter = Painter(np.zeros((3, 1), dtype=np.float32), np.zeros(1, dtype=np.float32))
    yield from look_steps(one, painter, painting, cell, named)
    yield from tint_steps(painter.pixels, one.tint, named)
    if one.group in show.groups and show.rig.fixture_of[cell] not in show.groups[one.group]:
        only_there(painter, np.zeros(1, dtype=np.bool_))
        yield Step("silent", f"{named} plays only over a group that this is not of.", {"look": one.run.look})
    return painter


def list_steps(
    show: CompiledShow,
    mixed: ListMixed,
    painting: Painting,
    cell: int,
    pixel: Floats,
    names: Names,
    over: tuple[int, Direct] | None,
) -> Iterator[Step]:
    """What each cue of a list makes of the cell, and their sum by weights, laid on `pixel` (3, 1)."""
    score = show.ground.scores.get(mixed.list)
    known = show.ground.lists.get(mixed.list)
    whole, own = Layer(1), Layer(1)
    planes = [over[0]] if over is not None else []
    whole.clear(planes)
    for cue in mixed.cues:
        if score is not None:
            called = _entry_called(score, cue, names)
        else:
            stored = known.cue(cue.cue) if known else None
            called = f"cue {stored.said}" if stored else "a cue that is gone"
        if cue.weight <= 0.0:
            yield Step("silent", f"{called} is at 0 %.", {"cue": cue.cue})
            continue
        own.clear(planes)
        for one in cue.playing:
            if one.lines and one.level > 0.0:
                painter = yield from painted_steps(show, one, painting, cell, names.get(one.run.look, "a look"))
                own.lay(painter, one.level)
        before = rgb_of(whole.pixels)
        whole.add(own, cue.weight)
        said = f"{called} adds {cue.weight * 100:.0f} % of that: {percent_of(rgb_of(whole.pixels))}."
        numbers = {"cue": cue.cue, "weight": cue.weight, "picture": rgb_of(own.pixels), "before": before}
        yield Step("cue", said, numbers | {"after": rgb_of(whole.pixels)})
    before, covered = rgb_of(pixel), float(whole.cover[0])
    whole.onto(pixel, {} if over is None else {over[0]: over[1]}, mixed.level)
    whose = known or score
    named = whose.name if whose else "A list"
    said = f"{named} at {mixed.level * 100:.0f} %, covering {covered * 100:.0f} % beneath it: "
    numbers = {"list": mixed.list, "level": mixed.level, "cover": covered, "before": before, "after": rgb_of(pixel)}
    yield Step("list", f"{said}{percent_of(rgb_of(pixel))}.", numbers)
