"""The demo plan that ships with Pennello: the Saltmarsh Lantern Walk. All of it is invented."""

from __future__ import annotations

from importlib.resources import files

from pennello.design.plan import Plan
from pennello.files.plan_json import parse_plan

DEMO_NAME = "saltmarsh-lantern-walk.pennello"


def demo_plan() -> Plan:
    """Return the demo plan."""
    data = (files("pennello.files") / "plans" / DEMO_NAME).read_bytes()
    return parse_plan(data, DEMO_NAME)
