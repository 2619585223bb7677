"""A cue list as CSV, as it is typed: one row a cue."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.playing.cues import CUES_MAX
from heliograph.core.playing.typed_cues import read_looks, read_then, read_time, write_looks, write_then, write_time

COLUMNS = ("number", "name", "looks", "fade in", "fade out", "delay", "curve", "then", "note")
TEXT_MAX = 2_000_000

Named = Sequence[Mapping[str, Any]]


def write_cues(cues: Sequence[Mapping[str, Any]], looks: Named, groups: Named) -> str:
    names = {one["id"]: str(one["name"]) for one in looks}
    of_groups = {one["id"]: str(one["name"]) for one in groups}
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for cue in cues:
        unit, fade_out = cue.get("unit", "s"), cue.get("fade_out")
        table.writerow(
            [
                f"{cue['number']:g}",
                _plain(cue.get("name", "")),
                write_looks(cue, names, of_groups),
                write_time(cue.get("fade_in", 0.0), unit),
                "" if fade_out is None else write_time(fade_out, unit),
                write_time(cue["delay"], unit) if cue.get("delay") else "",
                cue.get("curve", "straight"),
                write_then(cue),
                _plain(cue.get("note", "")),
            ]
        )
    return out.getvalue()


def read_cues(text: str, looks: Named, groups: Named) -> list[dict[str, Any]]:
    """Cues without ids; InputError says the row. A column that is not there is as a new cue has it."""
    if len(text) > TEXT_MAX:
        raise InputError(f"A table of more than {TEXT_MAX:,} characters is not read.", where="table")
    try:
        rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff"))))
    except csv.Error as error:
        raise InputError(f"That is no table: {error}.", where="table", repair="Save it as CSV.") from error
    rows = [row for row in rows if any(one.strip() for one in row)]
    if not rows:
        raise InputError("The table is empty.", where="table")
    head = [one.strip().lower() for one in rows[0]]
    if "number" not in head:
        raise InputError("The table has no column 'number'.", where="table", repair=f"Columns: {', '.join(COLUMNS)}.")
    if len(rows) - 1 > CUES_MAX:
        raise InputError(f"{len(rows) - 1:,} cues are more than {CUES_MAX:,}.", where="table")
    found = []
    for place, row in enumerate(rows[1:], start=2):
        said = dict(zip(head, (one.strip() for one in row), strict=False))
        try:
            found.append(_cue(said, looks, groups))
        except InputError as error:
            raise InputError(f"Row {place}: {error.what}", where="table", repair=error.repair) from error
    return found


def _cue(said: Mapping[str, str], looks: Named, groups: Named) -> dict[str, Any]:
    try:
        number = float(said["number"].replace(",", "."))
    except ValueError as error:
        raise InputError(f"'{said['number'][:20]}' is no number.", where="number", repair="Type 4, or 4.5.") from error
    fade = read_time(said.get("fade in") or "0 s", "fade in")
    cue: dict[str, Any] = {
        "number": number,
        "name": _as_meant(said.get("name", ""))[:120],
        "note": _as_meant(said.get("note", ""))[:500],
        "looks": read_looks(said.get("looks", ""), looks, groups),
        "fade_in": fade.value,
        "unit": fade.unit,
        "curve": said.get("curve") or "straight",
        **read_then(said.get("then", "")),
    }
    for name, field in (("fade out", "fade_out"), ("delay", "delay")):
        if said.get(name):
            time = read_time(said[name], name)
            if time.unit != fade.unit and time.value:
                raise InputError(
                    f"The {name} is in {_unit(time.unit)} and the fade in {_unit(fade.unit)}.",
                    where=name,
                    repair="Give both in one.",
                )
            cue[field] = time.value
    return cue


def _unit(unit: str) -> str:
    return "beats" if unit == "beat" else "seconds"


def _plain(text: str) -> str:
    """Text that no table takes for a formula."""
    return f"'{text}" if text.startswith(("=", "+", "-", "@", "'")) else text


def _as_meant(text: str) -> str:
    return text[1:] if text[:1] == "'" and text[1:].startswith(("=", "+", "-", "@", "'")) else text
