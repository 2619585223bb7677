"""The library every new show begins with: generic profiles, made up by us.

Each layout follows from plain reasons: the order of the emitters, 8 or 16 bit, the dimmer first, last or none, a number
of cells. None is a property of one make; what hangs in the room has a manual.
"""

from __future__ import annotations

from uuid import uuid4

from heliograph.core.profiles.generic.heads import HEADS
from heliograph.core.profiles.generic.lamps import LAMPS
from heliograph.core.profiles.generic.lasers import LASERS
from heliograph.core.profiles.generic.parts import Data
from heliograph.core.profiles.generic.pixels import PIXELS

ORIGIN = "made up for this library"


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
