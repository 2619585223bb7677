"""Looks and their lines."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.line import line_from_json
from heliograph.edits.deleting import delete
from heliograph.effects import EFFECTS
from heliograph.effects.checking import check_line
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

router = APIRouter(prefix="/api", tags=["looks"])

LINES_MAX = 64


@router.get("/effects")
def list_effects() -> list[schemas.EffectView]:
    """The built-in effects with their parameters."""
    return [
        schemas.EffectView(
            name=effect.name,
            says=effect.says,
            words=list(effect.words),
            moves=effect.moves,
            smallest=effect.smallest,
            parameters=[
                schemas.EffectParameter(
                    name=p.name,
                    kind=p.kind,
                    default=p.default,
                    minimum=p.minimum,
                    maximum=p.maximum,
                    unit=p.unit,
                    choices=list(p.choices),
                )
                for p in effect.parameters
            ],
        )
        for effect in EFFECTS.values()
    ]


@router.post("/looks", status_code=201)
def add_look(body: schemas.NewLook, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, f"Added look {body.name}") as work:
        lines = [line.model_dump(mode="json") for line in body.lines]
        for line in lines:
            _check_line(work, line)
        columns = {"name": body.name, "lines": lines, "place": rows.next_place("look", str(work.show.id))}
        work.insert("look", [(str(body.id), columns)])
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}")
def change_look(look_id: str, body: schemas.LookPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name, or the order of its lines (bottom first)."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a look") as work:
        values: dict[str, Any] = {}
        if body.name is not None:
            values["name"] = body.name
        if body.order is not None:
            values["lines"] = _reordered(_look(work, look_id), [str(key) for key in body.order])
        work.update("look", look_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/looks/{look_id}")
def delete_look(look_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted a look") as work:
        delete(work, "look", [look_id])
        return schemas.Done(revision=work.revision)


@router.post("/looks/{look_id}/lines", status_code=201)
def add_line(look_id: str, body: schemas.NewLine, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Adds a line on top, or above another."""
    with editing(context, author, f"Added a line of {body.effect or 'a clip'}") as work:
        line = body.model_dump(mode="json", exclude={"above"})
        _check_line(work, line)
        lines = _look(work, look_id)["lines"]
        if len(lines) >= LINES_MAX:
            raise InputError(f"A look has at most {LINES_MAX} lines.", where="lines")
        ids = [one["id"] for one in lines]
        at = ids.index(str(body.above)) + 1 if body.above and str(body.above) in ids else len(lines)
        work.update("look", look_id, {"lines": [*lines[:at], line, *lines[at:]]})
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}/lines/{line_id}")
def change_line(
    look_id: str, line_id: str, body: schemas.LinePatch, context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """Changes fields of one line; others may change its other lines meanwhile. `params` are merged."""
    given = only_given(body.model_dump(mode="json"))
    with editing(context, author, f"Changed {' and '.join(given)} of a line") as work:
        lines = []
        found = False
        for line in _look(work, look_id)["lines"]:
            if line["id"] == line_id:
                found = True
                params = {**line.get("params", {}), **(body.params or {})}
                if body.effect is not None and body.effect != line["effect"]:
                    params = dict(body.params or {})  # another effect begins with its own defaults
                line = {**line, **given, "params": params}
                _check_line(work, line)
            lines.append(line)
        if not found:
            raise NotFoundError("That line is not there any more.", where="line")
        work.update("look", look_id, {"lines": lines}, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/looks/{look_id}/lines/{line_id}")
def delete_line(look_id: str, line_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted a line") as work:
        lines = _look(work, look_id)["lines"]
        kept = [line for line in lines if line["id"] != line_id]
        if len(kept) == len(lines):
            raise NotFoundError("That line is not there any more.", where="line")
        work.update("look", look_id, {"lines": kept})
        return schemas.Done(revision=work.revision)


def _look(work: Work, look_id: str) -> Record:
    return rows.record_of(work.get("look", look_id))


def _check_line(work: Work, data: dict[str, Any]) -> None:
    line = line_from_json(data)
    work.get("matrix", line.matrix)
    check_line(line, lambda clip: int(rows.record_of(work.get("clip", clip))["duration_ns"]))
    if data.get("saved_ramp"):
        work.get("ramp", data["saved_ramp"])


def _reordered(look: Record, order: list[str]) -> list[dict[str, Any]]:
    by_id = {line["id"]: line for line in look["lines"]}
    if set(order) != set(by_id) or len(order) != len(by_id):
        raise InputError("The order must name each line once.", where="order")
    return [by_id[key] for key in order]
