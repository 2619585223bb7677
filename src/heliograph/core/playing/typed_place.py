"""A place on earth as it is typed and written: `57.70 N 2.00 W`."""

from __future__ import annotations

import re

from heliograph.core.errors import InputError

_PLACE = re.compile(
    r"^(-?\d+(?:[.,]\d+)?)\s*°?\s*([NS])?[\s,;]+(-?\d+(?:[.,]\d+)?)\s*°?\s*([EWO])?$",
    re.IGNORECASE,
)


def read_place(text: str) -> tuple[float, float]:
    """Degrees north and east."""
    found = _PLACE.match(text.strip())
    if found is None:
        raise InputError(f"'{text.strip()[:40]}' is no place.", where="place", repair="Type 57.70 N 2.00 W.")
    latitude = float(found[1].replace(",", ".")) * (-1.0 if (found[2] or "").upper() == "S" else 1.0)
    longitude = float(found[3].replace(",", ".")) * (-1.0 if (found[4] or "").upper() == "W" else 1.0)
    return latitude, longitude


def write_place(latitude: float | None, longitude: float | None) -> str:
    """ "" where it is not known."""
    if latitude is None or longitude is None:
        return ""
    north, east = ("S" if latitude < 0 else "N"), ("W" if longitude < 0 else "E")
    return f"{abs(latitude):.2f} {north} {abs(longitude):.2f} {east}"
