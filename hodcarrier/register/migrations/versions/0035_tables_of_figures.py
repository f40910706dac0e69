"""Tables of figures that were sent, and names by which people look for a client.

Revision ID: 0035
Revises: 0034
"""

import sqlalchemy as sa
from alembic import op

revision = "0035"
down_revision = "0034"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """What waits to be imported, and what was."""
    op.add_column("client", sa.Column("brand_names", sa.JSON(), nullable=False, server_default="[]"))
    op.create_table(
        "figure_file",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("author_id", sa.Integer(), sa.ForeignKey("member.id")),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("source", sa.String(200), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("stage", sa.String(20), nullable=False),
        sa.Column("heads", sa.String(32), nullable=False),
        sa.Column("layout", sa.JSON(), nullable=False),
        sa.Column("outcome", sa.JSON(), nullable=False),
    )
    op.create_index("figure_file_site", "figure_file", ["site_id", "id"])
    op.create_index("figure_file_heads", "figure_file", ["heads"])
    for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
        op.execute(
            f"CREATE TRIGGER figure_file_{name} AFTER {when} ON figure_file BEGIN"
            " UPDATE change_count SET number = number + 1 WHERE noun = 'metrics'; END"
        )


def downgrade() -> None:
    """Without them."""
    op.drop_table("figure_file")
    op.drop_column("client", "brand_names")
