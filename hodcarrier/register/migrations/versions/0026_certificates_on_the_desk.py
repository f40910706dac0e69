"""Until when the certificates of sites hold.

Revision ID: 0026
Revises: 0025
"""

import sqlalchemy as sa
from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nothing is known until the next run of each site."""
    op.add_column("site_state", sa.Column("certificate_ends", sa.DateTime(), nullable=True))


def downgrade() -> None:
    """The desk tells nothing of them."""
    op.drop_column("site_state", "certificate_ends")
