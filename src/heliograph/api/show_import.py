"""Turns the tables of a show file into rows of a new show: every value checked, every id made new.

Ids are made from the new show's own, so that a show can be loaded beside itself.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any
from uuid import UUID, uuid5

from pydantic import ValidationError

from heliograph.api.routes.clips import SUFFIXES
from heliograph.api.show_rows import MODELS
from heliograph.core.colour.ramps import check_ramp, stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.look.attributes import values_from_json
from heliograph.core.look.chase import check_shape, strip_from_json
from heliograph.core.look.drawn import unpacked
from heliograph.core.look.line import line_from_json
from heliograph.core.look.presets import check_kind
from heliograph.core.matrix.placements import check_placements, check_size, unpack
from heliograph.core.older_shows import lies_of_states, newer_line, newer_mode
from heliograph.core.patch.dmx import parse_address
from heliograph.core.playing.favourites import check_values
from heliograph.core.profiles.profile import AFTER, mode_from_json
from heliograph.core.show.references import dangling, renamed
from heliograph.edits.clocks import check_clock
from heliograph.edits.cue_lists import check_cues
from heliograph.edits.looks import complete_line
from heliograph.edits.pages import check_page
from heliograph.edits.scores import check_score
from heliograph.effects.checking import check_line, check_through
from heliograph.formats.show_file import Tables

Rows = dict[str, list[tuple[str, dict[str, Any]]]]

ROWS_MAX = 50_000


def _newer(table: str, row: dict[str, Any]) -> dict[str, Any]:
    """A row as an older program wrote it, as it is written today; raises as Python does where it is neither."""
    if table == "profile":
        return {**row, "modes": [newer_mode(mode) for mode in row["modes"]]}
    if table == "fixture" and any(isinstance(one, dict) for one in row.get("blocks", ())):
        return {**row, "blocks": lies_of_states(row["blocks"])}
    if table == "look":
        rest = {name: value for name, value in row.items() if name not in ("layers", "lines")}
        return {**rest, "lines": [newer_line(one) for one in row["layers" if "layers" in row else "lines"]]}
    return row


def imported_rows(show_id: str, tables: Tables) -> Rows:
    """Rows of a new show by table, in the order in which they may be inserted; InputError that names the place."""
    unknown = set(tables) - set(MODELS)
    if unknown:
        raise InputError(f"show.json has a table '{sorted(unknown)[0][:40]}' that is not known.", where="file")
    new = _Renaming(UUID(show_id))
    read = {table: _read(table, tables.get(table, [])) for table in MODELS}
    result: Rows = {}
    for table, rows in read.items():
        check = _CHECKS.get(table)
        result[table] = []
        for index, row in enumerate(rows):
            if check is not None:
                _at(table, index, check, row)
            result[table].append((new(row.pop("id")), renamed(table, row, new)))
    _check_references(result)
    return result


def _read(table: str, rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    if len(rows) > ROWS_MAX:
        raise InputError(f"'{table}' has {len(rows)} rows: {ROWS_MAX} are the most.", where="file")
    found = []
    for index, row in enumerate(rows):
        try:
            found.append(MODELS[table].model_validate(_newer(table, row)).model_dump(mode="json"))
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(str(part) for part in first["loc"])
            raise InputError(f"{table} {index + 1} of show.json: {where}: {first['msg']}.", where="file") from error
        except (KeyError, TypeError, AttributeError, ValueError) as error:
            raise InputError(f"{table} {index + 1} of show.json cannot be read.", where="file") from error
    return found


def _at(table: str, index: int, check: Callable[[dict[str, Any]], None], row: dict[str, Any]) -> None:
    try:
        check(row)
    except InputError as error:
        raise InputError(
            f"{table} {index + 1} of show.json: {error.what}", where="file", repair=error.repair
        ) from error


def _check_profile(row: dict[str, Any]) -> None:
    row["guarded"] = row["guarded"] or row["kind"] == "laser"
    for mode in row["modes"]:
        mode_from_json(mode)
        mode.pop("was", None)


_CELL = re.compile(r"^[0-9a-f-]{36}:\d{1,5}$")


def _check_group(row: dict[str, Any]) -> None:
    wrong = next((one for one in row["cells"] if not _CELL.match(one)), None)
    if wrong is not None:
        raise InputError(f"'{wrong[:60]}' is no cell of a fixture.")


def _check_fixture(row: dict[str, Any]) -> None:
    for lies in row["blocks"]:
        if lies not in ("", AFTER):
            parse_address(lies)
    if (row["universe"] is None) != (row["channel"] is None):
        raise InputError("It has a universe without a channel, or a channel without a universe.")


def _check_matrix(row: dict[str, Any]) -> None:
    check_size(row["width"], row["height"])
    check_placements(unpack(row["placements"]))


def _check_clip(row: dict[str, Any]) -> None:
    if row["suffix"] not in SUFFIXES:
        raise InputError(f"'{row['suffix']}' is no kind of clip.")


def _check_chase(row: dict[str, Any]) -> None:
    if len({frame["id"] for frame in row["frames"]}) < len(row["frames"]):
        raise InputError("Two of its frames have the same id.")
    check_shape(row["columns"], row["rows"], row["frames"])
    strip_from_json(row)
    for frame in row["frames"]:
        unpacked(frame["picture"], row["columns"], row["rows"])


def _check_preset(row: dict[str, Any]) -> None:
    check_kind(row["kind"], row["sets"])
    values_from_json(row)


def _check_ramp(row: dict[str, Any]) -> None:
    check_ramp(stops_from_json(row["stops"]))


def _check_look(row: dict[str, Any]) -> None:
    """How long a clip lasts is not in the file: it is found out when the media are there."""
    row["lines"] = [complete_line(line, new=False) for line in row["lines"]]
    lines = [line_from_json(data) for data in row["lines"]]
    for line in lines:
        check_line(line, lambda _clip: None)
        check_through(line, {one.id: one.paints for one in lines})


def _check_cue_list(row: dict[str, Any]) -> None:
    check_cues({**row, "id": ""})


_CHECKS: dict[str, Callable[[dict[str, Any]], None]] = {
    "profile": _check_profile,
    "fixture": _check_fixture,
    "group": _check_group,
    "matrix": _check_matrix,
    "clip": _check_clip,
    "chase": _check_chase,
    "preset": _check_preset,
    "ramp": _check_ramp,
    "look": _check_look,
    "cue_list": _check_cue_list,
    "score": check_score,
    "clock": check_clock,
    "page": check_page,
    "favourite": lambda row: check_values(row["values"]),
}


class _Renaming:
    """New ids from old ones, the same for the same within one show."""

    def __init__(self, show: UUID) -> None:
        self._show = show

    def __call__(self, old: str) -> str:
        return str(uuid5(self._show, old)) if old else ""


def _check_references(result: Rows) -> None:
    ids = {table: {key for key, _ in rows} for table, rows in result.items()}
    for table, keys in ids.items():
        if len(keys) < len(result[table]):
            raise InputError(f"Two of '{table}' in show.json have the same id.", where="file")
    numbers: dict[int, int] = {}
    for index, (_, fixture) in enumerate(result["fixture"]):
        if (before := numbers.setdefault(fixture["number"], index)) != index:
            raise InputError(
                f"fixture {index + 1} of show.json: fixture {before + 1} has the number {fixture['number']} too.",
                where="file",
            )
    tables = {table: [{**row, "id": key} for key, row in rows] for table, rows in result.items()}
    for one, place, record in dangling(tables):
        if one.when_gone == "refuse" or one.of == "look":
            raise InputError(f"{one.of} {place + 1} of show.json: its {one.what} is not in the file.", where="file")
        if one.when_gone == "goes":
            result[one.of] = [(key, row) for key, row in result[one.of] if key != record["id"]]
            continue
        there = ids[one.to]
        gone: dict[str, dict[str, Any]] = {key: {} for key in one.ids(record) if key not in there}
        row = next(row for key, row in result[one.of] if key == record["id"])
        row |= one.without(row, gone)
