"""The patch sheet: one row a fixture, as CSV (RFC 4180), out and in without loss.

Reading answers everything that is wrong, each fault with its row and column, and changes nothing itself.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from heliograph.core.colour.extraction import EXTRA_USES
from heliograph.core.colour.response import RESPONSES
from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import Places, newer_part, places_of, read_places, say_places, stored_places
from heliograph.core.patch.dmx import Address, parse_address
from heliograph.core.patch.places import place_mode
from heliograph.core.profiles.profile import Mode, mode_from_json

COLUMNS = ("number", "name", "maker", "profile", "mode", "address", "blocks", "extra", "response")
NEEDED = ("number", "profile")
ROWS_MAX = 20_000
COLUMNS_MAX = 64
FAULTS_MAX = 500
"""Faults that are told: nobody mends more of them at once."""

SHEET_BYTES_MAX = 8 * 1024 * 1024
"""20,000 rows of 400 bytes."""

NAME_MAX = 120
NUMBER_MAX = 999_999

Profiles = Sequence[Mapping[str, Any]]


@dataclass(frozen=True, slots=True)
class SheetFault:
    """`row` counts lines of the file from 1 (the heading is 1); `column` is a heading, "" for the whole row."""

    row: int
    column: str
    sentence: str


@dataclass(frozen=True, slots=True)
class SheetRow:
    """One fixture as the sheet says it; `profile` is the id of a profile of the show."""

    row: int
    number: int
    name: str
    profile: str
    mode: str
    address: Address | None
    blocks: list[str]
    extra: str
    response: str


@dataclass(frozen=True, slots=True)
class Sheet:
    """What was read; to be used only where there are no `faults`. `columns`: those the sheet has."""

    rows: tuple[SheetRow, ...]
    faults: tuple[SheetFault, ...]
    columns: frozenset[str] = frozenset()


def sheet_to_json(sheet: Sheet) -> dict[str, Any]:
    """For crossing into another process; `sheet_from_json` reads it back."""
    rows = [{**asdict(row), "address": str(row.address) if row.address else None} for row in sheet.rows]
    return {"rows": rows, "faults": [asdict(fault) for fault in sheet.faults], "columns": sorted(sheet.columns)}


def sheet_from_json(data: Mapping[str, Any]) -> Sheet:
    rows = (
        SheetRow(**{**row, "address": parse_address(row["address"]) if row["address"] else None})
        for row in data["rows"]
    )
    faults = (SheetFault(**fault) for fault in data["faults"])
    return Sheet(tuple(rows), tuple(faults), frozenset(data["columns"]))


def write_sheet(fixtures: Iterable[Mapping[str, Any]], profiles: Profiles) -> str:
    """The sheet of fixtures {number, name, profile, mode, universe, channel, blocks, extra, response}."""
    by_id = {profile["id"]: profile for profile in profiles}
    modes = {(key, data["name"]): mode_from_json(data) for key, profile in by_id.items() for data in profile["modes"]}
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for one in fixtures:
        profile = by_id[one["profile"]]
        address = str(Address(one["universe"], one["channel"])) if one["universe"] else ""
        mode = modes.get((one["profile"], one["mode"]))
        blocks = say_places(mode, places_of(mode, one["blocks"])) if mode else ""
        place = (one["number"], one["name"], profile["maker"], profile["name"], one["mode"], address, blocks)
        writer.writerow((*place, one["extra"], one["response"]))
    return out.getvalue()


def read_sheet(raw: bytes, profiles: Profiles) -> Sheet:
    """Reads a sheet with a heading; columns in any order, only number and profile are needed."""
    try:
        lines = _lines(raw)
    except InputError as error:
        return Sheet((), (SheetFault(1, "", f"{error.what} {error.repair}".strip()),))
    if len(lines[0][1]) > COLUMNS_MAX:
        said = f"The heading has {len(lines[0][1])} columns. There are: {', '.join(COLUMNS)}."
        return Sheet((), (SheetFault(1, "", said),))
    heading = [cell.strip().lower()[:NAME_MAX] for cell in lines[0][1]]
    faults = _heading_faults(heading)
    if faults:
        return Sheet((), tuple(faults))
    rows: list[SheetRow] = []
    seen: dict[int, int] = {}
    for number, cells in lines[1:]:
        if len(faults) >= FAULTS_MAX:
            break
        if not any(cell.strip() for cell in cells):
            continue
        if len(cells) > len(heading):
            faults.append(SheetFault(number, "", f"The row has {len(cells)} cells, the heading {len(heading)}."))
            continue
        reader = _RowReader(number, dict(zip(heading, (cell.strip() for cell in cells), strict=False)), profiles)
        row = reader.read()
        faults.extend(reader.faults)
        if row is None:
            continue
        if row.number in seen:
            faults.append(
                SheetFault(number, "number", f"Fixture {row.number} stands in row {seen[row.number]} already.")
            )
        seen.setdefault(row.number, number)
        rows.append(row)
    return Sheet(tuple(rows), tuple(faults), frozenset(heading))


def _lines(raw: bytes) -> list[tuple[int, list[str]]]:
    if len(raw) > SHEET_BYTES_MAX:
        raise InputError(f"The file is larger than {SHEET_BYTES_MAX // 1024**2} MiB.")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError(f"Byte {error.start} is not UTF-8.", repair="Save the sheet as CSV in UTF-8.") from error
    separator = ";" if text.partition("\n")[0].count(";") > text.partition("\n")[0].count(",") else ","
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    lines = []
    try:
        for cells in reader:
            lines.append((reader.line_num, cells))
            if len(lines) > ROWS_MAX:
                raise InputError(f"The sheet has more than {ROWS_MAX} rows.")
    except csv.Error as error:
        raise InputError(f"Line {reader.line_num} is not CSV: {error}.") from error
    if not lines:
        raise InputError("The sheet is empty.", repair=f"Its first row names the columns: {', '.join(COLUMNS)}.")
    return lines


def _heading_faults(heading: list[str]) -> list[SheetFault]:
    faults = [
        SheetFault(1, name, f"There is no column '{name}'. There are: {', '.join(COLUMNS)}.")
        for name in heading
        if name not in COLUMNS
    ]
    faults += [SheetFault(1, name, f"The column '{name}' is missing.") for name in NEEDED if name not in heading]
    twice = sorted({name for name in heading if heading.count(name) > 1})
    return faults + [SheetFault(1, name, f"The column '{name}' stands there twice.") for name in twice]


class _RowReader:
    """Reads one row, collecting everything that is wrong with it."""

    def __init__(self, row: int, cells: Mapping[str, str], profiles: Profiles) -> None:
        self._row, self._cells, self._profiles = row, cells, profiles
        self.faults: list[SheetFault] = []

    def read(self) -> SheetRow | None:
        number = self._number()
        profile = self._profile()
        mode = self._mode(profile)
        places = self._blocks(mode)
        address = self._address(mode, places)
        name = self._cells.get("name") or (f"{profile['name']} {number}" if profile else "")
        if len(name) > NAME_MAX:
            self._fault("name", f"The name has {len(name)} letters: {NAME_MAX} are the most.")
        extra = self._choice("extra", EXTRA_USES)
        response = self._choice("response", RESPONSES)
        if self.faults or number is None or profile is None or mode is None:
            return None
        blocks = stored_places(mode, places) if places else []
        return SheetRow(self._row, number, name, profile["id"], mode.name, address, blocks, extra, response)

    def _fault(self, column: str, sentence: str) -> None:
        self.faults.append(SheetFault(self._row, column, sentence))

    def _number(self) -> int | None:
        text = self._cells.get("number", "")
        if text.isascii() and text.isdigit() and 1 <= int(text[:9]) <= NUMBER_MAX and len(text) <= 6:
            return int(text)
        self._fault("number", f"'{text}' is not a fixture number. Numbers are 1 to {NUMBER_MAX}.")
        return None

    def _profile(self) -> Mapping[str, Any] | None:
        name, maker = self._cells.get("profile", ""), self._cells.get("maker", "")
        found = [
            one
            for one in self._profiles
            if one["name"].lower() == name.lower() and (not maker or one["maker"].lower() == maker.lower())
        ]
        if len(found) == 1:
            return found[0]
        if found:
            makers = ", ".join(sorted(one["maker"] for one in found))
            self._fault("maker", f"'{name}' is made by {makers}: say which.")
        elif any(one["name"].lower() == name.lower() for one in self._profiles):
            self._fault("maker", f"There is no '{name}' by {maker}.")
        else:
            self._fault("profile", f"There is no profile '{name}'.")
        return None

    def _mode(self, profile: Mapping[str, Any] | None) -> Mode | None:
        if profile is None:
            return None
        wanted = self._cells.get("mode", "")
        modes = profile["modes"]
        found = modes[0] if not wanted else next((m for m in modes if m["name"].lower() == wanted.lower()), None)
        if found is None:
            names = ", ".join(m["name"] for m in modes[:6])
            self._fault("mode", f"{profile['name']} has no mode '{wanted}'. It has: {names}.")
            return None
        return mode_from_json(found)

    def _blocks(self, mode: Mode | None) -> Places:
        """Only what is said of them; nothing said leaves them as the mode has them."""
        text = self._cells.get("blocks", "")
        if mode is None or not text:
            return ()
        try:
            places = read_places(mode, [newer_part(mode, one.strip()) for one in text.split(";")])
            place_mode(mode, None, places)
        except InputError as error:
            self._fault("blocks", f"{error.what} {error.repair}".strip())
            return ()
        return places

    def _address(self, mode: Mode | None, places: Places) -> Address | None:
        text = self._cells.get("address", "")
        if not text:
            return None
        try:
            address = parse_address(text)
            if mode is not None:
                place_mode(mode, address, places or places_of(mode, ()))
        except InputError as error:
            self._fault("address", f"{error.what} {error.repair}".strip())
            return None
        return address

    def _choice(self, column: str, choices: Sequence[str]) -> str:
        text = self._cells.get(column, "") or choices[0]
        found = next((one for one in choices if one.lower() == text.lower()), None)
        if found is None:
            self._fault(column, f"'{text}' is none of {', '.join(choices)}.")
        return found or choices[0]
