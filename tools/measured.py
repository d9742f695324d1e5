"""Which lines of the core the tests run, measured while they run on every core of the machine.

A plugin of pytest: `PYTHONPATH=tools PYTEST_PLUGINS=measured pytest --measure`; named there and not by `-p`, the
workers have it before they import the program. Lines are counted by probes in the bytecode that take themselves out
once they were passed (SlipCover), so being measured costs next to nothing; a tracer makes the tests of the core three
times as long. Each worker writes what it saw, and the first process adds them up, prints what was missed
and fails the run below the share that pyproject.toml asks for under [tool.measured].
"""

from __future__ import annotations

import json
import tempfile
import tomllib
from pathlib import Path
from typing import TYPE_CHECKING, Any

import pytest
import slipcover

if TYPE_CHECKING:
    from collections.abc import Generator

PARTS = "measured_parts"
"""What the workers are told: the folder for what they saw."""


class Measured:
    """One process' lines; in the first process, those of all."""

    def __init__(self, config: pytest.Config, wanted: dict[str, Any]) -> None:
        self.config = config
        self.wanted = wanted
        self.share: float | None = None
        self.seen = slipcover.Slipcover(immediate=True)
        matcher = slipcover.FileMatcher([config.rootpath / source for source in wanted["source"]], wanted["omit"])
        self.imports = slipcover.ImportManager(self.seen, matcher)
        self.imports.__enter__()

    def pytest_sessionstart(self) -> None:
        """Find the folder for what was seen; the first process makes it."""
        given = getattr(self.config, "workerinput", {}).get(PARTS)
        self.parts = Path(given or tempfile.mkdtemp(prefix="measured-"))
        self.first = given is None

    @pytest.hookimpl(optionalhook=True)
    def pytest_configure_node(self, node: Any) -> None:
        """Tell a worker where to write."""
        node.workerinput[PARTS] = str(self.parts)

    @pytest.hookimpl(wrapper=True)
    def pytest_sessionfinish(self, session: pytest.Session) -> Generator[None]:
        """Write what was seen; the first process adds up and judges when all others have ended."""
        yield
        self.imports.__exit__()
        own = self.parts / f"{getattr(self.config, 'workerinput', {}).get('workerid', 'first')}.json"
        own.write_text(json.dumps(self.seen.get_coverage()), encoding="utf-8")
        if not self.first:
            return
        self.all = {"meta": self.seen.get_coverage()["meta"], "files": {}}
        for part in sorted(self.parts.glob("*.json")):
            slipcover.merge_coverage(self.all, json.loads(part.read_text(encoding="utf-8")))
            part.unlink()
        self.parts.rmdir()
        self.share = self.all["summary"]["percent_covered"]
        if self.share < self.wanted["at_least_percent"] and session.exitstatus == 0:
            session.exitstatus = 1

    def pytest_terminal_summary(self, terminalreporter: pytest.TerminalReporter) -> None:
        """Say which lines nothing ran."""
        if self.share is None:
            return
        terminalreporter.section("lines of the core that were run")
        slipcover.print_coverage(self.all, outfile=terminalreporter, skip_covered=True, missing_width=60)
        verdict = "" if self.share >= self.wanted["at_least_percent"] else ": TOO FEW"
        terminalreporter.write_line(
            f"{self.share:.1f} % of the core's lines were run, {self.wanted['at_least_percent']} % are asked{verdict}"
        )


def pytest_addoption(parser: pytest.Parser) -> None:
    """Give pytest the switch."""
    parser.addoption("--measure", action="store_true", help="count which lines of the core are run")


def pytest_load_initial_conftests(early_config: pytest.Config) -> None:
    """Begin before anything of the program is imported."""
    if not early_config.known_args_namespace.measure:
        return
    with (early_config.rootpath / "pyproject.toml").open("rb") as file:
        wanted = tomllib.load(file)["tool"]["measured"]
    early_config.pluginmanager.register(Measured(early_config, wanted), "measured-lines")
