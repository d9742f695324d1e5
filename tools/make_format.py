"""Remakes docs/findings.md and the tables of docs/format.md from what codes and fields tell.  make schema"""

from __future__ import annotations

import re
import typing
from dataclasses import MISSING, fields, is_dataclass
from enum import Enum
from pathlib import Path
from typing import Any

from pennello.design.marks import Gem, Glitter, Reserved, Stencil
from pennello.files.plan_schema import FORMS, VERSION
from pennello.finding import Code, Level
from pennello.record import Told, told_of

PAGE = Path(__file__).parents[1] / "docs" / "format.md"
FINDINGS = PAGE.with_name("findings.md")
_FLAT = {kind: form.flat for kind, form in FORMS.items()}
_KINDS = {kind.__name__: kind for kind in [*FORMS, Glitter, Stencil, Gem, Reserved] if isinstance(kind, type)}
_MARK = re.compile(r"(<!-- table (\w+) -->\n).*?(<!-- end -->)", re.DOTALL)


def table(kind: type) -> str:
    """Return the table of a record's keys."""
    rows = ["| key | what | range, default |", "| --- | --- | --- |"]
    return "\n".join([*rows, *_rows(kind)]) + "\n"


def _rows(kind: type) -> list[str]:
    told, found = told_of(kind), []
    hints = typing.get_type_hints(kind)
    for one in fields(kind):
        if one.name in _FLAT.get(kind, ()):
            found += _rows(hints[one.name])
            continue
        here = told[one.name]
        since = f" (since {here.since})" if here.since > 1 else ""
        default = one.default if one.default_factory is MISSING else one.default_factory
        found.append(f"| `{here.key or one.name}`{since} | {here.words} | {_limits(here, default)} |")
    return found


def _limits(told: Told, default: Any) -> str:
    """Return range and default in words."""
    parts = [told.range_words] if told.range_words else []
    if told.count is not None:
        least, most = told.count
        parts.append(str(most) if least == most else f"{least} to {most}" if least else f"up to {most}")
    value = told.in_file if default is MISSING and (isinstance(told.in_file, str | float | tuple)) else default
    if told.default:
        parts.append(told.default if ":" in told.default or "within" in told.default else f"default {told.default}")
    elif told.left_out or value is None:
        parts.append("left out if there is none")
    else:
        parts.append("required" if value is MISSING else f"default {_default(value)}")
    return ", ".join(parts)


def _default(value: Any) -> str:
    match value:
        case bool():
            return str(value).lower()
        case Enum():
            return f"`{value.value}`"
        case str():
            return f'`"{value}"`' if value else '`""`'
        case tuple():
            return f"`[{', '.join(f'{one:g}' for one in value)}]`" if value else "none"
        case int() | float():
            return f"{value:g}"
    return "as its keys say" if is_dataclass(value) or callable(value) else str(value)


def remade(text: str) -> str:
    """Return the page with its tables anew, and the versions in its title and its first sentence."""
    text = re.sub(r"\A(# The plan file \(\.pennello\), version )\d+", rf"\g<1>{VERSION}", text)
    text = re.sub(
        r"`schema`, `\d+`: files of versions 1 to \d+ are read, and written back as \d+;",
        f"`schema`, `{VERSION}`: files of versions 1 to {VERSION - 1} are read, and written back as {VERSION};",
        text,
    )
    return _MARK.sub(lambda found: f"{found[1]}{table(_KINDS[found[2]])}{found[3]}", text)


def findings() -> str:
    """Return the page of all that can be found, by level."""
    parts = [
        "# What Pennello finds",
        "Every finding has a code, a sentence with the remedy, and where it is; some carry the change that mends it. "
        "Made by `make schema` from `finding.py`.",
    ]
    for level in Level:
        rows = [f"| `{code.value}` | {code.words} |" for code in Code if code.level is level]
        title = level.value[0].upper() + level.value[1:]
        parts.append("\n".join([f"## {title}", "", "| code | what |", "| --- | --- |", *rows]))
    return "\n\n".join(parts) + "\n"


def main() -> None:
    """Write both pages."""
    PAGE.write_text(remade(PAGE.read_text(encoding="utf-8")), encoding="utf-8")
    FINDINGS.write_text(findings(), encoding="utf-8")


if __name__ == "__main__":
    main()
