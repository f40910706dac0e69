"""To-dos are shared by a link, and clients can be asked to agree to them.

Revision ID: 0019
Revises: 0018
"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """A link is known by the hash of the secret in its address."""
    op.add_column("todo", sa.Column("approval", sa.String(20), nullable=False, server_default=""))
    op.add_column("todo_event", sa.Column("by_link", sa.String(100), nullable=False, server_default=""))
    op.create_table(
        "todo_link",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("todo_id", sa.Integer(), sa.ForeignKey("todo.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("asks_approval", sa.Boolean(), nullable=False),
        sa.Column("author_id", sa.Integer(), sa.ForeignKey("member.id")),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.Column("revoked_at", sa.DateTime()),
        sa.Column("seen", sa.Integer(), nullable=False),
        sa.Column("seen_at", sa.DateTime()),
    )
    op.create_index("todo_link_todo", "todo_link", ["todo_id"])


def downgrade() -> None:
    """Share links are lost."""
    op.drop_index("todo_link_todo", "todo_link")
    op.drop_table("todo_link")
    op.drop_column("todo_event", "by_link")
    op.drop_column("todo", "approval")
