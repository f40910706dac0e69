"""Sites share profiles, and runs are examined again.

Revision ID: 0012
Revises: 0011
"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add what is new as columns: making the tables of sites and runs anew would take with it what belongs to them."""
    op.create_table(
        "profile",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("rules", sa.Text(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
    )
    op.create_index("profile_name", "profile", [sa.text("name COLLATE NOCASE")], unique=True)
    op.execute("ALTER TABLE site ADD COLUMN profile_id INTEGER REFERENCES profile (id)")
    op.create_index("site_profile", "site", ["profile_id"])
    op.add_column("run", sa.Column("source_id", sa.String(20)))


def downgrade() -> None:
    """Profiles and re-examinations are lost."""
    op.drop_column("run", "source_id")
    op.drop_index("site_profile", "site")
    op.execute("ALTER TABLE site DROP COLUMN profile_id")
    op.drop_table("profile")
