"""The codes of findings, gathered from where they are built and written into the page that lists
them."""

from __future__ import annotations

import re
import sys
import textwrap
from importlib import resources
from pathlib import Path

BUILT = (
    r'broken\(\s*[\w.]+,\s*code="(\w+)"',
    r'off_limit\(\s*\w+,\s*\w+,\s*code="(\w+)"',
    r'unmeasured\(\s*"(\w+)"',
    r'doubt\(\s*"(\w+)"',
    r'NoSurfaceError\(\s*"(\w+)"',
    r'code="(\w+)"\s+if \w+\s+else "\w+"',
    r'code="\w+"\s+if \w+\s+else "(\w+)"',
)
"""How a finding's code stands where one is built."""

LISTED = re.compile(r"(?s)(Codes of findings: ).*?\n\n")


def codes() -> list[str]:
    """Every code that a finding may have, in order."""
    core = Path(str(resources.files("calm_basin.core")))
    source = "".join(file.read_text("utf-8") for file in sorted(core.rglob("*.py")))
    return sorted({code for form in BUILT for code in re.findall(form, source)})


def listed(page: str) -> str:
    """A page with its list of codes renewed."""
    told = "Codes of findings: " + ", ".join(f"`{code}`" for code in codes()) + "."
    wrapped = "\n".join(textwrap.wrap(told, 120, break_long_words=False))
    return LISTED.sub(lambda _: wrapped + "\n\n", page)


if __name__ == "__main__":
    page = Path(sys.argv[1])
    page.write_text(listed(page.read_text("utf-8")), encoding="utf-8")
