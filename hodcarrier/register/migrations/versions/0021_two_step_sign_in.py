"""Members may sign in by two steps.

Revision ID: 0021
Revises: 0020
"""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nobody does so far."""
    op.add_column("member", sa.Column("second_on", sa.Boolean(), nullable=False, server_default="0"))
    op.add_column("member", sa.Column("second_sealed", sa.Text(), nullable=False, server_default=""))
    op.add_column("member", sa.Column("second_last", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("member", sa.Column("recovery", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    """Everybody signs in by the password alone."""
    for column in ("recovery", "second_last", "second_sealed", "second_on"):
        op.drop_column("member", column)
