"""Serve the application: over your own jobs or over demo jobs, here or on the site's network."""

from __future__ import annotations

import io
import os
import shutil
import signal
import socket
import sys
import tempfile
import threading
import time
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager
from datetime import datetime
from pathlib import Path

import click

from calm_basin.cli.database import of_database, opened
from calm_basin.store import door
from calm_basin.store.opening import Store

_HOST = click.option("--host", default="127.0.0.1", show_default=True, help="Address to listen on.")
_PORT = click.option("--port", default=8000, show_default=True, type=click.IntRange(0, 65535))
_TLS = click.option("--tls", is_flag=True, help="Encrypt, with a certificate that is made here.")

SECRET = "CALM_BASIN_PASSPHRASE"
"""The variable from which a passphrase is taken where nobody can type it."""


@click.command()
@of_database
@_HOST
@_PORT
@_TLS
def serve(database: Path, host: str, port: int, tls: bool) -> None:
    """Serve the application over your own jobs.

    On another address than this machine's own, one has to sign in: the passphrase is asked for once
    or taken from CALM_BASIN_PASSPHRASE.
    """
    _clears_away()
    _serve(opened(database), host, port, tls)


@click.command()
@_HOST
@_PORT
@_TLS
@click.option(
    "--clock",
    default=1.0,
    show_default=True,
    type=click.FloatRange(1, 3600),
    help="How many times as fast the site's clock runs, to see waits go by.",
)
def demo(host: str, port: int, tls: bool, clock: float) -> None:
    """Serve the application over a throw-away copy of the demo jobs."""
    from calm_basin.demo import demo_plans
    from calm_basin.store import jobs

    _clears_away()
    with _throw_away() as folder:
        store = opened(Path(folder) / "jobs.sqlite3")
        with closing(store.connect()) as db:
            for plan in reversed(demo_plans()):
                jobs.create(db, plan)
        _serve(store, host, port, tls, clock)


@click.command()
@of_database
def passphrase(database: Path) -> None:
    """Set the passphrase for coming in from another machine, and end all sessions."""
    _ask_passphrase(opened(database))
    click.echo("Set. Everybody who was signed in has to sign in again.")


def _ask_passphrase(store: Store) -> None:
    given = os.environ.get(SECRET)
    if given is None and not sys.stdin.isatty():
        raise click.ClickException(
            "Serving beyond this machine needs a passphrase. Run “calm-basin passphrase” once, or "
            f"give one in the variable {SECRET}."
        )
    typed = given or click.prompt(
        f"A new passphrase, {door.SHORTEST} characters or more",
        hide_input=True,
        confirmation_prompt=True,
    )
    with closing(store.connect()) as db:
        try:
            door.set_passphrase(db, typed)
        except door.PassphraseError as error:
            raise click.ClickException(str(error)) from None


@contextmanager
def _throw_away() -> Iterator[str]:
    """A folder that is gone afterwards, also where a copy was just being written into it."""
    folder = tempfile.mkdtemp(prefix="calm-basin-demo-")
    try:
        yield folder
    finally:
        for _ in range(CLEAR_TRIES):
            shutil.rmtree(folder, ignore_errors=True)
            if not Path(folder).exists():
                break
            time.sleep(0.1)


CLEAR_TRIES = 100
"""So often a folder is cleared, a tenth of a second apart, while something still writes to it."""


def _clears_away() -> None:
    """Ended by the system too, from now on what is only for now is cleared away."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))


def _ended_when_told() -> Sequence[int]:
    """From now on the signals that end the program are only noted: other threads load modules, and
    an exception in the midst of a load would leave the lock of all loads held, and them waiting."""
    told: list[int] = []
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda number, _: told.append(number))
    return told


def _serve(store: Store, host: str, port: int, tls: bool, speed: float = 1.0) -> None:
    from calm_basin.web import network
    from calm_basin.web.server import listening
    from calm_basin.web.server import serve as serve_app
    from calm_basin.web.work import Apart

    try:
        listener = listening(host, port)
    except socket.gaierror:
        raise click.ClickException(
            f"There is no address “{host}”. Choose 127.0.0.1 for this machine alone, or 0.0.0.0 "
            "for its network, with --host."
        ) from None
    except OSError as error:
        raise click.ClickException(
            f"Port {port} on {host} cannot be used ({error.strerror}). Choose another with --port, "
            "or another address with --host."
        ) from None
    port = listener.getsockname()[1]
    beyond = not network.is_this_machine(host)
    names = network.names_of(host) if beyond else [host]
    if beyond:
        _lock(store)
    # The workers load the solver while this process sends its first page.
    answers = Apart(max(2, os.cpu_count() or 2), seconds=8, most=12)
    long = Apart(1, seconds=120, most=4, nice=10)
    from calm_basin.devices.clock import SimulatedClock
    from calm_basin.store.upkeep import Upkeep
    from calm_basin.web.app import create_app

    scheme = "https" if tls else "http"
    addresses = [f"{scheme}://{network.in_address(name)}:{port}/" for name in names]
    files = _certificate(store.path, names) if tls else None
    if store.trouble:
        click.echo(f"! {store.trouble.detail}", err=True)
    upkeep = Upkeep(store)
    ended = _ended_when_told()
    if store.trouble is None:
        upkeep.start()
    hosts = frozenset(network.in_address(name).lower() for name in names)
    clock = SimulatedClock(datetime.now(), speed) if speed != 1.0 else None
    app = create_app(store, hosts, locked=beyond, answers=answers, long=long, clock=clock)
    click.echo(f"Calm Basin is ready at {addresses[0]}  (Ctrl+C stops it)")
    for address in addresses[1:]:
        click.echo(f"    or at {address}")
    if beyond:
        _tell_of_network(addresses[0], files is not None)
    if files:
        _tell_of_certificate(files[0])
    threading.Thread(target=app.load, daemon=True).start()
    try:
        serve_app(app, listener, files, ended)
        if signal.SIGINT in ended:
            click.echo("Stopped.")
    finally:
        # Told again, it waits for nothing more.
        signal.signal(signal.SIGINT, signal.default_int_handler)
        upkeep.stop()
        answers.close()
        long.close()
        listener.close()
        store.close()


def _certificate(database: Path, names: list[str]) -> tuple[Path, Path]:
    from calm_basin.web.certificate import certificate

    return certificate(database, names)


def _tell_of_certificate(file: Path) -> None:
    from calm_basin.web.certificate import fingerprint

    click.echo(
        f"The browser warns of a certificate it does not know. It has to show the "
        f"SHA-256 fingerprint\n    {fingerprint(file)}"
    )


def _lock(store: Store) -> None:
    with closing(store.connect()) as db:
        there = door.is_set(db)
    if not there or os.environ.get(SECRET):
        _ask_passphrase(store)


def _tell_of_network(address: str, encrypted: bool) -> None:
    import qrcode

    code = qrcode.QRCode(border=2)
    code.add_data(address)
    drawn = io.StringIO()
    code.print_ascii(out=drawn, invert=True)
    click.echo("Anybody on this network can open it after signing in. Scan to open:")
    click.echo(drawn.getvalue())
    if not encrypted:
        click.echo(
            "! Without --tls the passphrase and all plans cross the network as plain text, and "
            "anybody on it can read them. Use it on a network of your own, or with --tls.",
            err=True,
        )
