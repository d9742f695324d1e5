"""Prints the ratios that the figures ask for; all numbers of one table come from one run on one machine."""

from __future__ import annotations

import os

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def pytest_terminal_summary(terminalreporter, config):
    session = getattr(config, "_benchmarksession", None)
    if session is None or not session.benchmarks:
        return
    median = {one.name: one.stats.median for one in session.benchmarks if one.stats}
    write = terminalreporter.write_line
    write("")
    for name, seconds in median.items():
        write(f"{name:48} median {1000 * seconds:9.2f} ms")
    if "test_recovery_of_30_paints" in median:
        write(f"recovery: {1000 * median['test_recovery_of_30_paints'] / 30:.2f} ms a paint (wanted <= 1)")
    for one in session.benchmarks:
        for key, value in one.extra_info.items():
            write(f"{one.name}: {key} {value}")


@pytest.fixture(scope="session")
def qapp_bench():
    from PySide6.QtWidgets import QApplication

    return QApplication.instance() or QApplication(["bench"])
