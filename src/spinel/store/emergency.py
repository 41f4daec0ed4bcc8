"""Queries about what is done in an emergency, by place."""

from __future__ import annotations

from spinel.store.models import EmergencyPlan


def latest() -> dict[str, EmergencyPlan]:
    """The last plan of each place."""
    query = "SELECT * FROM emergency_plan WHERE id IN (SELECT max(id) FROM emergency_plan GROUP BY location)"
    return {row.location: row for row in EmergencyPlan.raw(query)}


def insert(location: str, content: str, at: str, by: str) -> None:
    EmergencyPlan.insert(location=location, content=content, at=at, by=by).execute()
