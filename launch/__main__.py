"""`./heliograph COMMAND`: prepares what the command needs, then runs it."""

from __future__ import annotations

import os
import sys

from launch import checks, debian, front_end, python_env
from launch.steps import ROOT, LaunchError, one_at_a_time

USAGE = """usage: ./heliograph COMMAND [options]

  up        start Heliograph and keep it running (--demo, --host, --port, --data DIR; up --help)
  status    say whether it runs, where, and what it sends
  down      end the one that runs: lights go off, lasers are safe
  backup    write a backup of all shows
  restore   put a backup in place of all shows
  test      run all checks and tests; arguments go to pytest
  standin   simulated devices: standin node --help
  bench     measure speed beside a limit measured in the same run"""


READY = ("status", "down", "backup", "restore")
"""Commands for a Heliograph that was started before: they prepare nothing, and must not wait for who does."""

COMMANDS = ("up", "test", "standin", "bench", *READY)


def main() -> int:
    command = sys.argv[1] if len(sys.argv) > 1 else ""
    rest = sys.argv[2:]
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
    if command in ("test", "bench"):
        python_env.prepare("test")
    else:
        python_env.prepare("runtime")
    if command in ("up", "test", "bench"):
        front_end.build()


if __name__ == "__main__":
    sys.exit(main())
