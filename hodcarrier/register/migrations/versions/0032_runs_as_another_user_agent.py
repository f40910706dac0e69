"""Runs beside audits, fetched with another user agent.

Revision ID: 0032
Revises: 0031
"""

import sqlalchemy as sa
from alembic import op

revision = "0032"
down_revision = "0031"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Runs that there are have none of their own: they appear as their plan says."""
    op.add_column("run", sa.Column("appearance", sa.String(20)))


def downgrade() -> None:
    """Runs with another user agent lose what tells them apart."""
    op.drop_column("run", "appearance")
