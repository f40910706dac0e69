"""Presets: what new and other sites are set up with.

Revision ID: 0025
Revises: 0024
"""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """There are none so far."""
    op.create_table(
        "preset",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=100), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("settings", sa.JSON(), nullable=False),
        sa.Column("schedule", sa.JSON(), nullable=True),
        sa.Column("todos", sa.JSON(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("preset_name", "preset", [sa.text("name COLLATE NOCASE")], unique=True)
    op.execute("INSERT INTO change_count (noun, number) VALUES ('presets', 0)")
    for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
        op.execute(
            f"CREATE TRIGGER preset_{name} AFTER {when} ON preset BEGIN"
            " UPDATE change_count SET number = number + 1 WHERE noun = 'presets'; END"
        )


def downgrade() -> None:
    """Presets are lost; what was set up with them stays."""
    op.drop_table("preset")
    op.execute("DELETE FROM change_count WHERE noun = 'presets'")
