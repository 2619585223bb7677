"""Who may do what: three roles, each with all that the one before it may.

view looks; run also starts looks, moves masters, walks and makes lasers safe; edit may do everything, arming included.
"""

from __future__ import annotations

from typing import Literal, get_args

Role = Literal["view", "run", "edit"]
ROLES: tuple[Role, ...] = get_args(Role)


def may(role: Role, needed: Role) -> bool:
    """Whether somebody with `role` may do what needs `needed`."""
    return ROLES.index(role) >= ROLES.index(needed)


def refusal(role: Role, needed: Role) -> str:
    """The sentence for somebody who may not."""
    return f"You are here with the role {role}; this needs the role {needed}."
