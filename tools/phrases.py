"""Collects all sentences into a template for translators: python tools/phrases.py FILE.pot."""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import write_po

SOURCE = Path(__file__).parents[1] / "src" / "pennello"
KEYWORDS = {"phrase": None, "plural": (2, 3), "mark": None}
"""Where in a call the sentences stand, as Babel has it."""


def members(path: Path) -> Iterator[tuple[int, str]]:
    """Yield the line and value of each member of an enumeration: `named` tells it."""
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if not isinstance(node, ast.ClassDef) or not any("Enum" in ast.unparse(base) for base in node.bases):
            continue
        for line in node.body:
            value = line.value if isinstance(line, ast.Assign) else None
            first = value.elts[0] if isinstance(value, ast.Tuple) else value
            if isinstance(first, ast.Constant) and isinstance(first.value, str):
                yield line.lineno, first.value


def collected() -> Catalog:
    """Return all sentences with their plurals and places."""
    catalogue = Catalog(project="Pennello", charset="utf-8")
    method = [("**.py", "python")]
    for name, line, message, comments, context in extract_from_dir(str(SOURCE), method, keywords=KEYWORDS):
        catalogue.add(message, None, [(name, line)], auto_comments=comments, context=context)
    for path in sorted(SOURCE.rglob("*.py")):
        for line, value in members(path):
            catalogue.add(value, None, [(str(path.relative_to(SOURCE)), line)])
    return catalogue


def main() -> None:
    """Write the template."""
    target = Path(sys.argv[1])
    target.parent.mkdir(parents=True, exist_ok=True)
    catalogue = collected()
    with target.open("wb") as file:
        write_po(file, catalogue, width=100, sort_by_file=True)
    print(f"Wrote {target}: {len(catalogue)} sentences and names.")


if __name__ == "__main__":
    main()
