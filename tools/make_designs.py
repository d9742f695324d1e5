"""Remakes the designs that ship with the application.  make designs"""

from __future__ import annotations

from pathlib import Path

from designs.works import WORKS
from pennello.files.plan_json import write_plan

FOLDER = Path(__file__).parents[1] / "src" / "pennello" / "files" / "plans" / "designs"


def main() -> None:
    """Write each design, and its other colourway beside it."""
    FOLDER.mkdir(exist_ok=True)
    for at, (key, work) in enumerate(WORKS.items(), 1):
        for plan, ending in zip(work.plans, ("", "-other"), strict=True):
            path = FOLDER / f"{at:02}-{key}{ending}.pennello"
            write_plan(plan, path)
            print(path.name)


if __name__ == "__main__":
    main()
