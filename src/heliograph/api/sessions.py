"""Pass codes by role, and the sessions of those who gave one.

Kept in one file of the data folder that only its owner reads, so that who is in stays in while the database is away.
Codes are random (60 bits); of a session only the hash of its token is kept.
"""

from __future__ import annotations

import hashlib
import hmac
import secrets
import threading
import time
from collections import OrderedDict
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any
from uuid import uuid4

import orjson
import structlog

from heliograph.core.errors import AccessError, NotFoundError
from heliograph.core.roles import ROLES, Role
from heliograph.ipc.durable import write_durably

ALPHABET = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"
"""32 signs without I, L, O and U, which are read as others (the alphabet of Douglas Crockford's base 32)."""

CODE_SIGNS = 12
GROUP = 4
LOOKS_LIKE = str.maketrans("OIL", "011", "- ")

SESSIONS_MAX = 500
SESSION_S = 30 * 86_400.0
"""Who does not come for 30 days gives the code again."""

SEEN_KEEP_S = 60.0
TRIES = 5
TRIES_S = 60.0
WAIT_S = 30.0
WAIT_MAX_S = 3600.0
ADDRESSES_MAX = 1_000
"""Addresses whose wrong tries are remembered; the oldest are forgotten first."""


@dataclass(slots=True)
class Session:
    """`device` in the words of its browser; times are Unix seconds."""

    id: str
    token_hash: str
    role: Role
    device: str
    made_s: float
    seen_s: float


@dataclass(slots=True)
class _Tries:
    wrong: list[float]
    waits: int = 0
    until_s: float = 0.0


def new_code() -> str:
    """12 signs in three groups: 60 bits."""
    signs = "".join(secrets.choice(ALPHABET) for _ in range(CODE_SIGNS))
    return "-".join(signs[at : at + GROUP] for at in range(0, CODE_SIGNS, GROUP))


def plain(code: str) -> str:
    """A code as typed by anybody: any case, with or without signs between, O as 0 and I or L as 1."""
    return code.upper().translate(LOOKS_LIKE)


class Sessions:
    """Safe from any thread."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._lock = threading.Lock()
        self._tries: OrderedDict[str, _Tries] = OrderedDict()
        self._log = structlog.get_logger("web")
        self._kept_s = 0.0
        self.codes: dict[Role, str] = {}
        self._sessions: dict[str, Session] = {}
        self._read()
        missing = [role for role in ROLES if role not in self.codes]
        for role in missing:
            self.codes[role] = new_code()
        if missing:
            self._keep()

    def _read(self) -> None:
        try:
            data = orjson.loads(self._path.read_bytes())
            self.codes = {role: str(data["codes"][role]) for role in ROLES if role in data["codes"]}
            for one in data["sessions"]:
                session = Session(**one)
                if session.role in ROLES:
                    self._sessions[session.token_hash] = session
        except FileNotFoundError:
            return
        except (OSError, ValueError, KeyError, TypeError) as error:
            self._log.warning(f"the file of sessions cannot be read, everybody gives the code anew: {error}")

    def _keep(self) -> None:
        data = {"codes": self.codes, "sessions": [asdict(one) for one in self._sessions.values()]}
        try:
            self._path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
            write_durably(self._path, orjson.dumps(data), 0o600)
        except OSError as error:
            self._log.warning(f"sessions cannot be kept: {error.strerror}", event_for_people=True)
        self._kept_s = time.time()

    def enter(self, code: str, address: str, device: str) -> tuple[str, Role]:
        """A new session for a right code: (token, role). AccessError for a wrong one, and while `address` waits."""
        with self._lock:
            now = time.time()
            self._check_waiting(address, now)
            role = self._role_of(code)
            if role is None:
                self._wrong(address, now)
                raise AccessError(
                    "That is not a pass code of this server.",
                    where="code",
                    repair="It was printed when the server started; somebody with the role edit sees it under Access.",
                )
            self._tries.pop(address, None)
            token = secrets.token_urlsafe(32)
            session = Session(uuid4().hex, _hash(token), role, device[:120], now, now)
            self._sessions[session.token_hash] = session
            self._drop_old(now)
            self._keep()
            self._log.info(f"{device[:60] or 'a device'} at {address} came in as {role}", event_for_people=True)
            return token, role

    def _role_of(self, code: str) -> Role | None:
        given, found = plain(code).encode(), None
        for role, known in self.codes.items():
            if hmac.compare_digest(plain(known).encode(), given):
                found = role
        return found

    def _check_waiting(self, address: str, now: float) -> None:
        tries = self._tries.get(address)
        if tries is not None and now < tries.until_s:
            raise AccessError(
                f"Too many wrong codes came from here: wait {tries.until_s - now:.0f} s.", where="code", repair=""
            )

    def _wrong(self, address: str, now: float) -> None:
        tries = self._tries.setdefault(address, _Tries([]))
        self._tries.move_to_end(address)
        while len(self._tries) > ADDRESSES_MAX:
            self._tries.popitem(last=False)
        tries.wrong = [at for at in tries.wrong if now - at < TRIES_S] + [now]
        if len(tries.wrong) >= TRIES or tries.waits:
            wait = min(WAIT_S * 2**tries.waits, WAIT_MAX_S)
            tries.waits += 1
            tries.until_s = now + wait
            self._log.warning(
                f"{len(tries.wrong)} wrong pass codes from {address}: it waits {wait:.0f} s", event_for_people=True
            )

    def _drop_old(self, now: float) -> None:
        stays = sorted(self._sessions.values(), key=lambda one: one.seen_s, reverse=True)[:SESSIONS_MAX]
        self._sessions = {one.token_hash: one for one in stays if now - one.seen_s < SESSION_S}

    def role_of(self, token: str) -> Role | None:
        """The role of a session; None where there is none."""
        session = self._sessions.get(_hash(token))
        now = time.time()
        if session is None or now - session.seen_s > SESSION_S:
            return None
        session.seen_s = now
        if now - self._kept_s > SEEN_KEEP_S:
            with self._lock:
                self._keep()
        return session.role

    def listed(self) -> list[dict[str, Any]]:
        """Newest first, without tokens."""
        with self._lock:
            found = sorted(self._sessions.values(), key=lambda one: one.seen_s, reverse=True)
        return [
            {"id": one.id, "role": one.role, "device": one.device, "made_s": one.made_s, "seen_s": one.seen_s}
            for one in found
        ]

    def end(self, key: str) -> None:
        with self._lock:
            before = len(self._sessions)
            self._sessions = {name: one for name, one in self._sessions.items() if one.id != key}
            if len(self._sessions) == before:
                raise NotFoundError("That session has ended already.", where="session")
            self._keep()

    def renew_code(self, role: Role) -> str:
        """A new code in place of the old one, which lets nobody in any more. Who is in stays in."""
        with self._lock:
            self.codes[role] = new_code()
            self._keep()
            self._log.info(f"a new pass code for the role {role}", event_for_people=True)
            return self.codes[role]


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
