"""Rounds of benchmarks that begin by themselves.

Revision ID: 0034
Revises: 0033
"""

import sqlalchemy as sa
from alembic import op

revision = "0034"
down_revision = "0033"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """One schedule for each benchmark at most."""
    op.create_table(
        "benchmark_schedule",
        sa.Column("benchmark_id", sa.Integer(), sa.ForeignKey("benchmark.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("rule", sa.String(300), nullable=False),
        sa.Column("at", sa.String(8), nullable=False),
        sa.Column("zone", sa.String(60), nullable=False),
        sa.Column("anchor", sa.DateTime(), nullable=False),
        sa.Column("next_due_at", sa.DateTime()),
    )


def downgrade() -> None:
    """Rounds begin only when somebody asks for one."""
    op.drop_table("benchmark_schedule")
