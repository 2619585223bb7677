"""`./heliograph COMMAND`: prepares what the command needs, then runs it."""

from __future__ import annotations

import os
import sys

from launch import checks, debian, front_end, python_env
from launch.steps import ROOT, LaunchError, one_at_a_time

USAGE = """usage: ./heliograph COMMAND [options]

  up        start Heliograph and keep it running (--demo, --host, --port, --data DIR; up --help)
  test      run all checks and tests; arguments go to pytest
  standin   simulated devices: standin node --help
  bench     measure speed beside a limit measured in the same run"""


def main() -> int:
    command = sys.argv[1] if len(sys.argv) > 1 else ""
    rest = sys.argv[2:]
    if command not in ("up", "test", "standin", "bench"):
        print(USAGE, file=sys.stdout if command in ("", "-h", "--help") else sys.stderr)
        return 0 if command in ("", "-h", "--help") else 2
    try:
        with one_at_a_time():
            _prepare(command)
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
