"""Turns the tables of a show file into rows of a new show: every value checked, every id made new.

Ids are made from the new show's own, so that a show can be loaded beside itself.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Annotated, Any, Literal
from uuid import UUID, uuid5

from pydantic import BaseModel, Field, StringConstraints, ValidationError

from heliograph.api.routes.clips import SUFFIXES
from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.looks import LineBody, StopBody
from heliograph.api.schemas.matrices import Packed, WeaveBody
from heliograph.api.schemas.outputs import OutputBody
from heliograph.api.schemas.plans import Metres, PlanItem, Size
from heliograph.api.schemas.profiles import ProfileBody
from heliograph.core.colour.ramps import check_ramp, stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.look.line import line_from_json
from heliograph.core.matrix.placements import check_placements, check_size, unpack
from heliograph.core.older_shows import lies_of_states, newer_line, newer_mode
from heliograph.core.patch.dmx import parse_address
from heliograph.core.profiles.profile import AFTER, mode_from_json
from heliograph.core.show.references import dangling, renamed
from heliograph.effects.checking import check_line
from heliograph.formats.show_file import Tables

Rows = dict[str, list[tuple[str, dict[str, Any]]]]

ROWS_MAX = 50_000


class ProfileRow(ProfileBody):
    manual: str = Field("", pattern=r"^([0-9a-f]{64})?$")
    manual_name: str = Field("", max_length=200)


class FixtureRow(Strict):
    id: UUID
    number: int = Field(ge=1, le=999_999)
    name: Name
    profile: UUID
    mode: Name
    universe: int | None = Field(ge=1, le=63_999)
    channel: int | None = Field(ge=1, le=512)
    extra: Literal["replace", "add", "match", "leave"]
    response: Literal["as is", "gamma 2.2", "CIE lightness"]
    blocks: list[Annotated[str, StringConstraints(max_length=40)]] = Field(default_factory=list, max_length=8)


class GroupRow(Strict):
    id: UUID
    place: int
    name: Name
    fixtures: list[UUID]
    folder: str = Field("", max_length=60)
    rule: str = Field("", max_length=500)
    cells: list[str] = Field(default_factory=list, max_length=250_000)
    emitter: str = Field("", max_length=60)


class PlanRow(Strict):
    id: UUID
    place: int
    name: Name
    items: list[PlanItem] = Field(max_length=50_000)
    picture: str = Field("", pattern=r"^([0-9a-f]{64})?$")
    picture_width_m: Size = 20.0
    picture_height_m: Size = 10.0
    picture_x: Metres = 0.0
    picture_y: Metres = 0.0


class MatrixRow(Strict):
    id: UUID
    place: int
    name: Name
    width: int
    height: int
    placements: Packed
    weave: WeaveBody | None = None
    shares: str = Field("", pattern=r"^([0-9a-f-]{36})?$")


class ClipRow(Strict):
    """What a clip is like is looked into anew; only its name and content count."""

    id: UUID
    name: str = Field(min_length=1, max_length=200)
    content: str = Field(pattern=r"^[0-9a-f]{64}$")
    suffix: str = Field(max_length=6)


class RampRow(Strict):
    id: UUID
    place: int
    name: Name
    stops: list[StopBody] = Field(min_length=1, max_length=8)


class LookRow(Strict):
    id: UUID
    place: int
    name: Name
    lines: list[LineBody] = Field(max_length=64)


class OutputRow(OutputBody):
    id: UUID
    place: int
    address: str = Field("", max_length=400)
    card_broadcast: str = Field("", max_length=40)


class MarkRow(Strict):
    id: UUID
    place: int
    fixture: UUID
    cell: int = Field(ge=0, le=20_000)
    kind: Literal["good", "dark", "wrong place", "wrong colour"]
    seen: dict[str, Any] = Field(default_factory=dict)


class ParkedRow(Strict):
    id: UUID
    place: int
    universe: int = Field(ge=1, le=63_999)
    channel: int = Field(ge=1, le=512)
    value: int = Field(ge=0, le=255)


MODELS: dict[str, type[BaseModel]] = {
    "profile": ProfileRow,
    "fixture": FixtureRow,
    "group": GroupRow,
    "plan": PlanRow,
    "matrix": MatrixRow,
    "clip": ClipRow,
    "ramp": RampRow,
    "look": LookRow,
    "output": OutputRow,
    "mark": MarkRow,
    "parked": ParkedRow,
}


def _newer(table: str, row: dict[str, Any]) -> dict[str, Any]:
    """A row as an older program wrote it, as it is written today; raises as Python does where it is neither."""
    if table == "profile":
        return {**row, "modes": [newer_mode(mode) for mode in row["modes"]]}
    if table == "fixture" and any(isinstance(one, dict) for one in row.get("blocks", ())):
        return {**row, "blocks": lies_of_states(row["blocks"])}
    if table == "look" and "layers" in row:
        rest = {name: value for name, value in row.items() if name != "layers"}
        return {**rest, "lines": [newer_line(one) for one in row["layers"]]}
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


def _check_ramp(row: dict[str, Any]) -> None:
    check_ramp(stops_from_json(row["stops"]))


def _check_look(row: dict[str, Any]) -> None:
    """How long a clip lasts is not in the file: it is found out when the media are there."""
    for data in row["lines"]:
        check_line(line_from_json(data), lambda _clip: None)


_CHECKS: dict[str, Callable[[dict[str, Any]], None]] = {
    "profile": _check_profile,
    "fixture": _check_fixture,
    "group": _check_group,
    "matrix": _check_matrix,
    "clip": _check_clip,
    "ramp": _check_ramp,
    "look": _check_look,
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
