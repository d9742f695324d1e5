"""What verbs take that find an order of painting first."""

from __future__ import annotations

from argparse import ArgumentParser

from pennello.cli.asking import notebook_argument
from pennello.cli.numbers import number
from pennello.phrases import phrase


def timed_arguments(
    parser: ArgumentParser,
    chart_words: str = phrase("one chart only (default: all of the plan)"),
    chart: str | None = "",
) -> None:
    """Say what an order is found by: chart, seconds to look, time there is, own times."""
    parser.add_argument("--chart", default=chart, metavar="NAME", help=chart_words)
    parser.add_argument(
        "--seconds", type=number, default=1.0, metavar="T", help=phrase("how long to look for a better order")
    )
    parser.add_argument(
        "--target", type=number, metavar="S", help=phrase("leave out what does not fit into so many seconds")
    )
    parser.add_argument(
        "--short", action="store_true", help=phrase("the short form: without the parts that it leaves out")
    )
    notebook_argument(parser, words=phrase("times of your own runs (default: your notebook)"), begun=False)
