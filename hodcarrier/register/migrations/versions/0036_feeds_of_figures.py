"""Feeds of figures, and what registries say of domains.

Revision ID: 0036
Revises: 0035
"""

import sqlalchemy as sa
from alembic import op

revision = "0036"
down_revision = "0035"
branch_labels = None
depends_on = None


def _site(*, primary_key: bool = False) -> sa.Column[int]:
    owner = sa.ForeignKey("site.id", ondelete="CASCADE")
    return sa.Column("site_id", sa.Integer(), owner, nullable=False, primary_key=primary_key)


def _asked() -> list[sa.Column[object]]:
    """When something is asked next, and how that went last."""
    return [
        sa.Column("next_at", sa.DateTime(), nullable=False),
        sa.Column("claimed_until", sa.DateTime()),
        sa.Column("asked_at", sa.DateTime()),
        sa.Column("failures", sa.Integer(), nullable=False),
        sa.Column("error", sa.Text(), nullable=False),
    ]


def upgrade() -> None:
    """Whom to ask, and what was said."""
    op.create_table(
        "figure_feed",
        sa.Column("id", sa.Integer(), primary_key=True),
        _site(),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("url", sa.Text(), nullable=False),
        sa.Column("sealed", sa.Text(), nullable=False),
        sa.Column("kinds", sa.JSON(), nullable=False),
        sa.Column("active", sa.Boolean(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        *_asked(),
        sa.Column("went_well_at", sa.DateTime()),
        sa.Column("tag", sa.Text(), nullable=False),
        sa.Column("offers", sa.JSON(), nullable=False),
        sa.Column("progress", sa.JSON(), nullable=False),
        sa.UniqueConstraint("site_id", "url"),
    )
    op.create_index("figure_feed_due", "figure_feed", ["next_at"])
    op.create_table("domain_check", _site(primary_key=True), *_asked())
    op.create_table(
        "domain_record",
        sa.Column("id", sa.Integer(), primary_key=True),
        _site(),
        sa.Column("first_seen", sa.Date(), nullable=False),
        sa.Column("last_seen", sa.Date(), nullable=False),
        sa.Column("domain", sa.String(300), nullable=False),
        sa.Column("registrar", sa.String(300), nullable=False),
        sa.Column("created", sa.Date()),
        sa.Column("expires", sa.Date()),
        sa.Column("name_servers", sa.JSON(), nullable=False),
        sa.UniqueConstraint("site_id", "first_seen"),
    )
    for table in ("figure_feed", "domain_record", "domain_check"):
        for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
            op.execute(
                f"CREATE TRIGGER {table}_{name} AFTER {when} ON {table} BEGIN"
                " UPDATE change_count SET number = number + 1 WHERE noun = 'metrics'; END"
            )


def downgrade() -> None:
    """Without them."""
    for table in ("domain_record", "domain_check", "figure_feed"):
        op.drop_table(table)
