"""What runs changed for the worse is kept until it is fixed or acknowledged; a benchmark has a pace of its own.

Alarms begin with the next run of a site: what earlier runs changed is still told by their comparisons.

Revision ID: 0004
Revises: 0003
"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the table and the column."""
    op.create_table(
        "alarm",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("check_id", sa.String(80), nullable=False),
        sa.Column("severity", sa.String(20), nullable=False),
        sa.Column("summary", sa.Text(), nullable=False),
        sa.Column("detail", sa.Text(), nullable=False),
        sa.Column("findings", sa.Integer(), nullable=False),
        sa.Column("fingerprints", sa.LargeBinary(), nullable=False),
        sa.Column("raised_at", sa.DateTime(), nullable=False),
        sa.Column("acknowledged_at", sa.DateTime()),
        sa.Column("acknowledged_by", sa.Integer(), sa.ForeignKey("member.id")),
    )
    op.create_index("alarm_check", "alarm", ["site_id", "check_id"], unique=True)
    op.add_column("benchmark", sa.Column("rate_per_s", sa.Float(), nullable=False, server_default="5.0"))


def downgrade() -> None:
    """Take both away."""
    op.drop_column("benchmark", "rate_per_s")
    op.drop_table("alarm")
