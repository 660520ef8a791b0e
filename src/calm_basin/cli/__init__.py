"""The command line."""

from __future__ import annotations

import click

from calm_basin import __version__
from calm_basin.cli import keeping, serving, solving


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__)
def main() -> None:
    """Plan curbless showers and wet rooms before any build starts."""


for command in (
    solving.solve,
    solving.sheet,
    serving.serve,
    serving.demo,
    serving.passphrase,
    keeping.backup,
    keeping.restore,
    keeping.export,
    keeping.bring_in,
):
    main.add_command(command)
