"""A run that a person stopped says so, also when what it had fetched was examined.

Revision ID: 0005
Revises: 0004
"""

from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Name them."""
    op.execute("UPDATE run SET state = 'stopped' WHERE state = 'done' AND json_extract(summary, '$.end') = 'stopped'")


def downgrade() -> None:
    """As before: done."""
    op.execute("UPDATE run SET state = 'done' WHERE state = 'stopped' AND summary IS NOT NULL")
