"""Looks and their lines."""

from __future__ import annotations

import io
import secrets
from dataclasses import asdict
from functools import lru_cache
from typing import Annotated, Any
from uuid import UUID

import msgspec
from fastapi import APIRouter, Query
from PIL import Image
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.animations import said_of_animations
from heliograph.api.attributes import attributes_view, check_typed, chosen_by
from heliograph.api.beforehand import telling_others
from heliograph.api.canvases import check_selection, emitters_over
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.colour.flashes import LIMIT
from heliograph.core.look.canvas import painted_over
from heliograph.core.look.chart import chart_of
from heliograph.core.look.drive import drive_from_json
from heliograph.core.look.feeds import feed_from
from heliograph.core.look.line import DOES, AttributeLine
from heliograph.core.look.parameter import Parameter
from heliograph.core.look.paths import PATHS
from heliograph.core.look.recolour import RECOLOUR
from heliograph.core.look.ribbon import ribbon_chart, ribbon_from_json
from heliograph.edits import looks
from heliograph.edits.deleting import delete
from heliograph.effects import EFFECTS, effect_named, unsuited
from heliograph.effects.miniature import RATE, miniature, shape_of
from heliograph.ipc.messages.preview import AskFlashes, AskMotion, FlashesFound
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Work

router = APIRouter(prefix="/api", tags=["looks"])


SEEDS = 10_000
"""Seeds drawn by chance are short enough to be read out."""


@router.get("/effects")
def list_effects(width: int = 0, height: int = 0) -> list[schemas.EffectView]:
    """The built-in effects with their parameters, and how they suit a matrix of this size."""
    return [
        schemas.EffectView(
            name=effect.name,
            says=effect.says,
            words=list(effect.words),
            moves=effect.moves,
            unsuited=unsuited(effect, width, height) if width and height else "",
            parameters=_parameters(effect.parameters),
        )
        for effect in sorted(EFFECTS.values(), key=lambda one: one.name)
    ]


@router.get("/recolouring")
def recolouring() -> list[schemas.EffectParameter]:
    """The parameters of lines that recolour."""
    return _parameters(RECOLOUR)


def _parameters(given: tuple[Parameter, ...]) -> list[schemas.EffectParameter]:
    return [
        schemas.EffectParameter(
            name=p.name,
            kind=p.kind,
            default=p.default,
            minimum=p.minimum,
            maximum=p.maximum,
            unit=p.unit,
            choices=list(p.choices),
            each=p.each,
        )
        for p in given
    ]


@router.get("/effects/{name}/miniature", response_class=Response)
def effect_miniature(
    name: str, width: Annotated[int, Query(ge=1, le=1000)], height: Annotated[int, Query(ge=1, le=1000)]
) -> Response:
    """A moving picture (WebP) of an effect with its own colours on a matrix of that shape."""
    effect_named(name)
    kept = {"cache-control": "private, max-age=3600"}
    return Response(_miniature(name, *shape_of(width, height)), media_type="image/webp", headers=kept)


@lru_cache(maxsize=256)
def _miniature(name: str, width: int, height: int) -> bytes:
    first, *rest = (Image.fromarray(one) for one in miniature(EFFECTS[name], width, height))
    found = io.BytesIO()
    first.save(found, "webp", save_all=True, append_images=rest, duration=1000 // RATE, loop=0, quality=70)
    return found.getvalue()


def _lines_stored(look_id: str, line_id: str) -> list[rows.Record]:
    """The line of the running show, or none."""
    with connected():
        looks_there = rows.all_of("look", rows.running_show()["id"])
    return [line for look in looks_there if look["id"] == look_id for line in look["lines"] if line["id"] == line_id]


def check_address(address: str | None, hosts: tuple[str, ...]) -> None:
    """Raises InputError for an address of a live picture that is not let in."""
    if address is not None:
        feed_from(address, hosts)


@router.post("/looks", status_code=201)
def add_look(body: schemas.NewLook, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, f"Added look {body.name}") as work:
        given = body.model_dump(mode="json", exclude={"id", "lines"})
        looks.add_look(work, str(body.id), given, [line.model_dump(mode="json") for line in body.lines])
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}")
def change_look(look_id: str, body: schemas.LookPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name, folder, note, fades, or the order of its lines (bottom first)."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a look") as work:
        values: dict[str, Any] = {name: value for name, value in given.items() if name != "order"}
        if body.order is not None:
            values["lines"] = looks.reordered(looks.lines_of(work, look_id), [str(key) for key in body.order])
        work.update("look", look_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/looks/{look_id}/copy", status_code=201)
def copy_look(look_id: str, body: schemas.LookCopy, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The look once more, off."""
    with editing(context, author, "Copied a look") as work:
        looks.copy_look(work, look_id, str(body.id))
        return schemas.Done(revision=work.revision)


@router.delete("/looks/{look_id}")
def delete_look(look_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with telling_others(context, author, "look", look_id), editing(context, author, "Deleted a look") as work:
        delete(work, "look", [look_id])
        return schemas.Done(revision=work.revision)


@router.post("/looks/{look_id}/lines", status_code=201)
def add_line(
    look_id: str, body: schemas.NewLine, context: ContextOf, author: AuthorOf, above: UUID | None = None
) -> schemas.Done:
    """Adds a line on top, or above another."""
    said = f"of {body.effect}" if isinstance(body, schemas.NewEffectLine) else f"that {DOES[body.paints]}"
    with editing(context, author, f"Added a line {said}") as work:
        sets = isinstance(body, schemas.NewAttributeLine)
        check_selection(str(work.show.id), body.selection, painted=not sets)
        if sets:
            check_typed(str(work.show.id), body.model_dump(mode="json"))
        check_address(body.address if isinstance(body, schemas.NewFeedLine) else None, context.settings.feed_hosts)
        looks.add_line(work, look_id, body.model_dump(mode="json"), str(above) if above else None)
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}/lines/{line_id}")
def change_line(
    look_id: str, line_id: str, body: schemas.LinePatch, context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """Changes fields of one line; others may change its other lines meanwhile. `params` are merged."""
    given = only_given(body.model_dump(mode="json"))
    with editing(context, author, f"Changed {' and '.join(given)} of a line") as work:
        before = _line_of(work, look_id, line_id)
        sets = before.get("paints") == AttributeLine.paints
        check_selection(str(work.show.id), body.selection, painted=not sets)
        if sets:
            check_typed(str(work.show.id), {**before, **painted_over(before, given), "params": given.get("params", {})})
        check_address(body.address, context.settings.feed_hosts)
        looks.change_line(work, look_id, line_id, given, body.rev)
        return schemas.Done(revision=work.revision)


def _line_of(work: Work, look_id: str, line_id: str) -> rows.Record:
    return next((one for one in looks.lines_of(work, look_id) if one["id"] == line_id), {})


@router.get("/looks/{look_id}/lines/{line_id}/attributes")
def attributes(look_id: str, line_id: str, context: ContextOf) -> schemas.Attributes:
    """What can be set of the fixtures a line is over, by word, and what of its own is taken by nothing."""
    lines = _lines_stored(look_id, line_id)
    with connected():
        if not lines:
            return schemas.Attributes(attributes=[], missing={})
        show = rows.running_show()["id"]
        found, chosen = attributes_view(show, lines[0]), [one.id for one in chosen_by(show, lines[0])]
    return found.model_copy(update={"said": said_of_animations(context, chosen) or ""})


@router.post("/looks/{look_id}/lines/{line_id}/copy", status_code=201)
def copy_line(look_id: str, line_id: str, body: schemas.LookCopy, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The line once more, right above it, muted."""
    with editing(context, author, "Copied a line") as work:
        looks.copy_line(work, look_id, line_id, str(body.id))
        return schemas.Done(revision=work.revision)


@router.get("/paths")
def paths() -> list[schemas.PathView]:
    """Ready paths for heads."""
    return [schemas.PathView(name=one.name, says=one.says) for one in PATHS.values()]


@router.get("/motion")
def motion_sent(context: ContextOf) -> schemas.Motion:
    """Where every head points as it is sent, and where what runs takes it in the next round."""
    found = context.preview.ask(AskMotion())
    return schemas.Motion.model_validate(msgspec.to_builtins(found))


@router.get("/looks/{look_id}/lines/{line_id}/motion")
def motion(look_id: str, line_id: str, context: ContextOf) -> schemas.Motion:
    """Where the heads of a line point, and go in the next round, in degrees."""
    found = context.preview.ask(AskMotion(look=look_id, line=line_id))
    return schemas.Motion.model_validate(msgspec.to_builtins(found))


@router.post("/looks/{look_id}/lines/{line_id}/path")
def set_path(look_id: str, line_id: str, body: schemas.SetPath, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Lets the heads of a line move along a ready path: sets what drives pan and tilt, both at once."""
    with editing(context, author, f"Let heads move along a {body.path}") as work:
        line = _line_of(work, look_id, line_id)
        heads = len(chosen_by(str(work.show.id), line)) if line else 0
        looks.set_path(work, look_id, line_id, body.path, heads, body.rev)
        return schemas.Done(revision=work.revision)


@router.get("/looks/{look_id}/lines/{line_id}/emitters")
def emitters(look_id: str, line_id: str) -> schemas.Emitters:
    """The emitters of the lamps beneath a line that it can be painted over alone."""
    lines = _lines_stored(look_id, line_id)
    with connected():
        words, plain = emitters_over(rows.running_show()["id"], lines[0]) if lines else ([], "")
        return schemas.Emitters(words=words, plain=plain)


@router.post("/looks/{look_id}/lines/{line_id}/surprise")
def surprise_line(
    look_id: str, line_id: str, body: schemas.Surprise, context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """Draws its parameters, colours and speed anew within what reads well: by a seed, or by chance."""
    seed = secrets.randbelow(SEEDS) if body.seed is None else body.seed
    with editing(context, author, "Surprised by a line") as work:
        looks.surprise_line(work, look_id, line_id, seed, body.rev)
        return schemas.Done(revision=work.revision)


@router.get("/looks/{look_id}/lines/{line_id}/drives/{name}")
def drive_chart(look_id: str, line_id: str, name: str, context: ContextOf, page: int = 0) -> schemas.DriveChart | None:
    """What a drive asks over a page of time and what is reached of it, at the tempo there is now; nothing where the
    drive was taken away meanwhile."""
    lines = _lines_stored(look_id, line_id)
    drive = lines[0].get("drives", {}).get(name) if lines else None
    if drive is None:
        return None
    status = context.engine_status()
    beat_s = 60.0 / status.state.bpm if status else 0.5
    return schemas.DriveChart(**asdict(chart_of(drive_from_json(drive), page, beat_s)))


@router.post("/looks/{look_id}/lines/{line_id}/drives/{name}/copy")
def copy_drive(
    look_id: str, line_id: str, name: str, body: schemas.DriveCopy, context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """Lets another number, of this line or another of the look, be moved in the same way."""
    with editing(context, author, "Copied a drive") as work:
        looks.copy_drive(work, look_id, line_id, name, str(body.line) if body.line else line_id, body.to, body.rev)
        return schemas.Done(revision=work.revision)


@router.get("/looks/{look_id}/lines/{line_id}/ribbons/{stop}")
def ribbon(look_id: str, line_id: str, stop: str) -> schemas.RibbonChart | None:
    """A colour of the ramp over time: its colours and their light along one round; nothing where it stands still by
    now."""
    lines = _lines_stored(look_id, line_id)
    stored = (lines[0].get("ribbons") or {}).get(stop) if lines else None
    if stored is None:
        return None
    return schemas.RibbonChart(**asdict(ribbon_chart(ribbon_from_json(stored))))


@router.get("/looks/{look_id}/flashes")
def flashes(look_id: str, context: ContextOf) -> schemas.Flashes:
    """How often a look flashes in its worst second of the next ten, at the tempo there is now, and by which line. Asked
    again until it is `known`."""
    current = context.publisher.current
    found = FlashesFound()
    with connected():  # given back before the preview is asked
        revision = rows.running_show()["revision"]
    if current.show.get("revision") == revision:
        found = context.preview.ask(AskFlashes(look=look_id, hash=current.hashes.get(f"look:{look_id}", "")))
    return schemas.Flashes(**msgspec.structs.asdict(found), too_many=found.rate > LIMIT)


@router.delete("/looks/{look_id}/lines/{line_id}")
def delete_line(look_id: str, line_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted a line") as work:
        looks.delete_line(work, look_id, line_id)
        return schemas.Done(revision=work.revision)
