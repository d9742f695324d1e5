"""`make hard`: everything that may go wrong, for so many minutes (HARD_MINUTES, 10 if not given), as one table.

Seeds come from HARD_SEED, or from the clock; they are printed, so that what failed can be made to fail again.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from hard.damage import damage
from hard.faults import faults
from hard.kills import kills
from hard.long_run import MOST_FOR_PAGES_MB, MOST_HANDLES_MORE, MOST_MB
from hard.tally import Tally, table

ROOT = Path(__file__).parents[2]
EVENTS, SECONDS, SEEDS = 10_000, 240.0, 20
"""A monkey plays until it has done so many events, or for so many seconds; longer where the minutes are enough for so
many monkeys.
"""

ALL_FROM = 50.0
"""From so many minutes on there are that many monkeys, however long they take."""

WEIGHED_S = 60.0
"""What weighing each takes besides (measured)."""

MOST_GROWTH_MB = 50.0
AT_ONCE = 2


def plans() -> list[Path]:
    """Return the sample plans of all versions."""
    return [*sorted((ROOT / "tests" / "files").glob("v*.pennello")), ROOT / "examples" / "minimal.pennello"]


class Monkeys:
    """Monkeys in programs of their own, two at once."""

    def __init__(self, folder: Path, events: int, seconds: float) -> None:
        self.folder, self.events, self.seconds = folder, events, seconds
        self.running: dict[int, subprocess.Popen[bytes]] = {}
        self.row = Tally("monkey, events")
        self.seeds = Tally("monkey, seeds that end well")
        self.exact = Tally("monkey, undo, redo, save exact")
        self.memory = Tally("monkey, memory and handles")
        self.stalls: list[float] = []

    def start(self, seed: int) -> None:
        """Let one play."""
        words = [str(seed), str(self.events), str(self.seconds), str(self.folder / str(seed)), *map(str, plans())]
        log = (self.folder / f"{seed}.log").open("wb")
        env = {
            **os.environ,
            "QT_QPA_PLATFORM": "offscreen",
            "PYTHONPATH": str(ROOT / "tools"),
            "PYTHONMALLOC": "malloc",
        }
        command = [sys.executable, "-X", "faulthandler", "-m", "hard.monkey", *words]
        self.running[seed] = subprocess.Popen(command, env=env, stdout=log, stderr=log)
        log.close()

    def wait(self, *, until: int) -> None:
        """Wait until no more than so many play."""
        while len(self.running) > until:
            for seed, one in list(self.running.items()):
                if one.poll() is not None:
                    del self.running[seed]
                    self._count(seed, one.returncode)
            time.sleep(0.2)

    def _count(self, seed: int, code: int) -> None:
        path = self.folder / str(seed) / "seen.json"
        self.seeds.check("" if code == 0 and path.exists() else f"seed {seed} ended with {code}")
        if not path.exists():
            return
        seen = json.loads(path.read_text())
        self.row.tried += seen["events"]
        self.row.failed += [f"seed {seed}: {count} x {what}" for what, count in seen["exceptions"].items()]
        self.exact.check("; ".join(f"seed {seed}: {one}" for one in seen["broken"]))
        self.stalls += seen["stalls"]
        home = seen["at_home"]
        if len(home) > 1:  # the same plan at the same station, with nothing kept: what is more than before is a leak
            grown, handles = home[-1][1] - home[0][1], home[-1][2] - home[0][2]
            fine = grown <= MOST_GROWTH_MB and handles <= MOST_HANDLES_MORE
            self.memory.check("" if fine else f"seed {seed}: {grown:.0f} MB, {handles} handles more")
            self.memory.note = f"last seed: {grown:+.0f} MB in use, {home[-1][3] - home[0][3]:+.0f} MB resident"

    @property
    def rows(self) -> list[Tally]:
        """What was found."""
        longest = max(self.stalls, default=0.0)
        self.row.note = f"{len(self.stalls)} stalls over 1 s, longest {longest:.1f} s, both cores busy"
        return [self.row, self.seeds, self.exact, self.memory]


def long_run(folder: Path, edits: int) -> Tally:
    """Make many edits in one window of its own."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT / "tools"), "PYTHONMALLOC": "malloc"}
    command = [sys.executable, "-X", "faulthandler", "-m", "hard.long_run", str(folder), str(edits)]
    folder.mkdir()
    ended = subprocess.run(command, env=env, check=False, capture_output=True)
    row = Tally("long run, edits", tried=edits)
    path = folder / "long.json"
    if ended.returncode or not path.exists():
        row.failed.append(f"ended with {ended.returncode}: {ended.stderr[-300:]!r}")
        return row
    told = json.loads(path.read_text())
    row.note = f"{told['before_mb']} to {told['peak_mb']} MB, pages {told['pages_mb']:+} MB"
    if told["peak_mb"] > MOST_MB:
        row.failed.append(f"{told['peak_mb']} MB")
    if told["pages_mb"] > MOST_FOR_PAGES_MB:
        row.failed.append(f"{told['pages_mb']} MB for pages that are closed again")
    if told["handles_more"] > MOST_HANDLES_MORE:
        row.failed.append(f"{told['handles_more']} handles more")
    return row


def main() -> int:
    """Try everything and print the table; 1 if anything failed."""
    minutes = float(os.environ.get("HARD_MINUTES", "10"))
    seed = int(os.environ.get("HARD_SEED", str(int(time.time()) % 100_000)))
    began = time.monotonic()
    share = min(minutes / 10, 1.0)
    print(f"hard: {minutes:g} minutes, seed {seed}", flush=True)
    with tempfile.TemporaryDirectory(prefix="pennello-hard-") as name:
        folder = Path(name)
        folder.chmod(0o755)
        for kind in ("DATA", "CONFIG", "STATE", "CACHE"):
            os.environ[f"XDG_{kind}_HOME"] = str(folder / kind.lower())
        for part in ("damage", "kills", "faults", "monkeys"):
            (folder / part).mkdir()
        rows = [
            *damage(folder / "damage", plans(), round(12_000 * share), seed),
            *kills(folder / "kills", round(510 * share), seed),
            *faults(folder / "faults"),
            long_run(folder / "long", round(2000 * share)),
        ]
        left = 60 * minutes - (time.monotonic() - began)
        seconds = max(SECONDS, AT_ONCE * left / SEEDS - WEIGHED_S)
        monkeys = Monkeys(folder / "monkeys", EVENTS, seconds)
        number, least = 0, SEEDS if minutes >= ALL_FROM else AT_ONCE
        while number < least or time.monotonic() - began < 60 * minutes - seconds / 2:
            monkeys.start(seed + number)
            number += 1
            monkeys.wait(until=AT_ONCE - 1)
        monkeys.wait(until=0)
        rows += monkeys.rows
        print(table(rows))
        failed = sum(len(row.failed) for row in rows)
        if failed:
            kept = Path(tempfile.mkdtemp(prefix="pennello-hard-failed-"))
            folder.rename(kept / "run")
            folder.mkdir()
            print(f"What failed lies in {kept}.")
    print(f"{failed} failed, seed {seed}, {time.monotonic() - began:.0f} s")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
