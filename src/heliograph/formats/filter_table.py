"""A table of colour filters as CSV: a name and red, green, blue a line, each 0 to 255 or in percent."""

from __future__ import annotations

import csv
import io
from typing import NamedTuple

from heliograph.core.errors import InputError

ROWS_MAX = 2_000


class Filter(NamedTuple):
    """`sets`: what is typed for red, green and blue."""

    name: str
    sets: dict[str, str]


def filters_of(text: str) -> list[Filter]:
    """The colours of a table; its head, where it has one, is passed over. InputError that names the line."""
    separator = ";" if text.count(";") > text.count(",") else "\t" if "\t" in text else ","
    found = []
    for number, row in enumerate(csv.reader(io.StringIO(text), delimiter=separator), start=1):
        cells = [cell.strip() for cell in row]
        if not any(cells):
            continue
        if len(cells) < 4:
            raise InputError(
                f"Line {number} has {len(cells)} cells.", where="csv", repair="Each line is: name, red, green, blue."
            )
        name, parts = cells[0][:120], cells[1:4]
        if number == 1 and not any(part.rstrip("% ").replace(".", "", 1).isdigit() for part in parts):
            continue  # the head
        if not name:
            raise InputError(f"Line {number} has no name.", where="csv", repair="Each line is: name, red, green, blue.")
        for part in parts:
            _check_level(part, number)
        found.append(Filter(name, dict(zip(("ColorAdd_R", "ColorAdd_G", "ColorAdd_B"), parts, strict=True))))
        if len(found) > ROWS_MAX:
            raise InputError(f"More than {ROWS_MAX} colours.", where="csv", repair="Paste them in parts.")
    if not found:
        raise InputError("There is no colour in that table.", where="csv", repair="Paste: Fog lamp, 204, 91, 18")
    return found


def _check_level(text: str, line: int) -> None:
    most = 100.0 if text.endswith("%") else 255.0
    try:
        value = float(text.rstrip("% "))
    except ValueError:
        value = -1.0
    if not 0.0 <= value <= most:
        raise InputError(
            f"Line {line}: '{text[:20]}' is no level.", where="csv", repair="Give 0 to 255, or 0 % to 100 %."
        )
