"""Profiles: adding one, adding a mode to one."""

from __future__ import annotations

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.core.errors import InputError
from heliograph.core.profile import mode_from_json

router = APIRouter(prefix="/api/profiles", tags=["profiles"])


@router.post("", status_code=201)
def add_profile(body: schemas.ProfileBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    modes = [mode.model_dump() for mode in body.modes]
    _check(modes)
    with editing(context, author, f"Added profile {body.name}") as work:
        columns = body.model_dump(exclude={"id", "modes"})
        work.insert("profile", [(str(body.id), {**columns, "modes": modes})])
        return schemas.Done(revision=work.revision)


@router.post("/{profile_id}/modes", status_code=201)
def add_mode(profile_id: str, body: schemas.NewMode, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, f"Added mode {body.mode.name}") as work:
        profile = work.get("profile", profile_id)
        modes = [*getattr(profile, "modes"), body.mode.model_dump()]  # noqa: B009
        _check(modes)
        work.update("profile", profile_id, {"modes": modes}, body.rev)
        return schemas.Done(revision=work.revision)


def _check(modes: list[dict[str, object]]) -> None:
    for mode in modes:
        mode_from_json(mode)
    names = [str(mode["name"]) for mode in modes]
    if len(set(names)) < len(names):
        raise InputError("Two modes have the same name.", where="modes", repair="Give each its own.")
