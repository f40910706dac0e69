"""Runs are in the order in which they were asked for, whatever the clock said; and what became of each one's file is known.

Revision ID: 0010
Revises: 0009
"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Number them. The table is not made anew: what belongs to runs would go with the old one."""
    op.add_column("run", sa.Column("sequence", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("run", sa.Column("file", sa.String(20), nullable=False, server_default="kept"))
    op.execute(
        "UPDATE run SET sequence = ordered.number FROM"
        " (SELECT id, row_number() OVER (ORDER BY requested_at, id) AS number FROM run) AS ordered WHERE ordered.id = run.id"
    )
    op.drop_index("run_site", "run")
    op.create_index("run_site", "run", ["site_id", "purpose", "state", "sequence"])
    op.create_index("run_sequence", "run", ["sequence"], unique=True)


def downgrade() -> None:
    """As before: by the clock."""
    op.drop_index("run_sequence", "run")
    op.drop_index("run_site", "run")
    op.drop_column("run", "file")
    op.drop_column("run", "sequence")
    op.create_index("run_site", "run", ["site_id", "purpose", "state", "requested_at"])
