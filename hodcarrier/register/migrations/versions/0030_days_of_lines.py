"""The days of the runs that a site's small line shows, so that remarks can stand beside it.

Revision ID: 0030
Revises: 0029
"""

import sqlalchemy as sa
from alembic import op

revision = "0030"
down_revision = "0029"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """A site's days are known from its next run on."""
    op.add_column("site_state", sa.Column("line_days", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    """Lines stand without remarks."""
    op.drop_column("site_state", "line_days")
