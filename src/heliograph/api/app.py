"""The web application: routes, live connection, the built front end."""

from __future__ import annotations

import asyncio
import contextlib
import threading
from collections.abc import AsyncIterator
from pathlib import Path

from fastapi import FastAPI, Request, WebSocket
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles

from heliograph import __version__
from heliograph.api import schemas
from heliograph.api.access import AccessCheck, role_of
from heliograph.api.context import Context
from heliograph.api.faults import add_fault_handlers
from heliograph.api.live import LiveHub
from heliograph.api.media_sweep import keep_sweeping
from heliograph.api.routes import (
    access,
    adding,
    beforehand,
    chase_files,
    chases,
    clips,
    clocks,
    cue_lists,
    engine,
    events,
    favourites,
    first_steps,
    fixtures,
    groups,
    lasers,
    looking_back,
    looks,
    matrices,
    matrix_sources,
    outputs,
    pages,
    parked,
    patch,
    plans,
    presets,
    profiles,
    ramps,
    reading,
    scores,
    sheets,
    show,
    show_files,
    walks,
    weaves,
    why,
)
from heliograph.api.settings import Settings
from heliograph.ipc.heartbeat import BEAT_S, Heartbeat

ROUTES = (
    show,
    beforehand,
    first_steps,
    parked,
    looking_back,
    why,
    walks,
    weaves,
    show_files,
    profiles,
    adding,
    fixtures,
    groups,
    plans,
    matrix_sources,
    matrices,
    cue_lists,
    scores,
    clocks,
    pages,
    favourites,
    presets,
    looks,
    ramps,
    chases,
    chase_files,
    reading,
    outputs,
    patch,
    sheets,
    clips,
    engine,
    lasers,
    events,
    access,
)
FAULTS = {code: {"model": schemas.Fault} for code in (403, 404, 409, 422, 503)}


def create_app(settings: Settings) -> FastAPI:
    """The application for one data folder. The database is opened by the caller."""
    context = Context(settings)
    hub = LiveHub(context)
    context.tell = hub.tell

    @contextlib.asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        context.publisher.start()
        context.begin()
        tasks = [asyncio.create_task(hub.run()), asyncio.create_task(_beat(Heartbeat(settings.data, "web")))]
        stopping = threading.Event()
        sweeping = (settings.data / "media", stopping)
        threading.Thread(target=keep_sweeping, args=sweeping, name="media sweep", daemon=True).start()
        yield
        stopping.set()
        for task in tasks:
            task.cancel()
        context.publisher.stop()

    app = FastAPI(
        title="Heliograph",
        version=__version__,
        lifespan=lifespan,
        responses=FAULTS,  # type: ignore[arg-type]
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.context = context
    add_fault_handlers(app)
    for module in ROUTES:
        app.include_router(module.router)

    @app.websocket("/api/live")
    async def live(socket: WebSocket) -> None:
        await hub.serve(socket)

    @app.websocket("/api/urgent")
    async def urgent(socket: WebSocket) -> None:
        await hub.urgent.serve(socket)

    @app.post("/api/urgent", tags=["engine"])
    async def asked_urgently(body: schemas.UrgentCommand, request: Request) -> Response:
        """What makes dark, safe or still, where the live connections are away. May be asked again with the same id."""
        told = await hub.urgent.asked(body, role_of(request.scope))
        return Response(told, media_type="application/json")

    if settings.dist is not None:
        _serve_front_end(app, settings.dist)
    app.add_middleware(AccessCheck, settings=settings, sessions=context.sessions)
    return app


SMALL_BYTES = 1_000
"""Scripts and styles travel compressed, unless they are so small."""


async def _beat(heart: Heartbeat) -> None:
    while True:
        heart.beat()
        await asyncio.sleep(BEAT_S)


def _serve_front_end(app: FastAPI, dist: Path) -> None:
    app.mount("/assets", GZipMiddleware(StaticFiles(directory=dist / "assets"), SMALL_BYTES), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """Every other address is a station of the one page."""
        if path.startswith("api/"):
            return Response(status_code=404)
        icon = dist / "icon.svg"
        if path == "icon.svg" and icon.exists():
            return FileResponse(icon)
        return FileResponse(dist / "index.html", headers={"cache-control": "no-cache"})
