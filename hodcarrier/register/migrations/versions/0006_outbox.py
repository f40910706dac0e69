"""Mails wait in an outbox until a server has taken them; those of before are kept with what became of them.

Revision ID: 0006
Revises: 0005
"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

COLUMNS = (
    sa.Column("text", sa.Text(), nullable=False, server_default=""),
    sa.Column("state", sa.String(20), nullable=False, server_default="sent"),
    sa.Column("attempts", sa.Integer(), nullable=False, server_default="1"),
    sa.Column("next_at", sa.DateTime()),
    sa.Column("sent_at", sa.DateTime()),
    sa.Column("claimed_until", sa.DateTime()),
)


def upgrade() -> None:
    """Add what an outbox needs."""
    for column in COLUMNS:
        op.add_column("delivery", column)
    op.execute("UPDATE delivery SET state = 'given up' WHERE error != ''")
    op.execute("UPDATE delivery SET sent_at = at WHERE error = ''")
    op.create_index("delivery_due", "delivery", ["state", "next_at"])


def downgrade() -> None:
    """Take it away."""
    op.drop_index("delivery_due", "delivery")
    for column in COLUMNS:
        op.drop_column("delivery", column.name)
