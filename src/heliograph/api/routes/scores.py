"""Scores: made, written as one types, filled."""

from __future__ import annotations

from typing import Any
from uuid import NAMESPACE_OID, uuid4, uuid5

from fastapi import APIRouter, Request
from starlette.responses import Response

from heliograph.api.access import role_of
from heliograph.api.beforehand import telling_others
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.routes.engine import BY_API, as_json
from heliograph.api.schemas import Done
from heliograph.api.schemas import scores as schemas
from heliograph.api.score_views import Names, entry_view, position_view
from heliograph.api.voices import looks_of_staves, voices_of
from heliograph.core.errors import HeliographError, InputError, NotFoundError
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.fill import Filled, Wanted, fill
from heliograph.core.playing.score import SAME, written
from heliograph.core.playing.typed_cues import read_time
from heliograph.core.playing.typed_scores import read_beats, read_entry, read_level, read_lies, read_place, read_played
from heliograph.edits import scores
from heliograph.edits.deleting import delete
from heliograph.ipc.messages.engine import MoveHandles, OneMove
from heliograph.ipc.messages.preview import AskFlashes, AskStroke
from heliograph.store import rows
from heliograph.store.database import connected

HALF_BEAT = 0.5
"""What accents that are picked while it runs fall on."""

TEMPO = 112.0
"""Taken for what fill may flash where the engine does not answer."""

router = APIRouter(prefix="/api/scores", tags=["scores"])


@router.post("", status_code=201)
def add_score(body: schemas.NewScore, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, f"Made the score {body.name}") as work:
        given: dict[str, Any] = {"name": body.name, "bars": body.bars}
        if body.groups:
            given["staves"] = [{"id": str(uuid4()), "group": one} for one in body.groups]
        scores.add_score(work, str(body.id), given)
        return Done(revision=work.revision)


@router.patch("/{score_id}")
def change_score(score_id: str, body: schemas.ScorePatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    said = [name for name in given if name != "bar"]
    if "release" in given:
        time = read_time(given.pop("release"), "release")
        if time.unit != "s":
            raise InputError("A score lets go within seconds.", where="release", repair="Type 3 s.")
        given["release_s"] = time.value
    if (body.note is None) != (body.bar is None):
        raise InputError("A note stands over a bar.", where="note", repair="Give both, bar and note.")
    with editing(context, author, f"Changed {' and '.join(said)} of a score") as work:
        one = rows.record_of(work.get("score", score_id))
        if "groups" in given:
            known = {stave["group"]: stave for stave in one["staves"]}
            given["staves"] = [
                known.get(group) or {"id": str(uuid4()), "group": group} for group in dict.fromkeys(given.pop("groups"))
            ]
        if "note" in given:
            bar, text = given.pop("bar"), given.pop("note")
            rest = [each for each in one["notes"] if each["bar"] != bar]
            given["notes"] = [*rest, {"bar": bar, "text": text}] if text else rest
        scores.change_score(work, score_id, given, body.rev)
        return Done(revision=work.revision)


@router.post("/{score_id}/copy", status_code=201)
def copy_score(score_id: str, body: schemas.ScoreCopy, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Copied a score") as work:
        scores.copy_score(work, score_id, str(body.id))
        return Done(revision=work.revision)


@router.delete("/{score_id}")
def delete_score(score_id: str, context: ContextOf, author: AuthorOf) -> Done:
    """One that plays fades out."""
    with telling_others(context, author, "score", score_id), editing(context, author, "Deleted a score") as work:
        delete(work, "score", [score_id])
        return Done(revision=work.revision)


@router.post("/{score_id}/entries", status_code=201)
def add_entry(score_id: str, body: schemas.NewEntry, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Wrote an entry") as work:
        show = str(work.show.id)
        given = read_entry(body.text, rows.all_of("look", show), rows.all_of("preset", show))
        scores.add_entries(work, score_id, [{**given, "id": str(body.id), "stave": body.stave}])
        return Done(revision=work.revision)


@router.patch("/{score_id}/entries")
def change_entries(score_id: str, body: schemas.EntriesPatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump(exclude={"entries"}))
    many = f"{len(body.entries)} entries" if len(body.entries) > 1 else "an entry"
    names = " and ".join(name.replace("_", " ") for name in given)
    with editing(context, author, f"Changed {names} of {many}") as work:
        show = str(work.show.id)
        if "plays" in given:
            given |= read_played(given.pop("plays"), rows.all_of("look", show), rows.all_of("preset", show))
        if "place" in given:
            lies = read_lies(given.pop("place"))
            if len(body.entries) > 1:
                raise InputError("Several entries do not get one place.", where="place", repair="Move them by beats.")
            given["at"] = lies.at
            if lies.length is not None:
                given["length"] = lies.length
        if "level" in given:
            given["level"] = read_level(given["level"])
        for name in ("fade_in", "fade_out"):
            if name in given:
                given[name] = read_beats(given[name] or "0", name)
        scores.change_entries(work, score_id, set(body.entries), given)
        return Done(revision=work.revision)


@router.post("/{score_id}/entries/delete")
def delete_entries(score_id: str, body: schemas.ChosenEntries, context: ContextOf, author: AuthorOf) -> Done:
    many = f"{len(body.entries)} entries" if len(body.entries) > 1 else "an entry"
    with editing(context, author, f"Deleted {many}") as work:
        scores.delete_entries(work, score_id, set(body.entries))
        return Done(revision=work.revision)


@router.post("/{score_id}/entries/move")
def move_entries(score_id: str, body: schemas.MoveEntries, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Moved entries") as work:
        scores.move_entries(work, score_id, set(body.entries), body.beats, body.stave)
        return Done(revision=work.revision)


@router.post("/{score_id}/entries/copy", status_code=201)
def copy_entries(score_id: str, body: schemas.CopyEntries, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Copied entries") as work:
        scores.copy_entries(work, score_id, set(body.entries), lambda: str(uuid4()), body.beats)
        return Done(revision=work.revision)


@router.post("/{score_id}/entries/repeat", status_code=201)
def repeat_entries(
    score_id: str, body: schemas.RepeatEntries, context: ContextOf, author: AuthorOf
) -> schemas.AddedEntries:
    """Until the score ends."""
    every = read_beats(body.every, "every")
    with editing(context, author, f"Repeated entries every {body.every.strip()}") as work:
        count = scores.repeat_entries(work, score_id, set(body.entries), lambda: str(uuid4()), every)
        return schemas.AddedEntries(revision=work.revision, count=count)


@router.post("/{score_id}/accents", status_code=201)
def set_accent(score_id: str, body: schemas.NewAccent, context: ContextOf, author: AuthorOf) -> schemas.AccentDone:
    """One that is there is taken away. Without a place it falls on the half beat nearest to what is played."""
    at = read_place(body.place) if body.place is not None else _playing_beat(context, score_id)
    with editing(context, author, "Set an accent") as work:
        there = scores.accent(work, score_id, str(body.id), body.stave, at, body.look)
        return schemas.AccentDone(revision=work.revision, there=there, begins=written(at))


@router.post("/{score_id}/positions", status_code=201)
def set_position(score_id: str, body: schemas.NewPosition, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Set a position in a score") as work:
        work.get("preset", body.preset)
        place = {"id": str(body.id), "stave": body.stave, "preset": body.preset, "at": read_place(body.place)}
        scores.set_position(work, score_id, place)
        return Done(revision=work.revision)


@router.post("/{score_id}/locate")
def locate(score_id: str, body: schemas.Locate, context: ContextOf, request: Request) -> Response:
    """Plays from a place on, as it is typed: "11.3". One that does not run begins there."""
    bar = 1.0 + read_place(body.place) / BEATS_OF_BAR
    role = role_of(request.scope)
    moves = [OneMove(handle=f"score/{score_id}/bar", value=bar)]
    return as_json(context.command(MoveHandles(moves=moves, by=BY_API, role=role)))


@router.get("/strokes/{look_id}")
def stroke(look_id: str, context: ContextOf, group: str = "") -> Response:
    """What a look is like over eight beats on what a group has of it, one moment beside another: red, green and blue,
    row by row. Nothing of a look that is not painted there."""
    found = context.preview.ask(AskStroke(look=look_id, group=group))
    if not found.columns:
        return Response(status_code=204)
    headers = {"x-columns": str(found.columns), "x-rows": str(found.rows), "x-beats": f"{found.beats:g}"}
    return Response(found.rgb, media_type="application/octet-stream", headers={**headers, "cache-control": "no-store"})


@router.post("/{score_id}/fill")
def fill_score(score_id: str, body: schemas.FillAsked, context: ContextOf, author: AuthorOf) -> schemas.FillView:
    """What a mood, colours and a seed would write; the same seed, the same entries. Nothing of it is stored unless it
    is to be kept."""
    if body.last < body.first:
        raise InputError("The last bar is before the first.", where="bars", repair="Type 17 to 24.")
    status = context.engine_status()
    bpm = status.state.bpm if status is not None else TEMPO
    span = float((body.first - 1) * BEATS_OF_BAR), float(body.last * BEATS_OF_BAR)
    with connected():
        show = rows.running_show()
        tables = rows.whole_show(show)
    score = next((one for one in tables["score"] if one["id"] == score_id), None)
    if score is None:
        raise NotFoundError("That score is not there any more.", where="score")
    if body.last > score["bars"]:
        raise InputError(f"{score['name']} has {score['bars']} bars.", where="bars")
    flashes, waiting = _flashes(context, tables, score, body.staves)
    wanted = Wanted(*span, body.mood, body.seed, bpm, frozenset(body.lasers))
    voices = voices_of(tables, score, body.staves, body.colours, dict.fromkeys(body.positions, span[0]), flashes)
    found = _named(fill(wanted, voices), score, body.seed)
    revision = show["revision"]
    if body.keep:
        if waiting:
            raise HeliographError(
                f"It is still looked at whether {waiting[0]} flashes.", where="fill", repair="Try again in a second."
            )
        with editing(context, author, f"Filled bars {body.first} to {body.last}") as work:
            scores.keep_filled(work, score_id, body.staves, span, found)
            revision = work.revision
    names = Names(tables)
    by_hand = [
        one
        for one in score["entries"]
        if one["stave"] in body.staves and not one["filled"] and span[0] <= one["at"] < span[1]
    ]
    return schemas.FillView(
        entries=[entry_view({**scores.AS_IT_BEGINS, **one}, names) for one in found.entries],
        positions=[position_view(one, names) for one in found.positions],
        left_out=[schemas.LeftOutView(**one._asdict(), begins=written(one.at)) for one in found.left_out],
        waiting=waiting,
        by_hand=len(by_hand),
        kept=body.keep,
        revision=revision,
    )


def _named(found: Filled, score: rows.Record, seed: int) -> Filled:
    """With ids that are the same for the same seed, and nobody's who stays."""
    taken = {one["id"] for column in ("entries", "positions") for one in score[column] if not one["filled"]}
    number = 0
    for one in (*found.entries, *found.positions):
        key = ""
        while not key or key in taken:
            key = str(uuid5(NAMESPACE_OID, f"{score['id']}/{seed}/{number}"))
            number += 1
        one["id"] = key
    return found


def _flashes(
    context: Context, tables: dict[str, list[rows.Record]], score: rows.Record, staves: list[str]
) -> tuple[dict[str, float], list[str]]:
    """Flashes a second of each look that may be written, and the names of those of which that is not known yet: they
    count as flashing until it is."""
    chosen = [one for one in score["staves"] if one["id"] in staves and one["group"]]
    looks = {look["id"]: look for found in looks_of_staves(tables, chosen).values() for look in found}
    known, waiting = {}, []
    hashes = context.publisher.current.hashes
    for key, look in looks.items():
        found = context.preview.ask(AskFlashes(look=key, hash=hashes.get(f"look:{key}", "")))
        known[key] = float(found.rate) if found.known else float("inf")
        if not found.known:
            waiting.append(look["name"])
    return known, waiting


def _playing_beat(context: Context, score_id: str) -> float:
    status = context.engine_status()
    found = [one for one in status.state.scores if one.of == score_id and one.running] if status is not None else []
    if not found:
        raise InputError("The score does not run.", where="place", repair="Start it, or say on which beat.")
    beat = round(found[0].beat / HALF_BEAT) * HALF_BEAT
    return beat if beat < found[0].beats - SAME else 0.0
