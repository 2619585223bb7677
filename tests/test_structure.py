"""Who may import whom, and how large files grow."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

SOURCE = Path(__file__).resolve().parents[1] / "src" / "heliograph"

ALLOWED = {
    "core": set(),
    "wire": set(),
    "effects": {"core"},
    "ipc": {"core"},
    "network": {"core"},
    "power": {"core", "render.emission"},
    "render": {"core", "effects", "power", "ipc"},
    "engine": {"core", "effects", "render", "wire", "ipc"},
    "receiver": {"core", "wire", "ipc"},
    "inputs": {"core", "ipc"},
    "media": {"core", "ipc", "render.clips", "render.live"},
    "preview": {"core", "effects", "ipc", "power", "render", "engine.spool"},
    "store": {"core", "ipc.patience"},
    "formats": {"core"},
    "edits": {"core", "effects", "store"},
    "standins": {"core", "wire"},
    "parsing": {"core", "formats", "media"},
    "api": {"core", "effects", "edits", "store", "formats", "ipc", "network", "parsing", "media.folder"},
    "demo": {"core", "network"},
    "supervisor": {"core", "edits", "store", "ipc", "network", "engine.sender", "wire", "demo"},
}
"""A package -> the packages of ours (or single modules) it may import besides itself. Nobody imports `api`."""


def imports(path: Path) -> set[str]:
    found = set()
    for statement in ast.walk(ast.parse(path.read_text())):
        if isinstance(statement, ast.ImportFrom) and (statement.module or "").startswith("heliograph."):
            found.add(str(statement.module).removeprefix("heliograph."))
        elif isinstance(statement, ast.Import):
            found |= {a.name.removeprefix("heliograph.") for a in statement.names if a.name.startswith("heliograph.")}
    return found


def permitted(package: str, module: str) -> bool:
    top = module.split(".")[0]
    return top == package or top in ALLOWED[package] or module in ALLOWED[package]


@pytest.mark.parametrize("package", sorted(ALLOWED))
def test_imports_go_one_way(package: str) -> None:
    wrong = [
        f"{path.relative_to(SOURCE)} imports {module}"
        for path in (SOURCE / package).rglob("*.py")
        for module in imports(path)
        if not permitted(package, module)
    ]
    assert wrong == []


def test_every_package_is_listed() -> None:
    packages = {path.name for path in SOURCE.iterdir() if path.is_dir() and path.name != "__pycache__"}
    assert packages == set(ALLOWED)


def test_the_engine_knows_no_clock_of_core_and_no_database() -> None:
    for path in (SOURCE / "core").rglob("*.py"):
        tree = ast.parse(path.read_text())
        names = {a.name for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}
        assert not names & {"time", "socket", "os", "asyncio"}, path
    for path in (SOURCE / "engine").rglob("*.py"):
        assert "peewee" not in path.read_text(), path


def test_no_file_holds_more_than_one_idea() -> None:
    long = [str(path) for path in SOURCE.rglob("*.py") if len(path.read_text().splitlines()) > 420]
    assert long == []


def test_no_screen_is_fetched_at_a_priority_that_live_pictures_interrupt() -> None:
    """React's `lazy` and `startTransition`: a full Patch took up to 15 s by them (see `components/fetched.ts`)."""
    web = SOURCE.parents[1] / "web" / "src"
    found = [str(path) for path in web.rglob("*.ts*") if re.search(r"\b(lazy|startTransition)\(", path.read_text())]
    assert found == []
