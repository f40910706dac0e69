"""Members have calendar feeds.

Revision ID: 0014
Revises: 0013
"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """A feed is known by the hash of the secret in its address."""
    op.create_table(
        "feed",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("member_id", sa.Integer(), sa.ForeignKey("member.id", ondelete="CASCADE"), nullable=False),
        sa.Column("client_id", sa.Integer(), sa.ForeignKey("client.id", ondelete="CASCADE")),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("read_at", sa.DateTime()),
    )
    op.create_index("feed_member", "feed", ["member_id"])


def downgrade() -> None:
    """Feeds are lost."""
    op.drop_index("feed_member", "feed")
    op.drop_table("feed")
