"""What runs change for the worse is called an alert, as it is on every screen.

Revision ID: 0016
Revises: 0015
"""

from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Only names change."""
    op.drop_index("alarm_check", "alarm")
    op.rename_table("alarm", "alert")
    op.create_index("alert_check", "alert", ["site_id", "check_id"], unique=True)


def downgrade() -> None:
    """Back to the names of before."""
    op.drop_index("alert_check", "alert")
    op.rename_table("alert", "alarm")
    op.create_index("alarm_check", "alarm", ["site_id", "check_id"], unique=True)
