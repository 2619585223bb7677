"""Profiles: making and changing them, what a change would do, their manuals, those kept for other shows."""

from __future__ import annotations

from typing import Annotated, Any

import structlog
from fastapi import APIRouter, UploadFile
from fastapi.params import Query
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.kept_files import files_folder, keep_file
from heliograph.api.profile_changes import changed_fixtures, columns_after, modes_of_change
from heliograph.api.views import Modes
from heliograph.core.errors import ConflictError, InputError, NotFoundError
from heliograph.core.profiles.attributes import WORDS
from heliograph.core.profiles.cell_layout import cell_points, layout_from_json
from heliograph.core.profiles.mode_faults import mended
from heliograph.core.profiles.profile import mode_from_json
from heliograph.edits.deleting import delete
from heliograph.store import kept, rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/profiles", tags=["profiles"])

MANUAL_MAX = 64 * 1024**2
"""Bytes of a manual: those of large moving heads are some 20 MB."""


@router.get("/attributes")
def attributes() -> list[schemas.AttributeView]:
    """Attributes a channel can have, with their words."""
    return [schemas.AttributeView(name=name.replace("(n)", "1"), word=word) for name, word in WORDS.items()]


@router.get("/kept")
def list_kept() -> list[schemas.KeptView]:
    """Profiles kept for all shows, by name."""
    with connected():
        return [
            schemas.KeptView(id=one["id"], maker=one["maker"], name=one["name"], modes=len(one["profile"]["modes"]))
            for one in kept.all_kept()
        ]


@router.delete("/kept/{kept_id}")
def forget_kept(kept_id: str) -> list[schemas.KeptView]:
    """Shows that have it keep their own copy."""
    with connected():
        kept.forget(kept_id)
    return list_kept()


@router.post("/kept/{kept_id}/take", status_code=201)
def take_kept(kept_id: str, body: schemas.Ids, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Copies a kept profile into the running show, under the one id given."""
    with connected():
        profile = kept.get(kept_id)
    with editing(context, author, f"Added profile {profile['name']}") as work:
        work.insert("profile", [(str(body.ids[0]), profile)])
        return schemas.Done(revision=work.revision)


@router.post("/cell-points")
def points_of_layout(body: schemas.LaidCells) -> list[tuple[float, float]]:
    """Where so many cells sit on a face of 1 x 1, x to the right, y down, by a layout that may not be stored yet."""
    points = cell_points(layout_from_json(body.layout.model_dump()), body.count)
    return [(round(x, 4), round(y, 4)) for x, y in points.tolist()]


@router.get("/{profile_id}")
def get_profile(profile_id: str) -> schemas.WholeProfile:
    """A profile with everything, for the editor."""
    with connected():
        show = rows.running_show()["id"]
        profile = _profile(show, profile_id)
        count = sum(one["profile"] == profile_id for one in rows.all_of("fixture", show))
    fields = {k: v for k, v in profile.items() if k != "manual"}
    return schemas.WholeProfile(**fields, fixtures=count)


@router.post("", status_code=201)
def add_profile(body: schemas.ProfileBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    modes = _stored([mode.model_dump() for mode in body.modes])
    with editing(context, author, f"Added profile {body.name}") as work:
        columns = body.model_dump(exclude={"id", "modes"})
        columns["guarded"] = body.guarded or body.kind == "laser"
        work.insert("profile", [(str(body.id), {**columns, "manual": "", "manual_name": "", "modes": modes})])
        return schemas.Done(revision=work.revision)


@router.post("/{profile_id}/plan")
def plan_change(profile_id: str, body: schemas.ProfileChange) -> schemas.ChangePlan:
    """Which fixtures a change of the profile touches, and how. Changes nothing."""
    modes = [mode.model_dump() for mode in body.modes]
    with connected():
        show = rows.running_show()["id"]
        profiles, fixtures = rows.all_of("profile", show), rows.all_of("fixture", show)
    try:
        _stored(modes)
        wanted, lost = modes_of_change(profile_id, modes, fixtures)
        _refuse_lost(lost)
    except InputError as error:
        return schemas.ChangePlan(fixtures=[], problem=error.what, repair=error.repair)
    return schemas.ChangePlan(fixtures=changed_fixtures(profiles, fixtures, wanted), problem="", repair="")


@router.put("/{profile_id}")
def change_profile(profile_id: str, body: schemas.ProfileChange, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The profile as it shall be; fixtures follow a mode that gets another name. One edit."""
    modes = [mode.model_dump() for mode in body.modes]
    stored = _stored(modes)
    with editing(context, author, f"Changed profile {body.name}") as work:
        fixtures = [one for one in rows.all_of("fixture", str(work.show.id)) if one["profile"] == profile_id]
        wanted, lost = modes_of_change(profile_id, modes, fixtures)
        _refuse_lost(lost)
        old = Modes(rows.all_of("profile", str(work.show.id)))
        after = {one["id"]: columns_after(one, old.of(one), wanted[one["id"]]) for one in fixtures}
        columns = body.model_dump(exclude={"rev", "modes"})
        columns["guarded"] = _guarded_after(rows.record_of(work.get("profile", profile_id)), body)
        work.update("profile", profile_id, {**columns, "modes": stored}, body.rev)
        work.update_many("fixture", after)
        return schemas.Done(revision=work.revision)


def _guarded_after(profile: Record, body: schemas.ProfileChange) -> bool:
    """A laser is guarded from when it becomes one; what is guarded stays so, for taking that away is another act."""
    if profile["guarded"] and not body.guarded:
        raise InputError(
            f"{profile['name']} is guarded, and this would take the guard away.",
            where="guarded",
            repair="Take it away by its own button, which lists the fixtures.",
        )
    return body.guarded or (body.kind == "laser" and profile["kind"] != "laser")


@router.get("/{profile_id}/guard")
def guarded_fixtures(profile_id: str) -> list[schemas.GuardedFixture]:
    """The fixtures that a guard of this profile holds safe."""
    with connected():
        show = rows.running_show()["id"]
        _profile(show, profile_id)
        found = [one for one in rows.all_of("fixture", show) if one["profile"] == profile_id]
    return [
        schemas.GuardedFixture(
            id=one["id"],
            number=one["number"],
            name=one["name"],
            address=f"U{one['universe']}.{one['channel']}" if one["universe"] else "",
        )
        for one in found
    ]


@router.post("/{profile_id}/guard")
def set_guard(profile_id: str, body: schemas.GuardBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts a profile under the guard, or takes it away from the fixtures that were listed: they are made safe by it,
    and their addresses stay safe until somebody says that the lasers are gone from them."""
    label = "Guarded a profile" if body.guarded else "Took the guard from a profile"
    with editing(context, author, label) as work:
        profile = rows.record_of(work.get("profile", profile_id))
        fixtures = [one for one in rows.all_of("fixture", str(work.show.id)) if one["profile"] == profile_id]
        if not body.guarded and {one["id"] for one in fixtures} != {str(key) for key in body.fixtures}:
            raise ConflictError(
                f"{len(fixtures)} fixture{'s are' if len(fixtures) != 1 else ' is'} of {profile['name']}, and "
                f"{len(body.fixtures)} were listed.",
                where="fixtures",
                repair="Look at the list again.",
            )
        work.update("profile", profile_id, {"guarded": body.guarded})
        numbers = ", ".join(str(one["number"]) for one in fixtures) or "no fixture"
        said = "put under the guard" if body.guarded else "no longer guarded"
        structlog.get_logger("web").info(
            f"{profile['name']} {said} by {author.name}: {numbers}", event_for_people=True, process="web"
        )
        return schemas.Done(revision=work.revision)


@router.post("/{profile_id}/mend")
def mend_mode(profile_id: str, body: schemas.MendMode, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts right what keeps a mode's lamps dark, or never dark, as far as that can be known without the fixture."""
    with editing(context, author, f"Mended mode {body.mode}") as work:
        profile = rows.record_of(work.get("profile", profile_id))
        if all(mode["name"] != body.mode for mode in profile["modes"]):
            raise InputError(f"There is no mode '{body.mode}'.", where="mode")
        modes = [mended(mode, body.what) if mode["name"] == body.mode else mode for mode in profile["modes"]]
        work.update("profile", profile_id, {"modes": modes})
        return schemas.Done(revision=work.revision)


@router.delete("/{profile_id}")
def delete_profile(profile_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Refused while a fixture is of it."""
    with editing(context, author, "Deleted a profile") as work:
        delete(work, "profile", [profile_id])
        return schemas.Done(revision=work.revision)


@router.post("/{profile_id}/modes", status_code=201)
def add_mode(profile_id: str, body: schemas.NewMode, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, f"Added mode {body.mode.name}") as work:
        profile = rows.record_of(work.get("profile", profile_id))
        modes = _stored([*profile["modes"], body.mode.model_dump()])
        work.update("profile", profile_id, {"modes": modes}, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/{profile_id}/keep")
def keep_profile(profile_id: str) -> list[schemas.KeptView]:
    """Keeps a copy for other shows, in the place of one of the same maker and name; new shows begin with it."""
    with connected():
        kept.keep(_profile(rows.running_show()["id"], profile_id))
    return list_kept()


@router.post("/{profile_id}/manual")
def attach_manual(
    profile_id: str,
    file: UploadFile,
    context: ContextOf,
    author: AuthorOf,
    rev: Annotated[int | None, Query()] = None,
) -> schemas.Done:
    """Attaches a PDF."""
    name = (file.filename or "manual.pdf")[-200:]
    raw = file.file.read(MANUAL_MAX + 1)
    if len(raw) > MANUAL_MAX:
        raise InputError(f"'{name}' is larger than {MANUAL_MAX // 1024**2} MiB.", where="file")
    if not raw.startswith(b"%PDF-"):
        raise InputError(f"'{name}' is no PDF.", where="file", repair="Choose the manual as a PDF file.")
    content = keep_file(context, raw, ".pdf")
    with editing(context, author, f"Attached {name}") as work:
        work.update("profile", profile_id, {"manual": content, "manual_name": name}, rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{profile_id}/manual")
def detach_manual(profile_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Took a manual away") as work:
        work.update("profile", profile_id, {"manual": "", "manual_name": ""})
        return schemas.Done(revision=work.revision)


@router.get("/{profile_id}/manual", response_class=FileResponse)
def manual(profile_id: str, context: ContextOf) -> FileResponse:
    """The PDF, to be read in the browser."""
    with connected():
        profile = _profile(rows.running_show()["id"], profile_id)
    return _manual_file(context, profile)


def _manual_file(context: Context, profile: Record) -> FileResponse:
    path = files_folder(context) / f"{profile['manual']}.pdf"
    if not profile["manual"] or not path.exists():
        raise NotFoundError("This profile has no manual.", where="manual", repair="Attach a PDF.")
    return FileResponse(
        path, media_type="application/pdf", filename=profile["manual_name"], content_disposition_type="inline"
    )


def _profile(show: str, profile_id: str) -> Record:
    found = next((one for one in rows.all_of("profile", show) if one["id"] == profile_id), None)
    if found is None:
        raise NotFoundError("That profile is not there any more.", where="profile")
    return found


def _refuse_lost(lost: list[Record]) -> None:
    if lost:
        raise InputError(
            f"Fixture {lost[0]['number']} is in mode '{lost[0]['mode']}', which would be gone"
            f"{f' (and {len(lost) - 1} more)' if len(lost) > 1 else ''}.",
            where="modes",
            repair="Give them another mode first, or keep this one.",
        )


def _stored(modes: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Modes as they are stored; InputError where one cannot be one."""
    for mode in modes:
        mode_from_json(mode)
    names = [str(mode["name"]) for mode in modes]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise InputError(f"Two modes are called '{twice}'.", where="modes", repair="Give each its own name.")
    return [{key: value for key, value in mode.items() if key != "was"} for mode in modes]
