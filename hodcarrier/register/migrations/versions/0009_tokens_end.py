"""Tokens have a scope and an end; those of before may do everything and go on.

Revision ID: 0009
Revises: 0008
"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the two."""
    op.add_column("token", sa.Column("scope", sa.String(20), nullable=False, server_default="all"))
    op.add_column("token", sa.Column("expires_at", sa.DateTime()))


def downgrade() -> None:
    """Take them away."""
    op.drop_column("token", "expires_at")
    op.drop_column("token", "scope")
