"""How long one part waits for another before it says that it is not there. All such waits stand here.

On a quiet machine none of them is ever reached. One that is slow, or shared with many, is given more by
`HELIOGRAPH_PATIENCE` (a factor, 1 to 60). What keeps lights and people safe is not in it: the lease of armed lasers
(`engine/arming.py`) and the silence after which an engine is begun anew are the same everywhere.
"""

from __future__ import annotations

import os

VARIABLE = "HELIOGRAPH_PATIENCE"


def factor(text: str | None) -> float:
    """What the variable says: 1 to 60, 1 where it says nothing that can be read."""
    try:
        return min(max(float(text or 1), 1.0), 60.0)
    except ValueError:
        return 1.0


FACTOR = factor(os.environ.get(VARIABLE))

COMMAND_S = 2.0 * FACTOR
"""For the frame in which the engine takes a command."""

ANSWER_S = 5.0 * FACTOR
"""For a process to be found that another wants to ask."""

STARTING_S = 45.0 * FACTOR
"""For the first sign of a process that was just started."""

WEB_READY_S = 60.0 * FACTOR
"""For the first page of a web process that was just started."""

WEB_ANSWER_S = 2.0 * FACTOR
"""For one answer of our own web process, which is asked again."""

DATABASE_CONNECT_S = round(3 * FACTOR)
"""For the database to take a connection; whole seconds."""

DATABASE_READY_S = 30.0 * FACTOR
"""For a database that was just started."""

ENGINE_SILENT_S = 2.0
"""Without a frame for so long, an engine hangs."""

OTHERS_SILENT_S = 10.0
"""Without a sign for so long, a process hangs."""
