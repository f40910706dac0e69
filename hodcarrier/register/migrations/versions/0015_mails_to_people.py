"""Members are told of to-dos by mail, when they want it; mails have HTML beside their text.

Revision ID: 0015
Revises: 0014
"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nobody is told of what happened before."""
    op.add_column("member", sa.Column("mail_times", sa.JSON(), nullable=False, server_default="{}"))
    op.add_column("member", sa.Column("mail_hour", sa.Integer(), nullable=False, server_default="7"))
    op.add_column("member", sa.Column("mail_zone", sa.String(60), nullable=False, server_default="UTC"))
    op.add_column("delivery", sa.Column("html", sa.Text(), nullable=False, server_default=""))
    op.create_table(
        "todo_mail",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("todo_id", sa.Integer(), sa.ForeignKey("todo.id", ondelete="CASCADE"), nullable=False),
        sa.Column("member_id", sa.Integer(), sa.ForeignKey("member.id", ondelete="CASCADE"), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("occasion", sa.String(40), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("due_at", sa.DateTime(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("quote", sa.Text(), nullable=False),
        sa.Column("taken_at", sa.DateTime()),
        sa.Column("delivery_id", sa.Integer(), sa.ForeignKey("delivery.id", ondelete="SET NULL")),
        sa.UniqueConstraint("todo_id", "member_id", "kind", "occasion"),
    )
    op.create_index("todo_mail_due", "todo_mail", ["due_at"], sqlite_where=sa.text("taken_at IS NULL"))
    op.create_index("todo_mail_member", "todo_mail", ["member_id"])


def downgrade() -> None:
    """What people chose is lost, and what they were to be told."""
    op.drop_index("todo_mail_member", "todo_mail")
    op.drop_index("todo_mail_due", "todo_mail")
    op.drop_table("todo_mail")
    op.drop_column("delivery", "html")
    for column in ("mail_zone", "mail_hour", "mail_times"):
        op.drop_column("member", column)
