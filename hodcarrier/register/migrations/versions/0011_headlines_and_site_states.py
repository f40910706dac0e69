"""Lists and the desk are read from small columns: headlines on every run, a state for every site, and indexes.

Revision ID: 0011
Revises: 0010
"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

_NUMBERS = ("pages", "findings", "critical", "high", "new", "returned", "fixed")
_HEADLINES = """
UPDATE run SET examined = 1,
  pages = json_extract(summary, '$.pages_scored'), findings = json_extract(summary, '$.findings'),
  critical = coalesce(json_extract(summary, '$.severities.critical.findings'), 0),
  high = coalesce(json_extract(summary, '$.severities.high.findings'), 0),
  partial = json_extract(summary, '$.end') != 'complete', end_words = coalesce(json_extract(summary, '$.end_words'), '')
WHERE summary IS NOT NULL AND state IN ('done', 'stopped')
"""
_CHANGES = """
UPDATE run SET
  new = coalesce(json_extract(changes, '$.counts.new'), 0) + coalesce(json_extract(changes, '$.counts."new-with-page"'), 0)
    + coalesce(json_extract(changes, '$.counts."new-to-view"'), 0),
  returned = coalesce(json_extract(changes, '$.counts.returned'), 0), fixed = coalesce(json_extract(changes, '$.counts.fixed'), 0),
  comparable = CASE WHEN json_type(changes, '$.health') = 'object' THEN json_extract(changes, '$.health.change') IS NOT NULL END
WHERE changes IS NOT NULL
"""
# The runs of a competitor are those of its benchmarks.
_SHOWN = "r.site_id = site.id AND (r.purpose = 'audit' OR site.kind != 'own')"
_ENDED = "(r.examined = 1 OR r.state = 'failed')"
_STATES = f"""
INSERT INTO site_state (site_id, runs, last_id, done_id, change, line)
SELECT site.id, (SELECT count(*) FROM run r WHERE {_SHOWN} AND r.examined = 1),
  (SELECT r.id FROM run r WHERE {_SHOWN} AND {_ENDED} ORDER BY r.sequence DESC LIMIT 1),
  (SELECT r.id FROM run r WHERE {_SHOWN} AND r.examined = 1 ORDER BY r.sequence DESC LIMIT 1),
  (SELECT CASE WHEN after.base_id = before.id AND after.comparable = 0 THEN NULL ELSE round(round(after.health, 1) - round(before.health, 1), 1) END
   FROM run after, run before
   WHERE after.id = (SELECT r.id FROM run r WHERE {_SHOWN} AND r.examined = 1 ORDER BY r.sequence DESC LIMIT 1)
     AND before.id = (SELECT r.id FROM run r WHERE {_SHOWN} AND r.examined = 1 ORDER BY r.sequence DESC LIMIT 1 OFFSET 1)),
  (SELECT coalesce(json_group_array(health), '[]') FROM (SELECT health FROM (SELECT r.health, r.sequence FROM run r
    WHERE {_SHOWN} AND {_ENDED} ORDER BY r.sequence DESC LIMIT 10) ORDER BY sequence))
FROM site
"""


def upgrade() -> None:
    """Take the headlines out of what is stored in full. The table of runs is not made anew: what belongs to runs would go with the old one."""
    for name in _NUMBERS:
        op.add_column("run", sa.Column(name, sa.Integer()))
    op.add_column("run", sa.Column("examined", sa.Boolean(), nullable=False, server_default="0"))
    op.add_column("run", sa.Column("partial", sa.Boolean(), nullable=False, server_default="0"))
    op.add_column("run", sa.Column("comparable", sa.Boolean()))
    op.add_column("run", sa.Column("end_words", sa.Text(), nullable=False, server_default=""))
    op.execute(_HEADLINES)
    op.execute(_CHANGES)
    op.create_table(
        "site_state",
        sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("runs", sa.Integer(), nullable=False),
        sa.Column("last_id", sa.String(20)),
        sa.Column("done_id", sa.String(20)),
        sa.Column("change", sa.Float()),
        sa.Column("line", sa.JSON(), nullable=False),
    )
    op.execute(_STATES)
    op.create_index("run_examined", "run", ["site_id", "examined", "sequence"])
    op.create_index("run_state", "run", ["state", "sequence"])
    op.create_index("run_finished", "run", ["finished_at"])
    op.create_index("run_round", "run", ["round_id"])
    op.create_index("todo_site", "todo", ["site_id", "state"])
    op.create_index("todo_assignee", "todo", ["assignee_id", "state"])
    op.create_index("todo_event_todo", "todo_event", ["todo_id"])


def downgrade() -> None:
    """As before: all of it is in what is stored in full."""
    for name, table in (
        ("todo_event_todo", "todo_event"),
        ("todo_assignee", "todo"),
        ("todo_site", "todo"),
        ("run_round", "run"),
        ("run_finished", "run"),
        ("run_state", "run"),
        ("run_examined", "run"),
    ):
        op.drop_index(name, table)
    op.drop_table("site_state")
    for name in ("end_words", "comparable", "partial", "examined", *_NUMBERS):
        op.drop_column("run", name)
