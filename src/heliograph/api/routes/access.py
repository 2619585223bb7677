"""Who is in: pass codes by role, sessions, and a picture of the way in for a phone."""

from __future__ import annotations

import io
import re

import segno
from fastapi import APIRouter, Request, Response
from starlette.responses import Response as PlainResponse

from heliograph.api import schemas
from heliograph.api.access import role_of
from heliograph.api.context import Context
from heliograph.api.edits import ContextOf
from heliograph.api.sessions import SESSION_S
from heliograph.core.errors import InputError
from heliograph.core.roles import Role
from heliograph.network.entrance import COOKIE, is_loopback

router = APIRouter(prefix="/api", tags=["access"])


@router.post("/pass")
def give_pass(body: schemas.PassBody, context: ContextOf, request: Request, response: Response) -> schemas.Entered:
    """Opens a session for this browser: its cookie is the only place that holds its token."""
    if not context.settings.asks_pass:
        return schemas.Entered(role="edit")
    address = request.client.host if request.client else ""
    token, role = context.sessions.enter(body.code, address, device_of(request.headers.get("user-agent", "")))
    response.set_cookie(
        COOKIE, token, httponly=True, samesite="strict", secure=context.settings.tls, max_age=int(SESSION_S)
    )
    return schemas.Entered(role=role)


@router.get("/access")
def access(context: ContextOf, request: Request) -> schemas.AccessView:
    """One's own role; for the role edit also the codes and who is in."""
    role, asks = role_of(request.scope), context.settings.asks_pass
    if role != "edit" or not asks:
        return schemas.AccessView(role=role, asks_pass=asks, codes=[], sessions=[], address="")
    return schemas.AccessView(
        role=role,
        asks_pass=True,
        codes=[schemas.CodeView(role=name, code=code) for name, code in context.sessions.codes.items()],
        sessions=[schemas.SessionView(**one) for one in context.sessions.listed()],
        address=address_of(context),
    )


@router.post("/access/codes/{role}")
def renew_code(role: Role, context: ContextOf) -> schemas.CodeView:
    """A new code in place of the old one; who is in stays in until the session is ended."""
    _check_asks(context)
    return schemas.CodeView(role=role, code=context.sessions.renew_code(role))


@router.delete("/access/sessions/{session_id}", status_code=204)
def end_session(session_id: str, context: ContextOf) -> None:
    _check_asks(context)
    context.sessions.end(session_id)


@router.get("/access/qr/{role}")
def qr_code(role: Role, context: ContextOf) -> PlainResponse:
    """An SVG that leads a phone or tablet in with a role. The code stands behind the #, which no server is sent."""
    _check_asks(context)
    code = context.sessions.codes[role]
    picture = io.BytesIO()
    made = segno.make(f"{address_of(context)}join#{code}", error="m")
    made.save(picture, kind="svg", scale=6, border=4, dark="#000000", light="#ffffff")
    return PlainResponse(picture.getvalue(), media_type="image/svg+xml", headers={"cache-control": "no-store"})


def _check_asks(context: Context) -> None:
    if not context.settings.asks_pass:
        raise InputError(
            "Only this machine reaches the server, so nobody needs a code.",
            where="access",
            repair="Start it with --host 0.0.0.0 to let phones and tablets in.",
        )


def address_of(context: Context) -> str:
    """How others reach this server: the address it listens on, else that of the first card that is not loopback."""
    settings = context.settings
    host = settings.host
    if host in ("0.0.0.0", "::"):
        cards = [card.address for card in context.cards() if card.up]
        host = next((one for one in cards if not is_loopback(one)), cards[0] if cards else "127.0.0.1")
    return f"{'https' if settings.tls else 'http'}://{host}:{settings.port}/"


def device_of(agent: str) -> str:
    """What a browser says of its machine, short."""
    found = re.search(r"\(([^)]*)\)", agent)
    return (found.group(1) if found else agent)[:80]
