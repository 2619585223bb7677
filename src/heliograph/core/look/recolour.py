"""What a line that recolours takes: how it makes other colours of those beneath it."""

from __future__ import annotations

from heliograph.core.look.parameter import Parameter

ONTO, OWN = "ramp", "its own colours"

RECOLOUR: tuple[Parameter, ...] = (
    Parameter("onto", "choice", ONTO, choices=(ONTO, OWN)),
    Parameter("turn", "number", 0.0, -180.0, 180.0, "degrees", each=True),
    Parameter("saturation", "number", 100.0, 0.0, 200.0, "%", each=True),
    Parameter("black", "number", 0.0, 0.0, 100.0, "%", each=True),
    Parameter("white", "number", 100.0, 0.0, 100.0, "%", each=True),
)
"""First `black` and `white` (the levels that become dark and full), then the hue's `turn` and `saturation`; then `onto`
the ramp by its light, or not."""
