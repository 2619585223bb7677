"""The built-in effects: every module of the package that registers one. A new effect is one file."""

import importlib
import pkgutil

from heliograph.effects.registry import (
    EFFECTS,
    Canvas,
    Effect,
    Moment,
    Stretch,
    complete_params,
    effect_named,
    unsuited,
)

for _module in sorted(one.name for one in pkgutil.iter_modules(__path__)):
    importlib.import_module(f"{__name__}.{_module}")

__all__ = ["EFFECTS", "Canvas", "Effect", "Moment", "Stretch", "complete_params", "effect_named", "unsuited"]
