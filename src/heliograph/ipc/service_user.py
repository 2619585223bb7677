"""Started as root, only what needs it stays root: the rest runs as a user that owns our data folder and nothing else.

Processes drop their rights themselves, once they have read their programs; where that user could not read them (a
Python under somebody's closed home), they stay as they are and say so.
"""

from __future__ import annotations

import ctypes
import os
import pwd
import subprocess
import sys
import sysconfig
from pathlib import Path

NAME = "heliograph"
NO_USER = "nobody"

_PR_SET_PDEATHSIG, _PR_GET_PDEATHSIG = 1, 2
_libc = ctypes.CDLL(None)


def service_user() -> pwd.struct_passwd | None:
    """Who our processes become; None where we are not root. Made at the first start, as packages make theirs."""
    if os.getuid() != 0:
        return None
    for name in (NAME, NO_USER):
        try:
            return pwd.getpwnam(name)
        except KeyError:
            if name == NAME and _make():
                return pwd.getpwnam(NAME)
    return None


def _make() -> bool:
    command = ["useradd", "--system", "--no-create-home", "--home-dir", "/nonexistent", "--shell", "/usr/sbin/nologin"]
    try:
        return subprocess.run([*command, NAME], capture_output=True).returncode == 0
    except OSError:
        return False


def may_pass(folder: Path, user: pwd.struct_passwd) -> bool:
    """Whether a user may pass through every folder on the way to a place, and read it."""
    for one in [folder, *folder.parents]:
        if not one.exists():
            continue
        facts = one.stat()
        shift = 6 if facts.st_uid == user.pw_uid else 3 if facts.st_gid == user.pw_gid else 0
        if not facts.st_mode >> shift & 0o1:
            return False
    return True


def program_folders() -> list[Path]:
    """Where this Python and our programs lie."""
    found = {sys.prefix, sys.base_prefix, *(sysconfig.get_paths()[name] for name in ("stdlib", "platlib"))}
    found |= {entry for entry in sys.path if entry}
    return [Path(one).resolve() for one in sorted(found)]


def why_not(data: Path, user: pwd.struct_passwd) -> str:
    """The folder that keeps `user` from running our programs; "" where nothing does."""
    for folder in [data.resolve(), *program_folders()]:
        if folder.exists() and not may_pass(folder, user):
            return str(folder)
    return ""


def drop_rights(data: Path) -> str:
    """Becomes the service user if we are root, and the data folder is that user's; the user's name, "" where not."""
    if os.getuid() != 0:
        return ""
    owner = (data / "run").stat().st_uid
    if owner == 0:
        return ""
    user = pwd.getpwuid(owner)
    ends_with_parent = ctypes.c_int(0)
    _libc.prctl(_PR_GET_PDEATHSIG, ctypes.byref(ends_with_parent), 0, 0, 0)
    os.setgroups([])
    os.setresgid(user.pw_gid, user.pw_gid, user.pw_gid)
    os.setresuid(user.pw_uid, user.pw_uid, user.pw_uid)
    _libc.prctl(_PR_SET_PDEATHSIG, ends_with_parent.value, 0, 0, 0)  # the system forgets it when the user changes
    os.umask(0o077)
    return user.pw_name


def give_to_owner(data: Path, path: Path) -> None:
    """A file or folder that a root process made belongs to whoever owns the data folder."""
    if os.getuid() == 0:
        facts = (data / "run").stat()
        os.chown(path, facts.st_uid, facts.st_gid)


KEPT_BY_ROOT = ("postgres", "postgres.secret", "postgres.making", "backups", "engine")
"""Of the data folder: the database's own user has the first, the others hold what only root writes."""


def hand_over_data(data: Path, user: pwd.struct_passwd | None) -> None:
    """Makes the data folder the service user's (None: root's), apart from what stays root's."""
    uid, gid = (user.pw_uid, user.pw_gid) if user is not None else (0, 0)
    os.chown(data, uid, gid)
    for top in data.iterdir():
        if top.name in KEPT_BY_ROOT or top.is_symlink():
            continue
        os.chown(top, uid, gid)
        for folder, names, files in os.walk(top):
            for name in (*names, *files):
                os.chown(os.path.join(folder, name), uid, gid, follow_symlinks=False)
