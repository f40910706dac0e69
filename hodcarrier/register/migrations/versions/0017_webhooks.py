"""Webhooks, and what they were told.

Revision ID: 0017
Revises: 0016
"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Two new tables."""
    op.create_table(
        "webhook",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("url", sa.Text(), nullable=False),
        sa.Column("topics", sa.JSON(), nullable=False),
        sa.Column("client_id", sa.Integer(), sa.ForeignKey("client.id", ondelete="CASCADE")),
        sa.Column("sealed", sa.Text(), nullable=False),
        sa.Column("active", sa.Boolean(), nullable=False),
        sa.Column("failures", sa.Integer(), nullable=False),
        sa.Column("paused_until", sa.DateTime()),
        sa.Column("author_id", sa.Integer(), sa.ForeignKey("member.id")),
        sa.Column("created_at", sa.DateTime(), nullable=False),
    )
    op.create_table(
        "webhook_delivery",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("webhook_id", sa.Integer(), sa.ForeignKey("webhook.id", ondelete="CASCADE"), nullable=False),
        sa.Column("message_id", sa.String(40), nullable=False, unique=True),
        sa.Column("topic", sa.String(20), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("link", sa.Text(), nullable=False),
        sa.Column("data", sa.JSON(), nullable=False),
        sa.Column("state", sa.String(20), nullable=False),
        sa.Column("patience_from", sa.DateTime(), nullable=False),
        sa.Column("attempts", sa.Integer(), nullable=False),
        sa.Column("claimed_until", sa.DateTime()),
        sa.Column("sent_at", sa.DateTime()),
        sa.Column("status", sa.Integer()),
        sa.Column("error", sa.Text(), nullable=False),
    )
    waiting = sa.text("state = 'waiting'")
    op.create_index("webhook_delivery_waiting", "webhook_delivery", ["webhook_id"], sqlite_where=waiting)
    op.create_index("webhook_delivery_webhook", "webhook_delivery", ["webhook_id", "id"])


def downgrade() -> None:
    """Webhooks are lost."""
    op.drop_index("webhook_delivery_webhook", "webhook_delivery")
    op.drop_index("webhook_delivery_waiting", "webhook_delivery")
    op.drop_table("webhook_delivery")
    op.drop_table("webhook")
