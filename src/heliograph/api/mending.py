"""Repairs of what a test walk found, each one edit of the show."""

from __future__ import annotations

from typing import Any

from heliograph.api.profile_changes import NewMode, columns_after
from heliograph.api.sections import mode_of, mode_of_json, rig_section
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.matrix.placements import Placement, pack, unpack
from heliograph.core.profiles.attributes import word_of
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import build_rig
from heliograph.core.walk.findings import Finding, Mark, WalkRepair, findings_of
from heliograph.store.journal import Work
from heliograph.store.rows import Record

Tables = dict[str, list[Record]]


def findings(tables: Tables) -> list[Finding]:
    """What the marks of a show come to."""
    rig = build_rig(rig_section(tables["profile"], tables["fixture"]))
    marks = [Mark(one["id"], one["fixture"], one["cell"], one["kind"], one["seen"]) for one in tables["mark"]]
    by_id = {one["id"]: one for one in tables["profile"]}
    wanted = {one.fixture for one in marks if one.kind == "wrong colour"}
    modes: dict[str, list[Mode]] = {
        one["id"]: [mode_of_json(mode) for mode in by_id[one["profile"]]["modes"]]
        for one in tables["fixture"]
        if one["id"] in wanted
    }
    return findings_of(rig, marks, tables["output"], modes)


def chosen_repair(tables: Tables, key: str, label: str) -> tuple[Finding, WalkRepair]:
    """The repair by its finding's key and its own label; NotFoundError where it is not offered any more."""
    for finding in findings(tables):
        for repair in finding.repairs:
            if (finding.key, repair.label) == (key, label):
                return finding, repair
    raise NotFoundError("That finding is not there any more.", where="key", repair="Look at the list as it is now.")


def mend(work: Work, tables: Tables, finding: Finding, repair: WalkRepair) -> None:
    """Does it, and takes the marks away that it explains."""
    _DO[repair.kind](work, tables, repair.change)
    work.delete_many("mark", finding.marks)


def _number(work: Work, _tables: Tables, change: Any) -> None:
    work.update("output", change["output"], {"first_number": change["first_number"]})


def _addresses(work: Work, tables: Tables, change: Any) -> None:
    fixtures = {one["id"]: one for one in tables["fixture"]}
    a, b = fixtures[change["a"]], fixtures[change["b"]]
    fields = ("universe", "channel", "blocks")
    work.update_many("fixture", {x["id"]: {name: y[name] for name in fields} for x, y in ((a, b), (b, a))})


def _squares(work: Work, tables: Tables, change: Any) -> None:
    (a, cell_a), (b, cell_b) = change["a"], change["b"]
    counts = _cell_counts(tables)
    if cell_a and cell_b:
        pairs = {(a, cell_a): (b, cell_b)}
    else:  # whole fixtures: cell by cell, as far as both go
        pairs = {(a, n): (b, n) for n in range(1, min(counts[a], counts[b]) + 1)}
    _exchange(work, tables, {**pairs, **{value: key for key, value in pairs.items()}})


def _reverse(work: Work, tables: Tables, change: Any) -> None:
    name = change["fixture"]
    count = _cell_counts(tables)[name]
    _exchange(work, tables, {(name, n): (name, count + 1 - n) for n in range(1, count + 1)})


def _exchange(work: Work, tables: Tables, place_of: dict[tuple[str, int], tuple[str, int]]) -> None:
    """Every cell takes the place of another, on every matrix where it stands."""
    for matrix in tables["matrix"]:
        if matrix["shares"]:
            continue  # it follows the one it shares
        placements = unpack(matrix["placements"])
        there = {(one.key.fixture, int(one.key.cell)): one for one in placements}
        moved = []
        for one in placements:
            other = there.get(place_of.get((one.key.fixture, int(one.key.cell)), ("", 0)))
            moved.append(Placement(one.key, other.x, other.y, other.w, other.h) if other else one)
        if moved != placements:
            work.update("matrix", matrix["id"], {"placements": pack(moved)})


def _mode(work: Work, tables: Tables, change: Any) -> None:
    _to_mode(work, tables, change["fixtures"], change["mode"])


def _order(work: Work, tables: Tables, change: Any) -> None:
    """Fixtures go over to a mode with their emitters in another order; it is made where the profile has none."""
    fixtures = {one["id"]: one for one in tables["fixture"]}
    first = fixtures[change["fixtures"][0]]
    profile = next(one for one in tables["profile"] if one["id"] == first["profile"])
    old = mode_of(profile, first["mode"])
    assert old is not None  # it was found by its mode
    made = _ordered(old, change["order"])
    same = next((one for one in profile["modes"] if _alike(one, made)), None)
    if same is None:
        names = {one["name"] for one in profile["modes"]}
        if made["name"] in names:
            raise InputError(f"{profile['name']} has another mode called '{made['name']}'.", where="mode")
        profile["modes"] = [*profile["modes"], made]
        work.update("profile", profile["id"], {"modes": profile["modes"]})
        same = made
    _to_mode(work, tables, change["fixtures"], same["name"])


def _ordered(mode: Record, order: list[str]) -> Record:
    blocks = []
    for block in mode["blocks"]:
        cells = block.get("cell_channels", [])
        by_name = {one["attribute"]: one for one in cells}
        places = [n for n, one in enumerate(cells) if one["attribute"] in order]
        if sorted(order) == sorted(one["attribute"] for n, one in enumerate(cells) if n in places):
            cells = list(cells)
            for place, name in zip(places, order, strict=True):
                cells[place] = by_name[name]
        blocks.append({**block, "cell_channels": cells})
    letters = " ".join(word_of(name) for name in order)
    return {**mode, "name": f"{mode['name']}, {letters}"[:120], "blocks": blocks}


def _alike(a: Record, b: Record) -> bool:
    return bool(mode_of_json({**a, "name": ""}) == mode_of_json({**b, "name": ""}))


def _to_mode(work: Work, tables: Tables, ids: list[str], name: str) -> None:
    fixtures = {one["id"]: one for one in tables["fixture"]}
    profiles = {one["id"]: one for one in tables["profile"]}
    changes: dict[str, Record] = {}
    for key in ids:
        fixture = fixtures[key]
        profile = profiles[fixture["profile"]]
        old, new = mode_of(profile, fixture["mode"]), mode_of(profile, name)
        if new is None:
            raise NotFoundError(f"{profile['name']} has no mode '{name}' any more.", where="mode")
        to = NewMode(profile["id"], name, mode_of_json(new))
        changes[key] = columns_after(fixture, mode_of_json(old) if old else None, to)
    work.update_many("fixture", changes)


def _forget(_work: Work, _tables: Tables, _change: Any) -> None:
    """Mended at the lamp: only the marks go."""


def _cell_counts(tables: Tables) -> dict[str, int]:
    profiles = {one["id"]: one for one in tables["profile"]}
    counts = {}
    for one in tables["fixture"]:
        mode = mode_of(profiles[one["profile"]], one["mode"])
        counts[one["id"]] = mode_of_json(mode).cell_count if mode else 0
    return counts


_DO = {
    "number": _number,
    "addresses": _addresses,
    "squares": _squares,
    "reverse": _reverse,
    "mode": _mode,
    "order": _order,
    "forget": _forget,
}
