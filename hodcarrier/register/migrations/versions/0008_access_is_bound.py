"""What opens a site is bound to the origins it was entered for; what is there already, to those its plan names now.

Revision ID: 0008
Revises: 0007
"""

import json

import sqlalchemy as sa
from alembic import op

from hodcarrier.core.web.urls import split

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bind it."""
    op.add_column("site_access", sa.Column("bound", sa.JSON(), nullable=False, server_default="{}"))
    rows = op.get_bind().execute(sa.text("SELECT site_id, plan FROM site_access JOIN site ON site.id = site_id")).all()
    for site_id, stored in rows:
        plan = json.loads(stored)
        bound = {
            "origins": list(dict.fromkeys(split(url).origin for url in plan.get("start", []))),
            "subdomains": plan.get("subdomains", False),
            "host_map": plan.get("host_map", {}),
        }
        op.get_bind().execute(
            sa.text("UPDATE site_access SET bound = :bound WHERE site_id = :site"), {"bound": json.dumps(bound), "site": site_id}
        )


def downgrade() -> None:
    """Let it go."""
    op.drop_column("site_access", "bound")
