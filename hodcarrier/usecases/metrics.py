"""Figures of a site as a whole that the crawl cannot know."""

from __future__ import annotations

from sqlalchemy import select

from hodcarrier.register.models import Metric, Site
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.metrics import MetricRow


def list_metrics(work: Workspace, site_id: int) -> list[MetricRow]:
    """Imported figures of a site by name and day."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(Metric).where(Metric.site_id == site_id).order_by(Metric.name, Metric.day))
        return [MetricRow(name=m.name, day=m.day, value=m.value, source=m.source) for m in rows]
