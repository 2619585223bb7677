"""The library every new show begins with: generic profiles, invented by us after what is common in the trade."""

from __future__ import annotations

from uuid import uuid4

from heliograph.api.generic.heads import HEADS
from heliograph.api.generic.lamps import LAMPS
from heliograph.api.generic.lasers import LASERS
from heliograph.api.generic.parts import Data
from heliograph.api.generic.pixels import PIXELS

ORIGIN = "Heliograph's own library, after common practice"


def generic_profiles() -> list[tuple[str, Data]]:
    """(id, columns) of each profile; ids are new for every show."""
    usual = {
        "maker": "Generic",
        "guarded": False,
        "notes": "",
        "origin": ORIGIN,
        "verified": False,
        "manual": "",
        "manual_name": "",
    }
    return [(str(uuid4()), {**usual, **profile}) for profile in (*LAMPS, *PIXELS, *HEADS, *LASERS)]
