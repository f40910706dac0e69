"""Remarks by the service.

Revision ID: 0022
Revises: 0021
"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """All remarks so far are by members."""
    op.add_column("remark", sa.Column("origin", sa.String(length=20), nullable=False, server_default="member"))
    op.add_column("remark", sa.Column("run_id", sa.String(length=20), nullable=True))
    op.create_index("remark_site", "remark", ["site_id", "day"])
    op.create_index("remark_run", "remark", ["run_id", "origin"], unique=True, sqlite_where=sa.text("run_id IS NOT NULL"))


def downgrade() -> None:
    """Only what members noted is left."""
    op.execute("DELETE FROM remark WHERE origin <> 'member'")
    op.drop_index("remark_run", "remark")
    op.drop_index("remark_site", "remark")
    op.drop_column("remark", "run_id")
    op.drop_column("remark", "origin")
