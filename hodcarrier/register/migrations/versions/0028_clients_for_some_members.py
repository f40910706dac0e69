"""Clients may be limited to some members.

Revision ID: 0028
Revises: 0027
"""

import sqlalchemy as sa
from alembic import op

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """No client is so far."""
    op.create_table(
        "client_member",
        sa.Column("client_id", sa.Integer(), nullable=False),
        sa.Column("member_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["client_id"], ["client.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["member_id"], ["member.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("client_id", "member_id"),
    )
    op.create_index("client_member_member", "client_member", ["member_id"])
    for name, when in (("added", "INSERT"), ("removed", "DELETE")):
        op.execute(
            f"CREATE TRIGGER client_member_{name} AFTER {when} ON client_member BEGIN"
            " UPDATE change_count SET number = number + 1 WHERE noun = 'clients'; END"
        )


def downgrade() -> None:
    """Every client is open to everybody at the agency."""
    op.drop_table("client_member")
