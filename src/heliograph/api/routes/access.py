"""The pass code, given once."""

from __future__ import annotations

import hmac

from fastapi import APIRouter, Response

from heliograph.api import schemas
from heliograph.api.access import COOKIE, pass_token
from heliograph.api.edits import ContextOf
from heliograph.core.errors import AccessError

router = APIRouter(prefix="/api", tags=["access"])


@router.post("/pass", status_code=204)
def give_pass(body: schemas.PassBody, context: ContextOf, response: Response) -> None:
    """Sets the cookie that lets this browser in."""
    code = context.settings.pass_code
    if code and not hmac.compare_digest(code.encode(), body.code.encode()):
        raise AccessError("That is not the pass code.", where="code", repair="It was printed when the server started.")
    response.set_cookie(COOKIE, pass_token(code), httponly=True, samesite="strict", max_age=30 * 86_400)
