"""The front end: installed from its lock file and built, with a Node new enough for the build."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
from pathlib import Path

from launch import python_env
from launch.python_env import VENV
from launch.steps import ROOT, forget, hash_of, is_done, mark_done, run, saying

WEB = ROOT / "web"
NODE_NEEDED = (20, 19)
"""Vite 8's own minimum. Debian 12 has 18; then the newer one inside the virtual environment is used."""


def node_environment() -> dict[str, str]:
    """An environment whose PATH begins with a Node that is new enough."""
    env = dict(os.environ)
    found = shutil.which("node")
    if found is None or _version(found) < NODE_NEEDED or shutil.which("npm") is None:
        env["PATH"] = f"{VENV / 'bin'}{os.pathsep}{env['PATH']}"
    return env


def waits_for_node() -> bool:
    """Whether the Node that it needs comes with the Python packages, and is not there yet."""
    env = node_environment()
    if env["PATH"] == os.environ["PATH"]:
        return False
    # An environment that is made anew takes its Node away while the pages are built.
    return not ((VENV / "bin" / "node").exists() and python_env.works())


def _version(node: str) -> tuple[int, ...]:
    done = subprocess.run([node, "--version"], capture_output=True, text=True)
    numbers = re.findall(r"\d+", done.stdout)
    return tuple(int(n) for n in numbers[:2])


def install() -> dict[str, str]:
    """Installs node_modules where the lock file changed; returns the environment to run npm with."""
    env = node_environment()
    inputs = hash_of([WEB / "package-lock.json", WEB / "package.json", WEB / ".npmrc"])
    if not is_done("node-modules", inputs) or not (WEB / "node_modules").exists():
        forget("node-modules")
        with saying("installing front-end packages"):
            run(
                ["npm", "ci", "--no-audit", "--no-fund"],
                what="Installing front-end packages",
                repair="Is the machine connected to the internet?",
                cwd=WEB,
                env=env,
            )
        mark_done("node-modules", inputs)
    _make_client(env)
    return env


def _make_client(env: dict[str, str]) -> None:
    """The typed client, made from the API's own description; not kept in the repository."""
    description = ROOT / "docs" / "openapi.json"
    inputs = hash_of([description, WEB / "package-lock.json"])
    if is_done("client", inputs) and (WEB / "src" / "api" / "schema.d.ts").exists():
        return
    forget("client")
    run(["npm", "run", "client"], what="Making the typed client", cwd=WEB, env=env)
    mark_done("client", inputs)


def build() -> None:
    """Builds `web/dist` where a source changed."""
    env = install()
    sources = [WEB / "src", WEB / "public", WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json"]
    inputs = hash_of([path for path in sources if path.exists()])
    if is_done("front-end", inputs) and (WEB / "dist" / "index.html").exists():
        return
    forget("front-end")
    with saying("building the front end"):
        run(["npm", "run", "build"], what="Building the front end", cwd=WEB, env=env)
    mark_done("front-end", inputs)


def dist() -> Path:
    return WEB / "dist"
