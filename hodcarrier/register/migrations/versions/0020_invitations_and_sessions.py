"""Members are invited by mail and reset their passwords; sessions say where they are from.

Revision ID: 0020
Revises: 0019
"""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Sessions of before do not know where they are from."""
    op.create_table(
        "password_link",
        sa.Column("secret_hash", sa.String(64), primary_key=True),
        sa.Column("member_id", sa.Integer(), sa.ForeignKey("member.id", ondelete="CASCADE"), nullable=False),
        sa.Column("invites", sa.Boolean(), nullable=False),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
    )
    op.create_index("password_link_member", "password_link", ["member_id"])
    op.add_column("sign_in", sa.Column("created_at", sa.DateTime()))
    op.add_column("sign_in", sa.Column("seen_at", sa.DateTime()))
    op.add_column("sign_in", sa.Column("program", sa.String(300), nullable=False, server_default=""))
    op.create_index("log_entry_at", "log_entry", ["at"])


def downgrade() -> None:
    """Invitations under way are lost."""
    op.drop_index("log_entry_at", "log_entry")
    for column in ("program", "seen_at", "created_at"):
        op.drop_column("sign_in", column)
    op.drop_index("password_link_member", "password_link")
    op.drop_table("password_link")
