"""Test walks on the real lamps, marks of what was seen, and the repairs they come to."""

from __future__ import annotations

from uuid import uuid4

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.mending import chosen_repair, findings, mend
from heliograph.core.errors import InputError
from heliograph.core.profiles.attributes import EMITTERS
from heliograph.core.rig.selection import Atom
from heliograph.ipc.messages.engine import AskStatus
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Work

router = APIRouter(prefix="/api", tags=["walks"])

MARKS_AT_ONCE = 20_000


@router.get("/walk")
def get_walk(context: ContextOf) -> schemas.WalkView:
    """Where the test walk is; there is one for all people."""
    view = context.walk.view()
    if view.running:
        state = context.engine.ask(AskStatus()).state
        view.blackout = state.blackout
        if not state.walking:
            context.walk.again()
    return view


@router.post("/walk")
def start_walk(body: schemas.WalkStart, context: ContextOf) -> schemas.WalkView:
    """Begins a walk at its first step, in place of one that is on."""
    atoms: tuple[Atom, ...] = ()
    if body.matrix is None and not (body.by == "address" and body.universe is not None):
        with connected():
            chosen = choose(rows.running_show()["id"], body.selection)
        atoms = chosen.atoms or tuple((one.id, 0) for one in chosen.fixtures)
    context.walk.start(body, atoms)
    return get_walk(context)


@router.post("/walk/go")
def go(body: schemas.WalkGo, context: ContextOf) -> schemas.WalkView:
    context.walk.go(body)
    return get_walk(context)


@router.patch("/walk")
def change_walk(body: schemas.WalkPatch, context: ContextOf) -> schemas.WalkView:
    """Emitter, level, what is around, pace and hold act at once."""
    context.walk.change(body)
    return get_walk(context)


@router.delete("/walk")
def stop_walk(context: ContextOf) -> schemas.WalkView:
    """Ends it: everything is again as it was."""
    context.walk.stop()
    return get_walk(context)


@router.post("/marks")
def add_marks(body: schemas.NewMark, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Says what was seen; a later mark of the same cell takes the place of an earlier one."""
    _check_seen(body)
    atoms = [(str(name), cell) for name, cell in body.cells] if body.cells is not None else context.walk.lit()
    with editing(context, author, f"Marked {body.kind}") as work:
        atoms = _known(work, atoms, body.onward)
        there = {(one["fixture"], one["cell"]): one for one in rows.all_of("mark", str(work.show.id))}
        place = rows.next_place("mark", str(work.show.id))
        if again := [there[atom]["id"] for atom in atoms if atom in there]:
            work.delete_many("mark", again)
        work.insert(
            "mark",
            [
                (
                    str(uuid4()),
                    {"place": place + n, "fixture": name, "cell": cell, "kind": body.kind, "seen": body.seen},
                )
                for n, (name, cell) in enumerate(atoms)
            ],
        )
        done = schemas.Done(revision=work.revision)
    if body.go and context.walk.running:
        context.walk.go(schemas.WalkGo(to=None, by=1, fixture=None, cell=0))
    return done


@router.delete("/marks")
def clear_marks(context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Forgets everything that was marked; it can be undone."""
    with editing(context, author, "Cleared all marks") as work:
        if marks := [one["id"] for one in rows.all_of("mark", str(work.show.id))]:
            work.delete_many("mark", marks)
        return schemas.Done(revision=work.revision)


@router.get("/findings")
def list_findings() -> list[schemas.WalkFinding]:
    """What the marks come to, each with the repairs that would put it right."""
    with connected():
        tables = rows.whole_show(rows.running_show())
    return [
        schemas.WalkFinding(
            key=one.key,
            kind=one.kind,
            sentence=one.sentence,
            marks=list(one.marks),
            repairs=[schemas.WalkRepairView(label=repair.label) for repair in one.repairs],
        )
        for one in findings(tables)
    ]


@router.post("/findings/repair")
def repair_finding(body: schemas.FindingRepair, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Does a repair as it is offered, in one edit that can be undone."""
    with editing(context, author, body.label[:120]) as work:
        tables = rows.whole_show(rows.running_show())
        finding, repair = chosen_repair(tables, body.key, body.label)
        mend(work, tables, finding, repair)
        return schemas.Done(revision=work.revision)


def _check_seen(body: schemas.NewMark) -> None:
    if body.kind == "wrong colour":
        for lit, seen in body.seen.items():
            wrong = [one for one in (lit, *seen) if one not in EMITTERS] if isinstance(seen, list) else [lit]
            if wrong:
                raise InputError(
                    f"'{str(wrong[0])[:60]}' is no emitter.",
                    where="seen",
                    repair='Write {"ColorAdd_R": ["ColorAdd_G"]}.',
                )
    elif body.kind == "wrong place":
        if body.seen and not (isinstance(body.seen.get("fixture"), str) and isinstance(body.seen.get("cell"), int)):
            raise InputError(
                "What was seen in the wrong place is a cell.", where="seen", repair='Write {"fixture": id, "cell": 5}.'
            )
    elif body.seen:
        raise InputError(f"A lamp that is {body.kind} needs no word of what was seen.", where="seen")


def _known(work: Work, atoms: list[Atom], onward: bool) -> list[Atom]:
    show = str(work.show.id)
    counts: dict[str, int] = {}
    for name, cell in choose(show, "all").atoms:
        counts[name] = max(counts.get(name, 0), cell)
    found = [atom for atom in dict.fromkeys(atoms) if 0 <= atom[1] <= counts.get(atom[0], -1)]
    if not found:
        raise InputError("There is nothing here to mark.", where="cells", repair="Walk to a lamp, or choose one.")
    if onward:
        found = list(dict.fromkeys((name, n) for name, cell in found for n in range(max(cell, 1), counts[name] + 1)))
    if len(found) > MARKS_AT_ONCE:
        raise InputError(f"{len(found)} marks at once: {MARKS_AT_ONCE} are the most.", where="cells")
    return found
