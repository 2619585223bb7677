"""Pages of pads and faders: laid out here; what they move goes over the live connection."""

from __future__ import annotations

import io
from typing import Any

import orjson
import segno
from fastapi import APIRouter
from starlette.responses import Response

from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.routes.access import address_of
from heliograph.api.schemas import Done
from heliograph.api.schemas import pages as schemas
from heliograph.core.errors import InputError, NotFoundError
from heliograph.edits import pages
from heliograph.edits.deleting import delete
from heliograph.ipc.messages.engine import AskHandles
from heliograph.store import rows
from heliograph.store.database import connected

HANDLES_LISTED = 5_000

router = APIRouter(prefix="/api/pages", tags=["pages"])


@router.post("", status_code=201)
def add_page(body: schemas.NewPage, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, f"Made the page {body.name}") as work:
        pages.add_page(work, str(body.id), body.name)
        return Done(revision=work.revision)


@router.patch("/{page_id}")
def change_page(page_id: str, body: schemas.PagePatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a page") as work:
        pages.change_page(work, page_id, given, body.rev)
        return Done(revision=work.revision)


@router.post("/{page_id}/copy", status_code=201)
def copy_page(page_id: str, body: schemas.PageCopy, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Copied a page") as work:
        pages.copy_page(work, page_id, str(body.id))
        return Done(revision=work.revision)


@router.delete("/{page_id}")
def delete_page(page_id: str, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Deleted a page") as work:
        delete(work, "page", [page_id])
        return Done(revision=work.revision)


@router.post("/{page_id}/items", status_code=201)
def add_item(page_id: str, body: schemas.NewItem, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, f"Put a {body.kind} on a page") as work:
        given = _item(context, body)
        if not given.get("words") and given.get("handles"):
            given["words"] = given["handles"][0]["words"].partition(":")[0][:60]
        pages.add_item(work, page_id, {**given, "id": str(body.id)})
        return Done(revision=work.revision)


@router.patch("/{page_id}/items/{item_id}")
def change_item(page_id: str, item_id: str, body: schemas.ItemPatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of an item of a page") as work:
        pages.change_item(work, page_id, item_id, _item(context, body))
        return Done(revision=work.revision)


@router.post("/{page_id}/items/delete")
def delete_items(page_id: str, body: schemas.ChosenItems, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Took items from a page") as work:
        pages.delete_items(work, page_id, body.items)
        return Done(revision=work.revision)


@router.get("/at/{slug}/manifest.webmanifest")
def manifest(slug: str) -> Response:
    """By which a browser installs the page as an app of its own: full screen, at its address."""
    with connected():
        found = [one for one in rows.all_of("page", rows.running_show()["id"]) if one["slug"] == slug]
    if not found:
        raise NotFoundError("That page is not there any more.", where="page")
    made = {
        "name": f"{found[0]['name']}, Heliograph",
        "short_name": found[0]["name"],
        "start_url": f"/page/{slug}",
        "scope": f"/page/{slug}",
        "id": f"/page/{slug}",
        "display": "fullscreen",
        "orientation": "any",
        "background_color": "#0b1113",
        "theme_color": "#0b1113",
        "icons": [{"src": "/icon.svg", "sizes": "any", "type": "image/svg+xml", "purpose": "any"}],
    }
    return Response(orjson.dumps(made), media_type="application/manifest+json", headers={"cache-control": "no-store"})


@router.get("/{page_id}/qr")
def qr_code(page_id: str, context: ContextOf) -> Response:
    """An SVG that leads a tablet to the page; where a pass code is asked, with that of the role run, which stands
    behind the # that no server is sent."""
    with connected():
        page = rows.one_of("page", rows.running_show()["id"], page_id)
    if page is None:
        raise NotFoundError("That page is not there any more.", where="page")
    picture = io.BytesIO()
    made = segno.make(address_of_page(context, page["slug"]), error="m")
    made.save(picture, kind="svg", scale=6, border=4, dark="#000000", light="#ffffff")
    return Response(picture.getvalue(), media_type="image/svg+xml", headers={"cache-control": "no-store"})


def address_of_page(context: Context, slug: str) -> str:
    path = f"{address_of(context)}page/{slug}"
    return f"{path}#{context.sessions.codes['run']}" if context.settings.asks_pass else path


def _item(context: Context, body: schemas.ItemPatch) -> dict[str, Any]:
    """Fields of a stored item; handles with what they are called and take."""
    given = {name: value for name, value in body.model_dump().items() if value is not None and name != "id"}
    if "handles" in given:
        given["handles"] = [known_handle(context, address) for address in given["handles"]]
    return given


def known_handle(context: Context, address: str) -> dict[str, Any]:
    """What a handle is called and takes; InputError where there is none."""
    known = context.engine.ask(AskHandles(words="", most=HANDLES_LISTED)).handles
    for one in known:
        if one.address == address:
            return {name: getattr(one, name) for name in ("words", "kind", "minimum", "maximum")} | {"handle": address}
    raise InputError(f"There is no handle '{address[:80]}' in the running show.", where="handles")
