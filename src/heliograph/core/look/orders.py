"""Names of the orders in which cells can be gone through."""

from __future__ import annotations

from typing import Literal

OrderName = Literal["address", "row", "column", "snake", "shuffle"]
DriveOrder = Literal["address", "row", "column", "snake", "shuffle", "distance"]
"""Those of drives: also by the distance from a point."""
DISTANCE: DriveOrder = "distance"
