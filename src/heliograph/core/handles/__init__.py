"""Handles: everything that can be moved while a show runs, in one registry, each with an address by ids that renaming
does not change and a path of names. Whatever moves one, a hand in a browser, a page, a desk, comes by `move`."""

from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.handles.registry import check, find, handles_of, is_held, let_go, move, read, search

__all__ = ["Ground", "Handle", "Move", "check", "find", "handles_of", "is_held", "let_go", "move", "read", "search"]
