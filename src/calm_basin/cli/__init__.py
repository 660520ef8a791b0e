"""The command line."""

from __future__ import annotations

from importlib import import_module

import click

from calm_basin import __version__

COMMANDS = {
    "backup": ("keeping", "backup", "Write all jobs with their histories into FILE, and check it."),
    "demo": ("serving", "demo", "Serve the application over a throw-away copy of the demo jobs."),
    "export": (
        "keeping",
        "export",
        "Write JOB, by its id or its name, with its history into FILE; as a zip with its photos "
        "where that ends in .zip.",
    ),
    "files": (
        "filing",
        "files",
        "Work out PLAN and write all its files into FOLDER: sheet, drawing, order, days, marks.",
    ),
    "import": ("keeping", "bring_in", "Add the job of FILE, with its history, to those there are."),
    "passphrase": (
        "serving",
        "passphrase",
        "Set the passphrase for coming in from another machine, and end all sessions.",
    ),
    "restore": (
        "keeping",
        "restore",
        "Put what is in FILE, a backup, in the place of all jobs. What was there is kept as "
        "a copy.",
    ),
    "serve": ("serving", "serve", "Serve the application over your own jobs."),
    "sheet": (
        "solving",
        "sheet",
        "Work out PLAN and write it for the site: the job sheet, as PDF, goes to FILE.",
    ),
    "solve": (
        "solving",
        "solve",
        "Work out PLAN, a plan file (or - for standard input), and print the solution as JSON.",
    ),
    "verify": (
        "verifying",
        "verify",
        "Check the site log in FILE, a job's file or its record (a zip): each entry against its "
        "seal and the one before, each plan that it was judged by, and each photo.",
    ),
}
"""Each command with the file and the function it is, and what it does in a line."""


class _Commands(click.Group):
    """Loads a command's file when the command is asked for: most need the solver, the list of
    commands does not."""

    def list_commands(self, _context: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, _context: click.Context, name: str) -> click.Command | None:
        if name not in COMMANDS:
            return None
        file, function, _ = COMMANDS[name]
        command: click.Command = getattr(import_module(f"calm_basin.cli.{file}"), function)
        return command

    def format_commands(self, _context: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, said) for name, (_, _, said) in COMMANDS.items()])


@click.group(cls=_Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__)
def main() -> None:
    """Plan curbless showers and wet rooms before any build starts."""
