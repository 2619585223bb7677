"""How often frames leave."""

from __future__ import annotations

FRAME_HZ = 44
PERIOD_NS = 1_000_000_000 // FRAME_HZ
"""22.7 ms: DMX512 with 512 slots refreshes at most 44.1 times a second (standards 1.2)."""
