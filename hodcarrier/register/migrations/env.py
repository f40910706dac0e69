"""Alembic's environment: migrations run on the connection that the service hands over."""

from __future__ import annotations

from alembic import context

from hodcarrier.register.models import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()
