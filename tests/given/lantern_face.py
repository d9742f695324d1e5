"""The plan that the tests paint: a crown, cheeks and a flower on a face, and small works on other charts. Invented."""

from pathlib import Path

from pennello.files.plan_json import read_plan

DEMO_NAME = "lantern-face.pennello"
GIVEN = Path(__file__).with_name(DEMO_NAME)


def demo_plan():
    """Return the plan."""
    return read_plan(GIVEN)
