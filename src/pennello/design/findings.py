"""Everything that is found about a plan, in one place: its strokes and order, its charts."""

from __future__ import annotations

from pennello.design.chart_checks import odd_on
from pennello.design.on_chart import charts_used
from pennello.design.plan import Plan
from pennello.design.problems import problems
from pennello.finding import Finding


def findings_of(plan: Plan) -> tuple[Finding, ...]:
    """Return what is odd about strokes and order, in their order."""
    return problems(plan)


def findings_by_chart(plan: Plan) -> dict[str, tuple[Finding, ...]]:
    """Return what is odd about each chart that something lies on."""
    return {key: odd_on(plan, key) for key in charts_used(plan)}
