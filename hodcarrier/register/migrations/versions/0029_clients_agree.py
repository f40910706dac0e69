"""Clients who want to agree to what is done.

Revision ID: 0029
Revises: 0028
"""

import sqlalchemy as sa
from alembic import op

revision = "0029"
down_revision = "0028"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """None does so far."""
    op.add_column("client", sa.Column("approves", sa.Boolean(), nullable=False, server_default="0"))


def downgrade() -> None:
    """To-dos wait for nobody but those they were shared with."""
    op.drop_column("client", "approves")
