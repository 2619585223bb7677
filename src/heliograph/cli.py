"""Commands of the prepared program; `./heliograph` prepares the machine and then runs these."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer

from heliograph.supervisor.say import StartError
from heliograph.supervisor.up import PORT, Options, Supervisor

ROOT = Path(__file__).resolve().parents[2]

app = typer.Typer(add_completion=False, no_args_is_help=True, help="Heliograph: pixel mapping.")
standin = typer.Typer(help="Simulated devices that speak the real protocols.", no_args_is_help=True)
app.add_typer(standin, name="standin")


@app.command()
def up(
    demo: Annotated[bool, typer.Option(help="Open the demo show and start its simulated node.")] = False,
    host: Annotated[str, typer.Option(help="Where to listen; any but loopback asks for a pass code.")] = "127.0.0.1",
    port: Annotated[int, typer.Option(min=1, max=65535)] = PORT,
    data: Annotated[Path, typer.Option(help="Where everything is kept.")] = ROOT / "data",
    pass_code: Annotated[str, typer.Option(help="Pass code for other hosts (made up if not given).")] = "",
    card: Annotated[list[str] | None, typer.Option(help="Use only these addresses as network cards.")] = None,
    node_address: Annotated[str, typer.Option(help="Loopback address of the demo's node.")] = "127.0.0.12",
    node_page_port: Annotated[int, typer.Option(help="Port of the node's page.")] = 7660,
) -> None:
    """Start Heliograph and keep it running."""
    dist = ROOT / "web" / "dist"
    options = Options(
        data.resolve(),
        host,
        port,
        demo,
        pass_code,
        tuple(card or ()),
        dist if dist.exists() else None,
        node_address,
        node_page_port,
    )
    try:
        Supervisor(options).run()
    except StartError as error:
        print(error, file=sys.stderr)
        raise typer.Exit(1) from error


@standin.command(
    "node", context_settings={"allow_extra_args": True, "ignore_unknown_options": True}, add_help_option=False
)
def node(context: typer.Context) -> None:
    """A simulated node: answers ArtPoll, counts, shows its lamps (see --help)."""
    from heliograph.standins.node import main

    sys.argv = ["heliograph standin node", *context.args]
    main()


if __name__ == "__main__":
    app()
