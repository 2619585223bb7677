"""Why a channel has its value, and why a lamp is dark."""

from __future__ import annotations

from typing import Any

import msgspec
import numpy as np
from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.animations import said_of_animations
from heliograph.api.context import Context
from heliograph.api.darkness import DarkCell, why_dark
from heliograph.api.edits import ContextOf
from heliograph.core.colour.dimming import DimmerDrive, dimmer_levels
from heliograph.core.errors import InputError, UnavailableError
from heliograph.core.hand.animations import animates, cell_emitters
from heliograph.core.patch.dmx import Address, address_at, spell_number
from heliograph.core.patch.places import channel_positions
from heliograph.core.rig.arrays import Rig, RigFixture
from heliograph.ipc.messages.preview import AskWhy, WhyAnswer, WhyChannel
from heliograph.store import rows
from heliograph.store.database import connected

router = APIRouter(prefix="/api", tags=["why"])

POSITIONS_MAX = 128
"""Channels explained for one answer: each is worked out by itself."""


@router.get("/why/{universe}/{channel}")
def why_channel(universe: int, channel: int, context: ContextOf, frame: int | None = None) -> schemas.WhyChannel:
    """The value of a channel and the whole chain that made it, now or in a `frame` that is still kept."""
    position = Address(universe, channel).position
    answer = _ask(context, [position], frame)
    return _view(context, answer, answer.channels[0], position)


@router.post("/why-still")
def why_animations_are_still(body: schemas.ChosenFixtures, context: ContextOf) -> schemas.SaidOfAnimations:
    """Why nothing shows of animations that these fixtures make themselves: asked while values are set by hand."""
    return schemas.SaidOfAnimations(said=said_of_animations(context, body.fixtures))


@router.get("/why-dark/{fixture_id}/{cell}")
def why_cell_is_dark(fixture_id: str, cell: int, context: ContextOf) -> schemas.WhyDark:
    """The first broken link between what plays and the light of a cell (from 1; 0: a fixture without cells)."""
    fixture = context.publisher.current.rig.fixtures.get(fixture_id)
    if fixture is None:
        raise InputError("There is no such fixture.", where="fixture", repair="Choose one of the list.")
    if not 0 <= cell <= fixture.mode.cell_count:
        raise InputError(f"{fixture.number} has {fixture.mode.cell_count} cells.", where="cell")
    positions = _emitters_of(fixture, cell)
    dimmers = _dimmers_of(context.publisher.current.rig, fixture, cell)
    answer = _ask(context, [*positions, *(position for position, _, _ in dimmers)])
    channels: list[dict[str, Any]] = msgspec.to_builtins(answer.channels)
    explained = channels[len(positions) :]
    dark = DarkCell(
        fixture,
        max(cell, 1),
        positions,
        channels[: len(positions)],
        dict(context.publisher.current.sections),
        msgspec.to_builtins(context.engine_status()) or {},
        msgspec.to_builtins(context.receiver_status()) or {},
        _names(context),
        [
            (str(address_at(position)), _level_of(drive, one["value"] ^ (255 if inverted else 0)), one)
            for (position, drive, inverted), one in zip(dimmers, explained, strict=True)
        ],
        background=cell == 0 and fixture.mode.cell_count > 0,
    )
    return why_dark(dark)


def _dimmers_of(rig: Rig, fixture: RigFixture, cell: int) -> list[tuple[int, DimmerDrive, bool]]:
    """(position, how it is driven, inverted) of the real dimmers above a cell: its own and its fixture's."""
    if not fixture.mode.cell_count or not cell:
        return []
    found = []
    for index in rig.dimmers.of_cell[fixture.first_cell + cell - 1].tolist():
        if index >= 0:
            drive = next(drive for drive, which in rig.dimmers.drives if index in which)
            position = int(rig.dimmers.coarse[index])
            found.append((position, drive, position in rig.inverted))
    return found


def _level_of(drive: DimmerDrive, value: int) -> float:
    coarse = np.array([value], dtype=np.uint8)
    return float(dimmer_levels(drive, coarse, np.zeros(1, dtype=np.uint8))[0])


def _ask(context: Context, positions: list[int], frame: int | None = None) -> WhyAnswer:
    answer = context.preview.ask(AskWhy(positions=positions, names=_names(context), at=frame))
    if answer.frame is None:
        raise UnavailableError("No frame has been sent yet.", repair="The engine is starting; try again.")
    return answer


def _names(context: Context) -> dict[str, str]:
    sections = context.publisher.current.sections
    names = {one["id"]: str(one["name"]) for key, one in sections.items() if key.startswith("look:")}
    try:
        with connected():
            show = rows.running_show()
            names |= {one["id"]: str(one["name"]) for one in rows.all_of("group", show["id"])}
    except UnavailableError:
        pass  # the database is away: groups go without their names
    return names


def _emitters_of(fixture: RigFixture, cell: int) -> list[int]:
    """Positions of what makes the light of a cell: its emitters; of the shared part (0): its channels and the pixels
    that may hide it."""
    at = 0
    for placed in fixture.placed:
        block = placed.block
        if at < cell <= at + block.cell_count:
            row = placed.cells[cell - at - 1].tolist()
            lit = [p for p, channel in zip(row, block.cell_channels, strict=True) if channel.is_emitter and p >= 0]
            return lit or [p for p in row if p >= 0]
        at += block.cell_count
    shared = [position for placed in fixture.placed for position in placed.shared.tolist()]
    hiding = [p for placed in fixture.placed if placed.block.hides for p in placed.cells.reshape(-1).tolist()]
    if animates(fixture.mode):
        hiding = [*hiding, *cell_emitters(fixture)]
    every = channel_positions(fixture.placed).tolist() if fixture.placed and not shared else []
    return [position for position in (*shared, *hiding, *every) if position >= 0][:POSITIONS_MAX]


def _view(context: Context, answer: WhyAnswer, one: WhyChannel, position: int) -> schemas.WhyChannel:
    address = address_at(position)
    outputs = context.publisher.current.sections.get("outputs", {"outputs": []})["outputs"]
    ways = []
    for output in outputs:
        if output["first_universe"] <= address.universe < output["first_universe"] + output["count"]:
            number = output["first_number"] + address.universe - output["first_universe"]
            how = "" if output["on"] else ", which is off"
            how = ", muted" if output["on"] and output.get("mute") else how
            ways.append(f"{output['name']}{how}: {spell_number(output['protocol'], number)}")
    return schemas.WhyChannel(
        universe=address.universe,
        channel=address.channel,
        frame=answer.frame or 0,
        sent=one.sent,
        value=one.value,
        made=one.made,
        exact=answer.exact,
        frozen=answer.frozen,
        steps=[schemas.WhyStep(**msgspec.structs.asdict(step)) for step in one.steps],
        ways=ways,
    )
