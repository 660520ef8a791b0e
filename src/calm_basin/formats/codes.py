"""The codes of findings, written into the page that lists them."""

from __future__ import annotations

import re
import sys
import textwrap
from pathlib import Path
from typing import get_args

from calm_basin.core.codes import Code

LISTED = re.compile(r"(?s)(Codes of findings: ).*?\n\n")


def listed(page: str) -> str:
    """A page with its list of codes renewed."""
    told = "Codes of findings: " + ", ".join(f"`{code}`" for code in get_args(Code)) + "."
    wrapped = "\n".join(textwrap.wrap(told, 120, break_long_words=False))
    return LISTED.sub(lambda _: wrapped + "\n\n", page)


if __name__ == "__main__":
    page = Path(sys.argv[1])
    page.write_text(listed(page.read_text("utf-8")), encoding="utf-8")
