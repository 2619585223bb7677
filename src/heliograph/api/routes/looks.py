"""Looks and their layers."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.layer import layer_from_json
from heliograph.effects import EFFECTS, complete_params, effect_named
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

router = APIRouter(prefix="/api", tags=["looks"])

LAYERS_MAX = 64


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
        layers = [layer.model_dump(mode="json") for layer in body.layers]
        for layer in layers:
            _check_layer(work, layer)
        columns = {"name": body.name, "layers": layers, "place": rows.next_place("look", str(work.show.id))}
        work.insert("look", [(str(body.id), columns)])
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}")
def change_look(look_id: str, body: schemas.LookPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name, or the order of its layers (bottom first)."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a look") as work:
        values: dict[str, Any] = {}
        if body.name is not None:
            values["name"] = body.name
        if body.order is not None:
            values["layers"] = _reordered(_look(work, look_id), [str(key) for key in body.order])
        work.update("look", look_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/looks/{look_id}")
def delete_look(look_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted a look") as work:
        work.delete("look", look_id)
        return schemas.Done(revision=work.revision)


@router.post("/looks/{look_id}/layers", status_code=201)
def add_layer(look_id: str, body: schemas.NewLayer, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Adds a layer on top, or above another."""
    with editing(context, author, f"Added a layer of {body.effect or 'a clip'}") as work:
        layer = body.model_dump(mode="json", exclude={"above"})
        _check_layer(work, layer)
        layers = _look(work, look_id)["layers"]
        if len(layers) >= LAYERS_MAX:
            raise InputError(f"A look has at most {LAYERS_MAX} layers.", where="layers")
        ids = [one["id"] for one in layers]
        at = ids.index(str(body.above)) + 1 if body.above and str(body.above) in ids else len(layers)
        work.update("look", look_id, {"layers": [*layers[:at], layer, *layers[at:]]})
        return schemas.Done(revision=work.revision)


@router.patch("/looks/{look_id}/layers/{layer_id}")
def change_layer(
    look_id: str, layer_id: str, body: schemas.LayerPatch, context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """Changes fields of one layer; others may change its other layers meanwhile. `params` are merged."""
    given = only_given(body.model_dump(mode="json"))
    with editing(context, author, f"Changed {' and '.join(given)} of a layer") as work:
        layers = []
        found = False
        for layer in _look(work, look_id)["layers"]:
            if layer["id"] == layer_id:
                found = True
                params = {**layer.get("params", {}), **(body.params or {})}
                if body.effect is not None and body.effect != layer["effect"]:
                    params = dict(body.params or {})  # another effect begins with its own defaults
                layer = {**layer, **given, "params": params}
                _check_layer(work, layer)
            layers.append(layer)
        if not found:
            raise NotFoundError("That layer is not there any more.", where="layer")
        work.update("look", look_id, {"layers": layers}, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/looks/{look_id}/layers/{layer_id}")
def delete_layer(look_id: str, layer_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Deleted a layer") as work:
        layers = _look(work, look_id)["layers"]
        kept = [layer for layer in layers if layer["id"] != layer_id]
        if len(kept) == len(layers):
            raise NotFoundError("That layer is not there any more.", where="layer")
        work.update("look", look_id, {"layers": kept})
        return schemas.Done(revision=work.revision)


def _look(work: Work, look_id: str) -> Record:
    return rows.record_of(work.get("look", look_id))


def _check_layer(work: Work, data: dict[str, Any]) -> None:
    layer = layer_from_json(data)
    work.get("matrix", layer.matrix)
    if layer.paints == "effect":
        complete_params(effect_named(layer.effect), layer.params)
    else:
        clip = rows.record_of(work.get("clip", layer.clip))
        if layer.fitting.in_s * 1e9 >= clip["duration_ns"]:
            raise InputError(
                f"The in point at {layer.fitting.in_s:g} s lies past the clip's end.",
                where="fitting.in_s",
                repair=f"The clip lasts {clip['duration_ns'] / 1e9:.2f} s.",
            )
    if data.get("saved_ramp"):
        work.get("ramp", data["saved_ramp"])
    if layer.paints == "effect" and layer.speed.unit == "times":
        raise InputError(
            "An effect has no speed of its own to be a multiple of.", where="speed", repair="Type 4 s or 8 beats."
        )


def _reordered(look: Record, order: list[str]) -> list[dict[str, Any]]:
    by_id = {layer["id"]: layer for layer in look["layers"]}
    if set(order) != set(by_id) or len(order) != len(by_id):
        raise InputError("The order must name each layer once.", where="order")
    return [by_id[key] for key in order]
