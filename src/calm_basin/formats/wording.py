"""Every sentence that users read, on one page: ``python -m calm_basin.formats.wording FILE``.

Read from the code: what the solver, the paper and the command line say with the code of the finding
beside it, then what the screens say. What is filled in stands as {…}.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parents[3]
SOURCE, SCREENS = ROOT / "src" / "calm_basin", ROOT / "frontend" / "src"

BY_PLACE = ("unmeasured", "doubt", "NoSurfaceError")
"""What is built with the code as its first argument."""

HEAD = """# Every sentence

Made from the code by `script/format`, for somebody who reads all of them in one sitting. What is
filled in stands as {…}. A finding's sentences stand beside its code.
"""

_CODE = re.compile(r"[<>\\|]|^[a-z_./:{…}-]+$|SELECT|INSERT|UPDATE|DELETE|CREATE|PRAGMA|ALTER")
_SCRIPT = re.compile(r"[;=]|className|\.\w+\(|&&|\|\||^[^a-z]*$|^M\d")
_JSX = re.compile(r">\s*([A-Z][^<>{}]*?[a-z.?!…][^<>{}]*?)\s*<", re.S)
_QUOTED = re.compile(r'"((?:[A-Z“][^"\\\n]*) [^"\\\n]+)"')


@cache
def sentences() -> dict[str, list[tuple[str, str]]]:
    """What each file of the product says: pairs of (code of a finding or empty, sentence)."""
    found = {}
    for path in sorted(SOURCE.rglob("*.py")):
        if path != Path(__file__) and (said := list(_of_python(path))):
            found[str(path.relative_to(ROOT))] = said
    for path in sorted(SCREENS.rglob("*.tsx")):
        if said := list(_of_screen(path)):
            found[str(path.relative_to(ROOT))] = said
    return found


def page() -> str:
    """All of them as Markdown."""
    parts = [HEAD]
    for name, said in sentences().items():
        rows = "\n".join(f"- {f'`{code}` ' if code else ''}{text}" for code, text in said)
        parts.append(f"## {name}\n\n{rows}\n")
    return "\n".join(parts)


def _of_python(path: Path) -> Iterator[tuple[str, str]]:
    tree = ast.parse(path.read_text("utf-8"))
    codes: dict[int, str] = {}
    inner: set[int] = set()
    silent: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            inner |= {id(part) for part in ast.walk(node) if part is not node}
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            silent.add(id(node.value))
        elif isinstance(node, ast.Raise):
            # A fault of the program is told to nobody.
            if isinstance(node.exc, ast.Call) and "Assertion" in ast.unparse(node.exc.func):
                silent |= {id(part) for part in ast.walk(node)}
        elif isinstance(node, ast.Call) and (code := _code(node)):
            codes |= {id(part): code for part in ast.walk(node)}
    for node in ast.walk(tree):
        if id(node) in inner or id(node) in silent:
            continue
        if text := _text(node):
            yield codes.get(id(node), ""), text


def _code(call: ast.Call) -> str:
    """The code of a finding that is built, or the two that it may have."""
    given = [word.value for word in call.keywords if word.arg == "code"]
    if isinstance(call.func, ast.Name) and call.func.id in BY_PLACE:
        given += call.args[:1]
    names = [
        part.value
        for value in given
        for part in ast.walk(value)
        if isinstance(part, ast.Constant) and isinstance(part.value, str)
    ]
    return "` or `".join(names) if all(name.isidentifier() for name in names) else ""


def _text(node: ast.AST) -> str:
    """A sentence of two words or more; empty for anything else."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        text = node.value
    elif isinstance(node, ast.JoinedStr):
        text = "".join(
            str(part.value) if isinstance(part, ast.Constant) else "{…}" for part in node.values
        )
    else:
        return ""
    text = " ".join(text.split())
    words = re.findall(r"[A-Za-z]{2,}", text)
    return text if len(words) > 1 and " " in text and not _CODE.search(text) else ""


def _of_screen(path: Path) -> Iterator[tuple[str, str]]:
    text = re.sub(r"^\s*(//|/?\*|import|export).*$", "", path.read_text("utf-8"), flags=re.M)
    seen = set()
    for match in (*_JSX.finditer(text), *_QUOTED.finditer(text)):
        said = " ".join(match[1].split())
        if " " in said and said not in seen and not _SCRIPT.search(said):
            seen.add(said)
            yield "", said


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(page(), encoding="utf-8")
