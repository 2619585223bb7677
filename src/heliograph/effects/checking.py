"""Whether a line can be painted: one rule for what is typed, what is imported and what is moved."""

from __future__ import annotations

from collections.abc import Callable

from heliograph.core.errors import InputError
from heliograph.core.look.line import EffectLine, Line
from heliograph.effects.registry import complete_params, effect_named


def check_line(line: Line, clip_ns: Callable[[str], int | None]) -> None:
    """Raises InputError for an effect or parameters there are not, and for a part that lies past its clip's end.
    `clip_ns`: how long a clip lasts, None for one that is not known."""
    if isinstance(line, EffectLine):
        complete_params(effect_named(line.effect), line.params)
        return
    duration_ns = clip_ns(line.clip)
    if duration_ns is not None and line.fitting.in_s * 1e9 >= duration_ns:
        raise InputError(
            f"The in point at {line.fitting.in_s:g} s lies past the clip's end.",
            where="fitting.in_s",
            repair=f"The clip lasts {duration_ns / 1e9:.2f} s.",
        )
