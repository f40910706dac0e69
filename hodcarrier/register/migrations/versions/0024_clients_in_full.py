"""Clients in full: archived, in somebody's charge, with tags, a note and a colour; schedules that pause and try again.

Revision ID: 0024
Revises: 0023
"""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

COLUMNS = {
    "client": (
        sa.Column("archived_at", sa.DateTime()),
        sa.Column("tags", sa.JSON(), nullable=False, server_default="[]"),
        sa.Column("note", sa.Text(), nullable=False, server_default=""),
        sa.Column("colour", sa.String(7), nullable=False, server_default=""),
        sa.Column("blackout_days", sa.JSON(), nullable=False, server_default="[]"),
    ),
    "site": (
        sa.Column("archived", sa.Boolean(), nullable=False, server_default="0"),
        sa.Column("tags", sa.JSON(), nullable=False, server_default="[]"),
    ),
    "schedule": (
        sa.Column("paused_at", sa.DateTime()),
        sa.Column("retry_at", sa.DateTime()),
        sa.Column("retry_of", sa.String(20)),
    ),
    "run": (sa.Column("scheduled", sa.Boolean(), nullable=False, server_default="0"), sa.Column("retry_of", sa.String(20))),
}


def upgrade() -> None:
    """No client is archived or in anybody's charge so far."""
    op.execute("ALTER TABLE client ADD COLUMN owner_id INTEGER REFERENCES member (id)")
    op.create_index("client_owner", "client", ["owner_id"])
    for table, columns in COLUMNS.items():
        for column in columns:
            op.add_column(table, column)


def downgrade() -> None:
    """Archived clients come back."""
    for table, columns in COLUMNS.items():
        for column in columns:
            op.drop_column(table, column.name)
    op.drop_index("client_owner", "client")
    op.execute("ALTER TABLE client DROP COLUMN owner_id")
