"""Recurring to-dos, attachments of to-dos, saved views.

Revision ID: 0027
Revises: 0026
"""

import sqlalchemy as sa
from alembic import op

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None

WATCHED = {"recurring_todo": "todos", "todo_file": "todos", "saved_view": "views"}


def upgrade() -> None:
    """There are none so far."""
    op.create_table(
        "recurring_todo",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("site_id", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(length=300), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("rule", sa.String(length=300), nullable=False),
        sa.Column("anchor", sa.Date(), nullable=False),
        sa.Column("next_on", sa.Date(), nullable=True),
        sa.Column("days", sa.Integer(), nullable=False),
        sa.Column("assignee_id", sa.Integer(), nullable=True),
        sa.Column("author_id", sa.Integer(), nullable=True),
        sa.Column("priority", sa.String(length=20), nullable=False),
        sa.Column("estimate_hours", sa.Float(), nullable=True),
        sa.Column("labels", sa.JSON(), nullable=False),
        sa.Column("last_id", sa.Integer(), nullable=True),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["site_id"], ["site.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["assignee_id"], ["member.id"]),
        sa.ForeignKeyConstraint(["author_id"], ["member.id"]),
        sa.ForeignKeyConstraint(["last_id"], ["todo.id"], ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("recurring_todo_site", "recurring_todo", ["site_id"])
    op.create_index("recurring_todo_next", "recurring_todo", ["next_on"])
    op.create_table(
        "todo_file",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("todo_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("media", sa.String(length=100), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("author_id", sa.Integer(), nullable=True),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["todo_id"], ["todo.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["author_id"], ["member.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("todo_file_todo", "todo_file", ["todo_id"])
    op.create_table(
        "saved_view",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("member_id", sa.Integer(), nullable=False),
        sa.Column("place", sa.String(length=20), nullable=False),
        sa.Column("name", sa.String(length=100), nullable=False),
        sa.Column("query", sa.Text(), nullable=False),
        sa.Column("shared", sa.Boolean(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["member_id"], ["member.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("saved_view_name", "saved_view", ["member_id", "place", sa.text("name COLLATE NOCASE")], unique=True)
    op.execute("INSERT INTO change_count (noun, number) VALUES ('views', 0)")
    for table, noun in WATCHED.items():
        for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
            op.execute(
                f"CREATE TRIGGER {table}_{name} AFTER {when} ON {table} BEGIN"
                f" UPDATE change_count SET number = number + 1 WHERE noun = '{noun}'; END"
            )


def downgrade() -> None:
    """Recurring to-dos, attachments and saved views are lost."""
    op.execute("DELETE FROM change_count WHERE noun = 'views'")
    for table in WATCHED:
        op.drop_table(table)
