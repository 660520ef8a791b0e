"""Which database a command is about, and how it is opened."""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from calm_basin.store.database import StoreError, cure_of
from calm_basin.store.opening import Store


def _usual() -> Path:
    base = os.environ.get("XDG_DATA_HOME") or str(Path.home() / ".local" / "share")
    return Path(base) / "calm-basin" / "jobs.sqlite3"


def of_database(command: Callable[..., Any]) -> Callable[..., Any]:
    """Give a command the option that says where jobs are kept."""
    return click.option(
        "--database",
        type=click.Path(path_type=Path),
        default=_usual,
        show_default="in your own data folder",
        help="The file that jobs are kept in.",
    )(command)


def opened(database: Path) -> Store:
    """Open the store. Raises `click.ClickException` where not even reading it is to be had."""
    try:
        return Store(database)
    except StoreError as error:
        raise click.ClickException(str(error)) from None
    except (OSError, sqlite3.Error) as error:
        raise click.ClickException(
            f"{database} cannot be used: {error}. {cure_of(error)}"
        ) from None
