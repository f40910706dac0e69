"""What benchmarks compare sites by, taken of each of their runs.

Revision ID: 0033
Revises: 0032
"""

import sqlalchemy as sa
from alembic import op

revision = "0033"
down_revision = "0032"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Rounds that are kept already hold what there was of it; runs under way get theirs when they end."""
    op.add_column("run", sa.Column("site_figures", sa.JSON()))


def downgrade() -> None:
    """Rounds keep their results."""
    op.drop_column("run", "site_figures")
