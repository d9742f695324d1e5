"""Files of the program as the tests of the house read them: each read, parsed and walked once."""

import ast
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parents[2]
SOURCES = sorted((ROOT / "src" / "pennello").rglob("*.py"))
TOOLS = sorted((ROOT / "tools").rglob("*.py"))
OTHERS = [*sorted((ROOT / "tests").rglob("*.py")), *TOOLS]


@cache
def text_of(path):
    return path.read_text("utf-8")


@cache
def tree_of(path):
    return ast.parse(text_of(path))


@cache
def nodes_of(path):
    """All of a file, in no order that matters."""
    return tuple(ast.walk(tree_of(path)))
