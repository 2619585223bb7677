"""Commands of the prepared program; `./heliograph` prepares the machine and then runs these."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer

from heliograph.supervisor.options import PORT, Options
from heliograph.supervisor.say import StartError

ROOT = Path(__file__).resolve().parents[2]

app = typer.Typer(add_completion=False, no_args_is_help=True, help="Heliograph: pixel mapping.")
standin = typer.Typer(help="Simulated devices that speak the real protocols.", no_args_is_help=True)
app.add_typer(standin, name="standin")

Data = Annotated[Path, typer.Option(help="Where everything is kept.")]


def _fail(error: StartError) -> typer.Exit:
    print(error, file=sys.stderr)
    return typer.Exit(1)


@app.command()
def up(
    demo: Annotated[bool, typer.Option(help="Open the demo show and start its simulated nodes.")] = False,
    host: Annotated[str, typer.Option(help="Where to listen; any but loopback asks for a pass code.")] = "127.0.0.1",
    port: Annotated[int, typer.Option(min=1, max=65535, help="The port of its pages.")] = PORT,
    data: Data = ROOT / "data",
    tls: Annotated[bool, typer.Option(help="Serve HTTPS, with a certificate of its own.")] = False,
    certificate: Annotated[Path | None, typer.Option(help="Your own certificate (PEM), for HTTPS.")] = None,
    key: Annotated[Path | None, typer.Option(help="The certificate's key (PEM).")] = None,
    card: Annotated[list[str] | None, typer.Option(help="Use only these addresses as network cards.")] = None,
    feed_host: Annotated[list[str] | None, typer.Option(help="Let live pictures in from this host too.")] = None,
    node_address: Annotated[str, typer.Option(help="Loopback address of the demo's node.")] = "127.0.0.12",
    node_page_port: Annotated[int, typer.Option(help="Port of the node's page.")] = 7660,
    unattended: Annotated[bool, typer.Option(help="The machine was switched on: do what was chosen for that.")] = False,
) -> None:
    """Start Heliograph and keep it running."""
    from heliograph.supervisor.up import Supervisor

    dist = ROOT / "web" / "dist"
    options = Options(
        data.resolve(),
        host,
        port,
        demo,
        tls,
        certificate,
        key,
        tuple(card or ()),
        dist if dist.exists() else None,
        node_address,
        node_page_port,
        tuple(feed_host or ()),
        unattended,
    )
    try:
        Supervisor(options).run()
    except StartError as error:
        raise _fail(error) from error


@app.command()
def status(data: Data = ROOT / "data") -> None:
    """Say whether Heliograph runs, where, and what it sends."""
    from heliograph.supervisor.running import say_status

    try:
        print(say_status(data.resolve()))
    except StartError as error:
        raise _fail(error) from error


@app.command()
def down(data: Data = ROOT / "data") -> None:
    """End the Heliograph that runs: lights go off, lasers are safe."""
    from heliograph.supervisor.running import end_running

    try:
        end_running(data.resolve())
    except StartError as error:
        raise _fail(error) from error
    print("Heliograph has ended.")


@app.command()
def service(
    remove: Annotated[bool, typer.Option("--remove", help="Take it away again.")] = False,
    to: Annotated[Path | None, typer.Option(help="The folder of unit files.")] = None,
    host: Annotated[str, typer.Option(help="Where to listen.")] = "127.0.0.1",
    port: Annotated[int, typer.Option(min=1, max=65535, help="The port of its pages.")] = PORT,
    data: Data = ROOT / "data",
    card: Annotated[list[str] | None, typer.Option(help="Use only these addresses as network cards.")] = None,
    tls: Annotated[bool, typer.Option(help="Serve HTTPS, with a certificate of its own.")] = False,
) -> None:
    """Make a service for systemd: a machine that is switched on plays by itself."""
    from heliograph.supervisor import service as made

    folder = to.resolve() if to else made.default_folder()
    options = ["--data", str(data.resolve()), "--host", host, "--port", str(port)]
    options += [word for one in card or () for word in ("--card", one)] + (["--tls"] if tls else [])
    try:
        said = made.remove(folder) if remove else made.install(folder, ROOT / "heliograph", options)
    except StartError as error:
        raise _fail(error) from error
    print("\n".join(said))


@app.command()
def backup(data: Data = ROOT / "data") -> None:
    """Write a backup of all shows; works while Heliograph runs and while it does not."""
    from heliograph.supervisor.keeping import back_up

    try:
        made = back_up(data.resolve())
    except StartError as error:
        raise _fail(error) from error
    print(f"Backup: {made}")


@app.command()
def restore(
    file: Annotated[Path, typer.Argument(help="A backup: data/backups/... .backup.zip")],
    data: Data = ROOT / "data",
    yes: Annotated[bool, typer.Option("--yes", help="Do not ask.")] = False,
) -> None:
    """Put a backup in place of all shows there are now; these are backed up first."""
    from heliograph.supervisor.keeping import prepare_restore, put_back

    try:
        said = prepare_restore(data.resolve(), file)
        print(said)
        if not yes and not typer.confirm("Overwrite them?"):
            raise typer.Exit(1)
        put_back(data.resolve(), file)
    except StartError as error:
        raise _fail(error) from error
    print("The backup is in place. Start with ./heliograph up.")


@standin.command(
    "node", context_settings={"allow_extra_args": True, "ignore_unknown_options": True}, add_help_option=False
)
def node(context: typer.Context) -> None:
    """A simulated node: answers ArtPoll, counts, shows its lamps (see --help)."""
    from heliograph.standins.node import main

    sys.argv = ["heliograph standin node", *context.args]
    main()


@standin.command(
    "camera", context_settings={"allow_extra_args": True, "ignore_unknown_options": True}, add_help_option=False
)
def camera(context: typer.Context) -> None:
    """A simulated camera: sends a moving test picture with a clock in it (see --help)."""
    from heliograph.standins.camera import main

    sys.argv = ["heliograph standin camera", *context.args]
    main()


if __name__ == "__main__":
    app()
