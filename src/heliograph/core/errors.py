"""The error tree: what was wrong, where, and what would be right.

Three kinds, because they are answered differently: the caller's fault is shown beside the field that
caused it, a peer's fault is counted with its sender, our own fault is logged with its trace.
"""

from __future__ import annotations


class HeliographError(Exception):
    """Base of all errors that carry a sentence for a person.

    `what` is a whole sentence; `where` names the field or object; `repair` says what would be right
    ("" where nothing can be proposed).
    """

    def __init__(self, what: str, *, where: str = "", repair: str = "") -> None:
        super().__init__(what if not repair else f"{what} {repair}")
        self.what = what
        self.where = where
        self.repair = repair


class InputError(HeliographError):
    """The caller's fault: a value that cannot be accepted. Nothing was changed."""


class NotFoundError(HeliographError):
    """The caller named something that is not there (any more)."""


class ConflictError(HeliographError):
    """Somebody else changed the same thing since the caller last saw it. Nothing was changed."""


class AccessError(HeliographError):
    """The caller may not do this from where they are."""


class PeerError(HeliographError):
    """Another device sent something wrong. Counted with its sender, never raised into the frame loop."""


class InternalError(HeliographError):
    """Our own fault: logged with its trace; the text says what goes on all the same."""


class UnavailableError(HeliographError):
    """A part of ours (engine, database) does not answer at the moment; it is restarted by itself."""
