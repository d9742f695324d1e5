"""What was tried and what failed, as one table."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

MOST_TOLD = 12


@dataclass(slots=True)
class Tally:
    """One row: what, how often it was tried, and what failed."""

    what: str
    tried: int = 0
    failed: list[str] = field(default_factory=list)
    note: str = ""

    def check(self, problem: str) -> None:
        """Count one try; a problem counts as a failure, "" as none."""
        self.tried += 1
        if problem:
            self.failed.append(problem)


def table(rows: Iterable[Tally]) -> str:
    """Return the rows as a table, with the first failures of each below it."""
    listed = list(rows)
    wide = max(len(row.what) for row in listed)
    lines = [f"{'what':<{wide}}  {'tried':>8}  {'failed':>7}  note"]
    lines += [f"{row.what:<{wide}}  {row.tried:>8}  {len(row.failed):>7}  {row.note}".rstrip() for row in listed]
    for row in listed:
        lines += [f"  {row.what}: {problem}" for problem in row.failed[:MOST_TOLD]]
    return "\n".join(lines)
