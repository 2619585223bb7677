"""What a command takes, read from its own source, so that it can be asked before anything is installed."""

from __future__ import annotations

import ast
import re
from dataclasses import dataclass

from launch.steps import ROOT

CLI = ROOT / "src" / "heliograph" / "cli.py"
VERSION = ROOT / "src" / "heliograph" / "__init__.py"
OTHERS = {
    "test": "Runs all linters, types and tests. --quick: without a browser and without what runs long, under three\n"
    "minutes on an idle machine. Other arguments go to pytest.",
    "bench": "Measures speed beside a limit measured in the same run: ./heliograph bench NAME;\n"
    "without a name it lists them.",
    "standin": "Simulated devices that speak the real protocols: ./heliograph standin node --help,\n"
    "./heliograph standin camera --help (these prepare the program first).",
}


@dataclass(frozen=True, slots=True)
class Option:
    """As it is typed, what stands when it is not, what it does."""

    name: str
    default: str
    help: str


def version() -> str:
    found = re.search(r'__version__ = "([^"]+)"', VERSION.read_text())
    return f"Heliograph {found[1] if found else '(unknown version)'}"


def wants_help(arguments: list[str]) -> bool:
    return any(one in ("-h", "--help") for one in arguments)


def help_of(command: str) -> str:
    """What a command does and the options it takes."""
    if command in OTHERS:
        return f"usage: ./heliograph {command} ...\n\n{OTHERS[command]}"
    function = _function(command)
    options = _options(function)
    positional = [one.name for one in options if not one.name.startswith("--")]
    lines = [f"usage: ./heliograph {' '.join([command, *positional])} [options]", "", ast.get_docstring(function) or ""]
    wide = max((len(one.name) for one in options), default=0)
    lines += ["", *(f"  {one.name:<{wide}}  {one.help}{one.default and f' [{one.default}]'}" for one in options)]
    return "\n".join(lines)


def _function(command: str) -> ast.FunctionDef:
    tree = ast.parse(CLI.read_text())
    return next(one for one in tree.body if isinstance(one, ast.FunctionDef) and one.name == command)


def _options(function: ast.FunctionDef) -> list[Option]:
    arguments = function.args.args
    defaults: list[ast.expr | None] = [None] * (len(arguments) - len(function.args.defaults))
    defaults += function.args.defaults
    shared = {
        one.targets[0].id: one.value
        for one in ast.parse(CLI.read_text()).body
        if isinstance(one, ast.Assign) and isinstance(one.targets[0], ast.Name)
    }
    found = []
    for argument, default in zip(arguments, defaults, strict=True):
        said = argument.annotation
        if isinstance(said, ast.Name):
            said = shared[said.id]
        call = next((one for one in ast.walk(said) if isinstance(one, ast.Call)), None) if said else None
        text = next((ast.literal_eval(one.value) for one in call.keywords if one.arg == "help"), "") if call else ""
        typed = isinstance(call.func, ast.Attribute) and call.func.attr == "Argument" if call else False
        name = argument.arg.upper() if typed else f"--{argument.arg.replace('_', '-')}"
        found.append(Option(name, _said(default), str(text)))
    return found


def _said(default: ast.expr | None) -> str:
    """A default as it is read: none of switches that are off and of what is left out."""
    if isinstance(default, ast.Constant):
        return "" if default.value in (None, False) else str(default.value)
    if default is None:
        return ""
    text = ast.unparse(default)
    if text == "PORT":
        options = (ROOT / "src" / "heliograph" / "supervisor" / "options.py").read_text()
        found = re.search(r"^PORT = (\d+)", options, re.MULTILINE)
        return found[1] if found else ""
    return text.replace("ROOT / ", "").strip("'\"")
