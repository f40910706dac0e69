"""To-dos have a priority, an estimate, labels and watchers; clients have targets.

Revision ID: 0013
Revises: 0012
"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add what is new as columns, so that what belongs to a to-do stays."""
    op.add_column("todo", sa.Column("priority", sa.String(20), nullable=False, server_default="normal"))
    op.add_column("todo", sa.Column("estimate_hours", sa.Float()))
    op.add_column("todo", sa.Column("gain", sa.Float()))
    op.add_column("todo", sa.Column("labels", sa.JSON(), nullable=False, server_default="[]"))
    op.create_table(
        "todo_watcher",
        sa.Column("todo_id", sa.Integer(), sa.ForeignKey("todo.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("member_id", sa.Integer(), sa.ForeignKey("member.id", ondelete="CASCADE"), primary_key=True),
    )
    op.create_index("todo_watcher_member", "todo_watcher", ["member_id"])
    op.add_column("client", sa.Column("targets", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    """What is new is lost."""
    op.drop_column("client", "targets")
    op.drop_index("todo_watcher_member", "todo_watcher")
    op.drop_table("todo_watcher")
    for column in ("labels", "gain", "estimate_hours", "priority"):
        op.drop_column("todo", column)
