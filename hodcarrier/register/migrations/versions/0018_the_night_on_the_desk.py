"""The desk tells what happened in the night, and comes by mail to those who want it.

Revision ID: 0018
Revises: 0017
"""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

_LATEST = "(SELECT changes FROM run WHERE run.id = site_state.done_id)"
_STATES = f"""
UPDATE site_state SET events = coalesce((SELECT json_group_array(json_object(
  'title', json_extract(value, '$.title'), 'detail', json_extract(value, '$.detail'), 'shown', json_extract(value, '$.shown')))
  FROM json_each({_LATEST}, '$.events')), '[]')
WHERE {_LATEST} IS NOT NULL
"""


def upgrade() -> None:
    """What the latest run of each site has told is on the desk at once; which checks rose comes with the next run."""
    op.add_column("site_state", sa.Column("events", sa.JSON(), nullable=False, server_default="[]"))
    op.add_column("site_state", sa.Column("rises", sa.JSON(), nullable=False, server_default="{}"))
    op.execute(_STATES)
    op.add_column("member", sa.Column("morning", sa.Boolean(), nullable=False, server_default="0"))
    op.add_column("member", sa.Column("morning_at", sa.DateTime()))
    op.create_index("todo_event_at", "todo_event", ["kind", "at"])


def downgrade() -> None:
    """What the desk told, and who wanted it by mail, is lost."""
    op.drop_index("todo_event_at", "todo_event")
    op.drop_column("member", "morning_at")
    op.drop_column("member", "morning")
    op.drop_column("site_state", "rises")
    op.drop_column("site_state", "events")
