"""Sitemaps that sites fetch from the service.

Revision ID: 0031
Revises: 0030
"""

import sqlalchemy as sa
from alembic import op

revision = "0031"
down_revision = "0030"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """One for each site at most."""
    op.create_table(
        "sitemap_feed",
        sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("where", sa.String(2000), nullable=False),
        sa.Column("images", sa.Boolean(), nullable=False),
        sa.Column("versions", sa.Boolean(), nullable=False),
        sa.Column("packed", sa.Boolean(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("read_at", sa.DateTime()),
    )


def downgrade() -> None:
    """Addresses end."""
    op.drop_table("sitemap_feed")
